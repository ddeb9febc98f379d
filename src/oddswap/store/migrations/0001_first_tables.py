"""First tables: coach, clients, places, programs, lines, accepted swaps. A frozen copy of the models of that day."""

import datetime as dt

from peewee import CharField, DateTimeField, FloatField, ForeignKeyField, IntegerField, TextField


def up(migrator, db):
    class Table(db.Model):
        class Meta:
            legacy_table_names = False

    class Coach(Table):
        name = CharField()

    class Client(Table):
        coach = ForeignKeyField(Coach, on_delete="CASCADE")
        name = CharField()
        stature_cm = FloatField()
        mass_kg = FloatField()
        sex = CharField()

    class Place(Table):
        coach = ForeignKeyField(Coach, on_delete="CASCADE")
        name = CharField()
        document = TextField()

    class ClientPlace(Table):
        client = ForeignKeyField(Client, on_delete="CASCADE")
        place = ForeignKeyField(Place, on_delete="CASCADE")
        position = IntegerField(default=0)

        class Meta:
            indexes = ((("client", "place"), True),)

    class Program(Table):
        client = ForeignKeyField(Client, on_delete="CASCADE")
        name = CharField()

    class Line(Table):
        program = ForeignKeyField(Program, on_delete="CASCADE")
        session = CharField()
        position = IntegerField()
        name = CharField()
        document = TextField()

    class TakenSwap(Table):
        line = ForeignKeyField(Line, on_delete="CASCADE")
        place = ForeignKeyField(Place, on_delete="CASCADE")
        document = TextField()
        taken_at = DateTimeField(default=dt.datetime.now)
        undone_at = DateTimeField(null=True)

        class Meta:
            indexes = ((("line", "place", "undone_at"), False),)

    db.create_tables([Coach, Client, Place, ClientPlace, Program, Line, TakenSwap])


def down(migrator, db):
    for name in ("taken_swap", "line", "program", "client_place", "place", "client", "coach"):
        db.execute_sql(f'DROP TABLE "{name}"')
