"""Cards that are handed to clients, and the log of what they did; coaches may have to sign in."""

import datetime as dt

from peewee import CharField, DateTimeField, FloatField, ForeignKeyField, IntegerField, TextField


def up(migrator, db):
    class Table(db.Model):
        class Meta:
            legacy_table_names = False

    class Place(Table):
        pass

    class Client(Table):
        pass

    class Coach(Table):
        pass

    class Session(Table):
        pass

    class Card(Table):
        client = ForeignKeyField(Client, on_delete="CASCADE")
        session = ForeignKeyField(Session, on_delete="CASCADE")
        place = ForeignKeyField(Place, on_delete="CASCADE")
        link_digest = CharField(unique=True)
        made_at = DateTimeField(default=dt.datetime.now)
        opened_at = DateTimeField(null=True)
        seen_revision = IntegerField(default=0)
        expires_at = DateTimeField()
        withdrawn_at = DateTimeField(null=True)

    class CardRevision(Table):
        card = ForeignKeyField(Card, on_delete="CASCADE")
        number = IntegerField()
        digest = CharField()
        document = TextField()
        made_at = DateTimeField(default=dt.datetime.now)

        class Meta:
            indexes = ((("card", "number"), True),)

    db.create_tables([Card, CardRevision, *log_tables(Table, Client), sign_ins(Table, Coach)])
    db.execute_sql('ALTER TABLE "coach" ADD COLUMN "password" TEXT')


def log_tables(Table, Client):
    class LogContext(Table):
        client = ForeignKeyField(Client, on_delete="CASCADE")
        digest = CharField()
        document = TextField()

        class Meta:
            indexes = ((("client", "digest"), True),)

    class LogEntry(Table):
        client = ForeignKeyField(Client, on_delete="CASCADE")
        key = CharField()
        kind = CharField()
        line = IntegerField(null=True)
        place = IntegerField(null=True)
        done_at = DateTimeField()
        off_s = IntegerField(default=0)
        conflicts = CharField(null=True)
        document = TextField()
        context = ForeignKeyField(LogContext, null=True, on_delete="SET NULL")
        received_at = DateTimeField(default=dt.datetime.now)

        class Meta:
            indexes = ((("client", "key"), True), (("client", "done_at"), False))

    class ItemEvidence(Table):
        client = ForeignKeyField(Client, on_delete="CASCADE")
        item = CharField()
        mean = FloatField()
        precision = FloatField()

        class Meta:
            indexes = ((("client", "item"), True),)

    return LogContext, LogEntry, ItemEvidence


def sign_ins(Table, Coach):
    class SignIn(Table):
        coach = ForeignKeyField(Coach, on_delete="CASCADE")
        digest = CharField(unique=True)
        expires_at = DateTimeField()

    return SignIn


def down(migrator, db):
    raise NotImplementedError("older programs know no log; open the copy that was kept before this step")
