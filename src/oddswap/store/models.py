"""Tables. Kit, set-ups and rooms are stored as the JSON documents of ``oddswap.documents``, read back under the same rules."""

from __future__ import annotations

import datetime as dt
from itertools import count
from typing import Any

from peewee import (
    BooleanField,
    CharField,
    DateTimeField,
    FloatField,
    ForeignKeyField,
    IntegerField,
    Model,
    SqliteDatabase,
    TextField,
)


class CountingDatabase(SqliteDatabase):
    """A database that numbers what this process writes to it, so that an answer can be kept until something was written.

    A number is set once what was written can be seen, and never twice: what is read after a number was read holds at least
    what was written up to it.
    """

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self._numbers = count(1)
        self.written = 0

    def execute_sql(self, sql: str, params: Any = None) -> Any:
        """See ``SqliteDatabase``."""
        cursor = super().execute_sql(sql, params)
        if not sql.startswith(("SELECT", "PRAGMA")):
            self.written = next(self._numbers)
        return cursor

    def commit(self) -> Any:
        """See ``SqliteDatabase``."""
        super().commit()
        self.written = next(self._numbers)


# A deferred BEGIN would lose concurrent read-modify-writes; IMMEDIATE takes the write lock first.
database = CountingDatabase(None, autoconnect=False, lock_type="IMMEDIATE")


def now() -> dt.datetime:
    """Time of day for records, UTC, without zone as SQLite stores it."""
    return dt.datetime.now(dt.UTC).replace(tzinfo=None)


class Table(Model):
    """Common base."""

    class Meta:  # noqa: D106
        database = database
        legacy_table_names = False


class Coach(Table):
    """Who works here; ``settings`` is a coach document, ``password`` the hash of one."""

    name = CharField()
    settings = TextField(null=True)
    revision = IntegerField(default=1)
    password = TextField(null=True)


class SignIn(Table):
    """A coach who signed in somewhere; of the secret only a digest is kept."""

    coach = ForeignKeyField(Coach, backref="sign_ins", on_delete="CASCADE")
    digest = CharField(unique=True)
    expires_at = DateTimeField()


class Client(Table):
    """A person who trains; ``details`` holds measured segments and ranges as JSON."""

    coach = ForeignKeyField(Coach, backref="clients", on_delete="CASCADE")
    name = CharField()
    stature_cm = FloatField()
    mass_kg = FloatField()
    sex = CharField()
    details = TextField(null=True)
    revision = IntegerField(default=1)
    put_away_at = DateTimeField(null=True)


class Place(Table):
    """Somewhere to train; ``document`` is a place document."""

    coach = ForeignKeyField(Coach, backref="places", on_delete="CASCADE")
    name = CharField()
    document = TextField()
    revision = IntegerField(default=1)
    put_away_at = DateTimeField(null=True)


class ClientPlace(Table):
    """Where a client trains, in the order the coach set."""

    client = ForeignKeyField(Client, backref="at", on_delete="CASCADE")
    place = ForeignKeyField(Place, backref="visitors", on_delete="CASCADE")
    position = IntegerField(default=0)

    class Meta:  # noqa: D106
        indexes = ((("client", "place"), True),)


class Program(Table):
    """A client's program; ``weeks`` are those of its block, documents in a list."""

    client = ForeignKeyField(Client, backref="programs", on_delete="CASCADE")
    name = CharField()
    note = TextField(default="")
    weeks = TextField(default="[]")
    starts = CharField(default="")
    revision = IntegerField(default=1)
    put_away_at = DateTimeField(null=True)


class Session(Table):
    """One session of a program, in its order; what was removed stays until its program goes, so that it can come back."""

    program = ForeignKeyField(Program, backref="sessions", on_delete="CASCADE")
    position = IntegerField()
    name = CharField()
    removed_at = DateTimeField(null=True)


class Line(Table):
    """One prescribed exercise; ``document`` is a line document. ``position`` counts through the whole program."""

    program = ForeignKeyField(Program, backref="lines", on_delete="CASCADE")
    session = ForeignKeyField(Session, backref="lines", on_delete="CASCADE", null=True)
    position = IntegerField()
    name = CharField()
    document = TextField()
    removed_at = DateTimeField(null=True)


class AcceptedSwap(Table):
    """A swap that was accepted; ``document`` is an accepted document, ``match_now`` its match today where it is stale.

    The newest row of a line and place that is not undone is the one in force. What is ``locked`` stays where a board is filled
    anew."""

    line = ForeignKeyField(Line, backref="accepted", on_delete="CASCADE")
    place = ForeignKeyField(Place, backref="accepted", on_delete="CASCADE")
    document = TextField()
    match_now = FloatField(null=True)
    locked = BooleanField(default=False)
    accepted_at = DateTimeField(default=now)
    undone_at = DateTimeField(null=True)

    class Meta:  # noqa: D106
        indexes = ((("line", "place", "undone_at"), False),)


class ReachMap(Table):
    """A reach map that was computed, and a digest of what it was computed from."""

    client = ForeignKeyField(Client, backref="maps", on_delete="CASCADE")
    place = ForeignKeyField(Place, backref="maps", on_delete="CASCADE")
    digest = TextField()
    document = TextField()

    class Meta:  # noqa: D106
        indexes = ((("client", "place"), True),)


class Measurement(Table):
    """A measuring run with its raw readings, of a place's item or a client's joint; ``document`` is a run document."""

    place = ForeignKeyField(Place, backref="measurements", null=True, on_delete="CASCADE")
    client = ForeignKeyField(Client, backref="measurements", null=True, on_delete="CASCADE")
    item = CharField()
    document = TextField()
    revision = IntegerField(default=1)
    begun_at = DateTimeField(default=now)
    changed_at = DateTimeField(default=now)


class Edit(Table):
    """One change of a record, ``kind`` and ``number``: its document before and after, as JSON."""

    kind = CharField()
    number = IntegerField()
    before = TextField()
    after = TextField()
    made_at = DateTimeField(default=now)
    undone_at = DateTimeField(null=True)

    class Meta:  # noqa: D106
        indexes = ((("kind", "number"), False),)


class Creation(Table):
    """A record that was made under a key of its maker's, so that the same request twice makes one."""

    key = CharField(unique=True)
    kind = CharField()
    number = IntegerField()
    made_at = DateTimeField(default=now)


class Card(Table):
    """A session that was handed to a client by a link; of the link only a digest is kept."""

    client = ForeignKeyField(Client, backref="cards", on_delete="CASCADE")
    session = ForeignKeyField(Session, backref="cards", on_delete="CASCADE")
    place = ForeignKeyField(Place, backref="cards", on_delete="CASCADE")
    link_digest = CharField(unique=True)
    made_at = DateTimeField(default=now)
    opened_at = DateTimeField(null=True)
    seen_revision = IntegerField(default=0)
    expires_at = DateTimeField()
    withdrawn_at = DateTimeField(null=True)


class CardRevision(Table):
    """What a card said at a time; ``document`` is a card document, ``digest`` names what it was made of."""

    card = ForeignKeyField(Card, backref="revisions", on_delete="CASCADE")
    number = IntegerField()
    digest = CharField()
    document = TextField()
    made_at = DateTimeField(default=now)

    class Meta:  # noqa: D106
        indexes = ((("card", "number"), True),)


class LogContext(Table):
    """What sets of a client were done by then, a context document: many sets share one."""

    client = ForeignKeyField(Client, backref="contexts", on_delete="CASCADE")
    digest = CharField()
    document = TextField()

    class Meta:  # noqa: D106
        indexes = ((("client", "digest"), True),)


class LogEntry(Table):
    """One thing that was noted; never changed. ``document`` is an entry document.

    Line and place are numbers without a hold on their records: what was logged outlives both."""

    client = ForeignKeyField(Client, backref="entries", on_delete="CASCADE")
    key = CharField()
    kind = CharField()
    line = IntegerField(null=True)
    place = IntegerField(null=True)
    done_at = DateTimeField()
    off_s = IntegerField(default=0)
    conflicts = CharField(null=True)
    document = TextField()
    context = ForeignKeyField(LogContext, null=True, on_delete="SET NULL")
    received_at = DateTimeField(default=now)

    class Meta:  # noqa: D106
        indexes = ((("client", "key"), True), (("client", "done_at"), False))


class ItemEvidence(Table):
    """What one client's log says of a kit item, without any prior belief: mean and precision of a logarithm."""

    client = ForeignKeyField(Client, backref="evidence", on_delete="CASCADE")
    item = CharField()
    mean = FloatField()
    precision = FloatField()

    class Meta:  # noqa: D106
        indexes = ((("client", "item"), True),)


TABLES = [
    Coach, Client, Place, ClientPlace, Program, Session, Line, AcceptedSwap, ReachMap, Measurement, Edit, Creation, Card,
    CardRevision, LogContext, LogEntry, ItemEvidence, SignIn,
]  # fmt: skip
