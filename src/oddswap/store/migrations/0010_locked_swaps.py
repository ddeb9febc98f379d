"""A swap may be locked, so that it stays where a board is filled anew."""


def up(migrator, db):
    db.execute_sql('ALTER TABLE "accepted_swap" ADD COLUMN "locked" INTEGER NOT NULL DEFAULT 0')


def down(migrator, db):
    raise NotImplementedError("older programs know no locks; open the copy that was kept before this step")
