"""What a strict coach would send, line by line and place by place: common practice, no source.

``make judge`` runs the whole matrix; every run looks at a spread of it.
"""

from __future__ import annotations

from collections import defaultdict
from concurrent.futures import ProcessPoolExecutor

import pytest
from matrix import CLIENTS, Verdict, cells, judge, lines, places, said

from oddswap.equivalence.candidates import Swap
from oddswap.equivalence.first_look import take_first_look
from oddswap.equivalence.lenses import lens_by_id
from oddswap.errors import DomainError

FIRST, THREE = 0.90, 0.98
"""Parts of all lists of which the first swap, and one of the first three, may be sent."""
AT_A_LOOK = 0.6
"""Part of first looks at a place that a search puts among its first three."""
SPREAD = 7
"""In every run each line so many times two on at a place, each place from another line on."""


def shares(verdicts: list[Verdict]) -> tuple[float, float]:
    """Parts of the lists that are met by their first swap, and by one of their first three."""
    return sum(v.first for v in verdicts) / len(verdicts), sum(v.three for v in verdicts) / len(verdicts)


def report(verdicts: list[Verdict]) -> str:
    """Shares by muscle and place, and what was wrong."""
    out = []
    for title, key in (("muscle", lambda v: v.target), ("place", lambda v: v.place)):
        by: dict[str, list[Verdict]] = defaultdict(list)
        for v in verdicts:
            by[key(v)].append(v)
        for name, of in by.items():
            first, three = shares(of)
            out.append(f"{title} {name}: {first:.0%} first, {three:.0%} three of {len(of)}")
    out += [f"{v.line} @ {v.place}, {v.client}: {'; '.join(v.faults)}" for v in verdicts if v.faults]
    return "\n".join(out)


def looked_at() -> list[tuple[str, list[tuple[int, str, str]]]]:
    """By place, lines by number with client and place; one client a place, whose table they share."""
    out = []
    for j, place in enumerate(places()):
        client = list(CLIENTS)[j % len(CLIENTS)]
        out.append((place, [(i, client, place) for i in range(j % SPREAD, len(lines()), SPREAD * 2)]))
    return out


@pytest.mark.parametrize(("place", "asked"), looked_at(), ids=lambda v: v if isinstance(v, str) else "")
def test_a_strict_coach_would_send_what_stands_first(place, asked):
    every = [judge(lines()[i], client, where) for i, client, where in asked]
    verdicts = [v for v in every if v is not None]
    assert len(verdicts) >= 3
    first, three = shares(verdicts)
    # Of so few one may differ.
    assert first >= 1 - 1.01 / len(verdicts), report(verdicts)
    assert three >= 1 - 1.01 / len(verdicts), report(verdicts)
    looks = [(v, look_at(i, client, where)) for v, (i, client, where) in zip(every, asked, strict=True) if v and v.listed]
    seen = [(v, look) for v, look in looks if look is not None]
    # A first look is no guess at random: most often what a search puts among its first, and never better than its best.
    among = sum(said(look) in v.listed[:3] for v, look in seen)
    assert among >= AT_A_LOOK * len(looks), [(v.line, v.listed[0], look and said(look)) for v, look in looks]
    assert all(look.match <= v.best + 1.0 for v, look in seen), [(v.line, v.best, look.match, said(look)) for v, look in seen]


def look_at(line: int, client: str, place: str) -> Swap | None:
    try:
        return take_first_look(lines()[line].prescribed(CLIENTS[client]), places()[place], lens_by_id("same_profile")).first
    except DomainError:
        return None


def _judge(cell: tuple[int, str, str]) -> Verdict | None:
    return judge(lines()[cell[0]], *cell[1:])


@pytest.mark.judge
def test_the_whole_matrix_meets_its_floors():
    numbers = {line.name: i for i, line in enumerate(lines())}
    asked = sorted(((numbers[line.name], client, place) for line, client, place in cells()), key=lambda c: c[1:])
    with ProcessPoolExecutor(2) as pool:
        verdicts = [v for v in pool.map(_judge, asked, chunksize=40) if v is not None]
    assert len(verdicts) > 0.8 * len(asked)
    print(report(verdicts))
    first, three = shares(verdicts)
    print(f"{len(verdicts)} lists: {first:.1%} first, {three:.1%} one of three")
    assert first >= FIRST, report(verdicts)
    assert three >= THREE, report(verdicts)
