"""Sessions become records, so that two may have one name; everything a coach edits has a revision, a history and a way back."""

import datetime as dt

from peewee import CharField, DateTimeField, ForeignKeyField, IntegerField, TextField


def up(migrator, db):
    class Table(db.Model):
        class Meta:
            legacy_table_names = False

    class Program(Table):
        pass

    class Session(Table):
        program = ForeignKeyField(Program, on_delete="CASCADE")
        position = IntegerField()
        name = CharField()
        removed_at = DateTimeField(null=True)

    class Edit(Table):
        kind = CharField()
        number = IntegerField()
        before = TextField()
        after = TextField()
        made_at = DateTimeField(default=dt.datetime.now)
        undone_at = DateTimeField(null=True)

        class Meta:
            indexes = ((("kind", "number"), False),)

    class Creation(Table):
        key = CharField(unique=True)
        kind = CharField()
        number = IntegerField()
        made_at = DateTimeField(default=dt.datetime.now)

    db.create_tables([Session, Edit, Creation])
    for table in ("client", "place", "program"):
        db.execute_sql(f'ALTER TABLE "{table}" ADD COLUMN "revision" INTEGER NOT NULL DEFAULT 1')
        db.execute_sql(f'ALTER TABLE "{table}" ADD COLUMN "put_away_at" DATETIME')
    db.execute_sql('ALTER TABLE "line" ADD COLUMN "removed_at" DATETIME')
    db.execute_sql('ALTER TABLE "line" ADD COLUMN "session_id" INTEGER REFERENCES "session" ("id") ON DELETE CASCADE')
    rows = db.execute_sql('SELECT "id", "program_id", "session" FROM "line" ORDER BY "program_id", "position"').fetchall()
    last, held, position = None, 0, 0
    for number, program, name in rows:
        if (program, name) != last:
            position = position + 1 if last is not None and last[0] == program else 0
            held = db.execute_sql(
                'INSERT INTO "session" ("program_id", "position", "name") VALUES (?, ?, ?)', (program, position, name)
            ).lastrowid
            last = (program, name)
        db.execute_sql('UPDATE "line" SET "session_id" = ? WHERE "id" = ?', (held, number))
    db.execute_sql('ALTER TABLE "line" DROP COLUMN "session"')


def down(migrator, db):
    raise NotImplementedError("older programs know no sessions; open the copy that was kept before this step")
