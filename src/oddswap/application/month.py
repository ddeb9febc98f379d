"""Let weeks pass on demo data: a simulated client trains by the cards' advice, and logs it."""

from __future__ import annotations

import datetime as dt
import random
import uuid
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from oddswap.application.cards import build_card
from oddswap.application.lessons import advise, day_of, learn_anew, open_book
from oddswap.devices.simulated_client import Effort, SimulatedClient
from oddswap.documents.card import CardDoc, CardLiftDoc
from oddswap.documents.log import EntryDoc, LoggedSetDoc
from oddswap.documents.log_context import ContextDoc
from oddswap.store import log, records, swaps
from oddswap.store.models import now
from oddswap.training_log.sets import written_strength


@dataclass(frozen=True)
class Passed:
    """What came of some weeks.

    Args:
        sessions: That were done.
        sets: That were logged.
        missed: Sessions that were missed.
    """

    sessions: int
    sets: int
    missed: int


def let_weeks_pass(client: int, weeks: int = 4, seed: int | None = None) -> Passed:
    """Sessions that have swaps at a place, each once a week, logged as a simulated client does them.

    Args:
        client: Whose.
        weeks: How many.
        seed: Of the simulated client; None for the client's own number.
    """
    person = SimulatedClient(seed=client if seed is None else seed)
    cards = _cards(client)
    done = sets = missed = 0
    begun = _begin(client, weeks)
    logged = log.entries(client)
    epoch = min(logged[0].done_at, begun) if logged else begun
    order = random.Random(client)  # not for anything secret
    for week in range(weeks):
        for i, (place, card) in enumerate(cards):
            time = begun + dt.timedelta(days=7 * week + i * (7 / max(len(cards), 1)), hours=order.uniform(-1.5, 1.5))
            if time > now():
                continue
            if not person.comes():
                missed += 1
                continue
            done += 1
            entries = [e for lift in card.lifts for e in _lift_done(client, person, card, lift, time, place, epoch)]
            weighed = EntryDoc(id=_id(client, time, 0, 0), kind="weight", at=time.replace(tzinfo=dt.UTC), device="simulated",
                               mass_kg=round(float(np.clip(_mass(client) + order.gauss(0, 0.4), 30, 250)), 1))  # fmt: skip
            log.append(client, [*entries, log.NewEntry(weighed, time)])
            sets += len(entries)
    learn_anew(client)
    return Passed(done, sets, missed)


def _mass(client: int) -> float:
    return records.client(client).document.mass_kg


def _begin(client: int, weeks: int) -> dt.datetime:
    """So that the last week is this one; where these weeks are in the log already, so that they come before it."""
    wanted = now() - dt.timedelta(days=7 * weeks)
    every = log.entries(client)
    if not every or every[-1].done_at < wanted:
        return wanted
    return every[0].done_at - dt.timedelta(days=7 * weeks + 1)


def _cards(client: int) -> list[tuple[int, CardDoc]]:
    """A card for every session and place with swaps, by turns."""
    record = records.client(client)
    out = []
    for program in record.programs:
        numbers = [line.id for line in program.lines]
        where = {(line.session_id, s.place) for s in swaps.accepted(numbers) for line in program.lines if line.id == s.line}
        out += [(place, build_card(session, place)) for session, place in sorted(where)]
    return out


def _lift_done(
    client: int, person: SimulatedClient, card: CardDoc, lift: CardLiftDoc, time: dt.datetime, place: int, epoch: dt.datetime
) -> Sequence[log.NewEntry]:
    way = lift.ways[0]
    basis, book = way.basis, open_book(client, time)
    case, advice = advise(book, lift.line, basis, [a.amount for a in way.amounts], day_of(time))
    context = ContextDoc(line_name=lift.name, session=card.session, title=way.title, kit=way.kit, place_name=card.place,
                         revision=card.revision, basis=basis)  # fmt: skip
    out, target = [], case.target_at(advice.amount) if case.sets else case.restated(advice.amount)
    for k in range(lift.sets):
        effort = Effort(
            str(lift.line), basis.family, basis.items, basis.own, basis.scale().ratio_at(advice.amount),
            written_strength(basis.written(), basis.law), target.low, max(target.high, advice.reps), basis.rir, k,
        )  # fmt: skip
        came = person.does((time - epoch).days, effort)
        at = time + dt.timedelta(minutes=3 * k)
        note = EntryDoc(
            id=_id(client, time, lift.line, k + 1), kind="set", at=at.replace(tzinfo=dt.UTC), device="simulated",
            line=lift.line, order=k, set=LoggedSetDoc(amount=advice.amount, reps=came.reps, rir=came.reserve,
                                left=came.reps if lift.each_side else None, right=came.reps if lift.each_side else None),
        )  # fmt: skip
        out.append(log.NewEntry(note, at, 0, context, place))
    return out


def _id(client: int, time: dt.datetime, line: int, k: int) -> str:
    return str(uuid.uuid5(uuid.NAMESPACE_OID, f"{client} {time.isoformat()} {line} {k}"))
