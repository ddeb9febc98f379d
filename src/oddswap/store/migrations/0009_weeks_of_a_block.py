"""A program has weeks, and a day that the first of them begins."""


def up(migrator, db):
    db.execute_sql('ALTER TABLE "program" ADD COLUMN "weeks" TEXT NOT NULL DEFAULT \'[]\'')
    db.execute_sql('ALTER TABLE "program" ADD COLUMN "starts" TEXT NOT NULL DEFAULT \'\'')


def down(migrator, db):
    raise NotImplementedError("older programs know no weeks; open the copy that was kept before this step")
