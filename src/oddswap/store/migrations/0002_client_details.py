"""A client's own measures: segments and joint ranges, as JSON."""


def up(migrator, db):
    db.execute_sql('ALTER TABLE "client" ADD COLUMN "details" TEXT')


def down(migrator, db):
    db.execute_sql('ALTER TABLE "client" DROP COLUMN "details"')
