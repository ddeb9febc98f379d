"""Programs have notes, a coach's settings revisions; the raw readings of a measuring run are kept, so that it can go on."""

import datetime as dt

from peewee import CharField, DateTimeField, ForeignKeyField, IntegerField, TextField


def up(migrator, db):
    class Table(db.Model):
        class Meta:
            legacy_table_names = False

    class Place(Table):
        pass

    class Client(Table):
        pass

    class Measurement(Table):
        place = ForeignKeyField(Place, null=True, on_delete="CASCADE")
        client = ForeignKeyField(Client, null=True, on_delete="CASCADE")
        item = CharField()
        document = TextField()
        revision = IntegerField(default=1)
        begun_at = DateTimeField(default=dt.datetime.now)
        changed_at = DateTimeField(default=dt.datetime.now)

    db.create_tables([Measurement])
    db.execute_sql('ALTER TABLE "program" ADD COLUMN "note" TEXT NOT NULL DEFAULT \'\'')
    db.execute_sql('ALTER TABLE "coach" ADD COLUMN "revision" INTEGER NOT NULL DEFAULT 1')


def down(migrator, db):
    raise NotImplementedError("older programs know no notes; open the copy that was kept before this step")
