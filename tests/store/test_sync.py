"""Phones that are offline for days, send twice, have wrong clocks and fix the same set: every set is there exactly once."""

from __future__ import annotations

import datetime as dt
import tempfile
import uuid
from pathlib import Path

import pytest
from hypothesis import HealthCheck, settings
from hypothesis import strategies as st
from hypothesis.stateful import Bundle, RuleBasedStateMachine, consumes, initialize, invariant, rule

from oddswap.documents.log import EntryDoc, LoggedSetDoc
from oddswap.store import log, records
from oddswap.store.demo import load_demo
from oddswap.store.models import LogContext, LogEntry, database
from oddswap.store.opening import connected, open_store

BASE = dt.datetime(2026, 3, 2, 17, 30, tzinfo=dt.UTC)


def entry(reps, moment=BASE, replaces=None, kind="set", **more):
    made = {"set": LoggedSetDoc(amount=10.0, reps=reps)} if kind == "set" else {}
    return EntryDoc(
        id=str(uuid.uuid4()), kind=kind, at=moment, line=1 if kind == "set" else None, replaces=replaces, **(made | more)
    )


def new(document, off_s=0):
    return log.NewEntry(document, (document.at - dt.timedelta(seconds=off_s)).replace(tzinfo=None), off_s)


class Sync(RuleBasedStateMachine):
    """Two phones with their own outboxes and clocks against one server that may die while it stores."""

    outboxes = Bundle("outboxes")

    @initialize()
    def begin(self):
        self.folder = tempfile.TemporaryDirectory()
        open_store(Path(self.folder.name) / "t.db")
        load_demo()
        with connected():
            self.client = records.client_ids()[0]
        self.noted: dict[str, EntryDoc] = {}
        self.reached: set[str] = set()
        self.waiting: dict[int, list[EntryDoc]] = {0: [], 1: []}
        self.clock = {0: 0, 1: 86_400}

    @rule(phone=st.integers(0, 1), reps=st.integers(1, 30), minutes=st.integers(0, 5000))
    def note_a_set(self, phone, reps, minutes):
        made = entry(reps, BASE + dt.timedelta(minutes=minutes, seconds=self.clock[phone]), device=f"phone {phone}")
        self.noted[made.id] = made
        self.waiting[phone].append(made)

    @rule(phone=st.integers(0, 1), data=st.data(), reps=st.integers(1, 30))
    def fix_or_take_back(self, phone, data, reps):
        if not self.noted:
            return
        target = data.draw(st.sampled_from(sorted(self.noted)))
        kind = data.draw(st.sampled_from(["set", "withdrawn"]))
        made = entry(reps, BASE + dt.timedelta(days=1), target, kind, device=f"phone {phone}")
        self.noted[made.id] = made
        self.waiting[phone].append(made)

    @rule(target=outboxes, phone=st.integers(0, 1))
    def send(self, phone):
        """The answer may be lost: what was sent stays in the outbox until the phone knows."""
        batch = list(self.waiting[phone])
        with connected():
            kept = log.append(self.client, [new(e, self.clock[phone]) for e in batch])
        self.reached |= set(kept)
        return phone, batch

    @rule(sent=consumes(outboxes))
    def hear_the_answer(self, sent):
        phone, batch = sent
        self.waiting[phone] = [e for e in self.waiting[phone] if e not in batch]

    @rule(sent=outboxes)
    def send_the_same_again(self, sent):
        phone, batch = sent
        with connected():
            log.append(self.client, [new(e, self.clock[phone]) for e in batch])

    @rule(phone=st.integers(0, 1), step=st.integers(0, 5))
    def die_in_the_middle(self, phone, step):
        batch = self.waiting[phone]
        if step >= len(batch):
            return

        def dying():
            for i, e in enumerate(batch):
                if i == step:
                    raise KeyboardInterrupt
                yield new(e, self.clock[phone])

        with connected(), pytest.raises(KeyboardInterrupt):
            log.append(self.client, dying())  # type: ignore[arg-type]

    @invariant()
    def every_set_is_there_exactly_once(self):
        if not hasattr(self, "client"):
            return
        with connected():
            there = log.entries(self.client)
        keys = [e.key for e in there]
        assert sorted(keys) == sorted(set(keys))
        assert set(keys) == self.reached
        for e in there:
            assert e.document == self.noted[e.key]
            assert abs((e.done_at - BASE.replace(tzinfo=None)).days) < 6
        counted = {e.key for e in log.in_force(there)}
        # By hand: what nothing that holds stands for, is no withdrawal, and lost to no later fix of the same.
        by_target: dict[str, list[log.Entry]] = {}
        for e in there:
            if e.document.replaces:
                by_target.setdefault(e.document.replaces, []).append(e)

        def holds(key):
            return not any(holds(x.key) for x in by_target.get(key, ()))

        for e in there:
            if e.document.kind == "set" and e.document.replaces is None:
                assert (e.key in counted) == holds(e.key)
        fixes = [k for k, several in by_target.items() if sum(x.key in counted for x in several) > 1]
        assert fixes == []

    def teardown(self):
        if not database.is_closed():
            database.close()
        if hasattr(self, "folder"):
            self.folder.cleanup()


TestSync = Sync.TestCase
TestSync.settings = settings(
    max_examples=15, stateful_step_count=25, deadline=None, suppress_health_check=list(HealthCheck)
)  # fmt: skip


def test_one_id_with_two_texts_is_kept_twice_and_told(store):
    with connected():
        client = records.client_ids()[0]
        one = entry(12)
        other = one.model_copy(update={"set": LoggedSetDoc(amount=10.0, reps=21)})
        for sent in ([one], [other], [other], [one]):
            log.append(client, [new(e) for e in sent])
        there = log.entries(client)
        assert [e.document.set.reps for e in there] == [12, 21]
        assert [e.document.set.reps for e in log.in_force(there)] == [12]
        assert [e.document.set.reps for e in log.in_conflict(there)] == [21]


def test_two_fixes_of_one_set_are_both_told_and_one_counts(store):
    with connected():
        client = records.client_ids()[0]
        first = entry(12)
        fixes = [entry(reps, replaces=first.id, moment=BASE + dt.timedelta(minutes=reps)) for reps in (13, 14)]
        log.append(client, [new(e) for e in (first, *fixes)])
        there = log.entries(client)
        assert [e.document.set.reps for e in log.in_force(there)] == [14]
        assert sorted(e.document.set.reps for e in log.in_conflict(there)) == [13, 14]
        # Taking back what was taken back brings it again.
        gone = entry(0, kind="withdrawn", replaces=fixes[1].id)
        back = entry(0, kind="withdrawn", replaces=gone.id)
        log.append(client, [new(gone)])
        assert [e.document.set.reps for e in log.in_force(log.entries(client))] == [13]
        log.append(client, [new(back)])
        assert [e.document.set.reps for e in log.in_force(log.entries(client))] == [14]


def test_a_client_deleted_for_good_takes_the_log_along(store):
    from oddswap.store import editing

    with connected():
        client = records.client_ids()[0]
        log.append(client, [new(entry(12))])
        editing.put_away("client", client, None)
        editing.delete_for_good("client", client)
        assert LogEntry.select().count() == LogContext.select().count() == 0
