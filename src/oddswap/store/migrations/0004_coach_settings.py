"""What a coach set for all clients: the lens to start with and own weights of its parts, as JSON."""


def up(migrator, db):
    db.execute_sql('ALTER TABLE "coach" ADD COLUMN "settings" TEXT')


def down(migrator, db):
    db.execute_sql('ALTER TABLE "coach" DROP COLUMN "settings"')
