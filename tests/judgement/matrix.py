"""Lines as coaches write them at many places, and which of them a strict coach would send: common practice, no source."""

from __future__ import annotations

import re
import tomllib
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from functools import cache
from pathlib import Path
from typing import Any

import numpy as np

from oddswap.coaching.library import BAR, COLUMN, example
from oddswap.documents.place import PlaceDoc
from oddswap.equipment.barbell import BarbellHold
from oddswap.equipment.base.law import Attachment
from oddswap.equipment.base.setting import Setting
from oddswap.equipment.cable import CablePull
from oddswap.equipment.dumbbell import DumbbellHold
from oddswap.equipment.machine import Machine, MachineHold
from oddswap.equivalence.candidates import Swap, set_up_title, words_of
from oddswap.equivalence.lenses import lens_by_id
from oddswap.equivalence.prescription import Place, PrescribedLine, PrescriptionProfile, profile_prescription
from oddswap.equivalence.search import find_swaps
from oddswap.equivalence.set_effort import set_effort
from oddswap.equivalence.set_up import SetUp
from oddswap.errors import DomainError
from oddswap.exercises import movement
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Movement, Variant
from offered import PLACES, demo_place

HERE = Path(__file__).parent
CLIENTS = {
    "a beginner, 58 kg": Body(1.62, 58, "female"),
    "a man of 82 kg": Body(1.80, 82, "male"),
    "a man of 97 kg": Body(1.91, 97, "male"),
}
LAT = replace(COLUMN, name="lat station", overhang_cm=45.0)
LAST = 5
"""Places of a list among which what must never be is looked for."""
REPS = (8, 12, 2)
WORKING = 1 / (1 + (REPS[1] + REPS[2]) / 30)
"""Effort that a set of so many repetitions ends at (Epley 1985)."""
PINS = tuple(2.0 * k for k in range(1, 101))
"""Loads that a line may be written with, kg."""
MOST = {"bar": 180.0, "dumbbells": 50.0, "dumbbell": 40.0, "machine": 200.0}
"""The most that gyms have of each, kg; of a pin 100."""


@dataclass(frozen=True)
class Line:
    """A line of the matrix, and its family's expectations."""

    name: str
    target: str
    movement: str
    variant: Variant
    kit: Any
    family: dict[str, Any]

    def prescribed(self, body: Body) -> PrescriptionProfile:
        """Written for a client, with a load that suits them."""
        kind = movement(self.movement)
        low, high, rir = REPS
        return profile_prescription(PrescribedLine(self.target, self._set_up(body, kind), 3, low, high, rir), body)

    def _set_up(self, body: Body, kind: Movement) -> SetUp:
        v = self.variant
        bare = SetUp(kind.id, (), v.values, v.stance, v.recline_deg, 45.0, v.pad)
        if self.kit == "body":
            return bare
        if self.kit == "cable":
            return example(body, kind, v, self.kit).set_up
        support = kind.support(v.values)
        held: Setting
        if isinstance(self.kit, list):
            height, ahead, right, use = self.kit
            column = LAT if height > 220 else COLUMN
            at = Attachment() if support.contact == "hand" else Attachment(support.contact)
            held = CablePull(column, 1 + round((height - 10) / 10), ahead, right, 10.0, use, at)
        elif self.kit == "bar":
            held = BarbellHold(BAR, 20.0, carried=support.contact in ("back", "hips"))
        elif self.kit == "machine":
            path = support.contact in ("foot", "back", "hips") or kind.led or kind.id == "kneeling_crunch"
            guide: Any = "rail" if kind.id == "leg_press" else "path" if path else "axis"
            machine = Machine("machine", "machine", kind.id, list(PINS), guide, radius_cm=20.0)
            held = MachineHold(machine, PINS[0], "one" if support.one_side else "both")
        else:
            held = DumbbellHold(10.0, "one" if self.kit == "dumbbell" else "both")
        most = MOST.get(self.kit if isinstance(self.kit, str) else "", 100.0)
        return load_for(
            body, replace(bare, sources=(held,)), [a for a in (BAR.amounts() if self.kit == "bar" else PINS) if a <= most]
        )


def load_for(body: Body, set_up: SetUp, amounts: Sequence[float]) -> SetUp:
    """A set-up at the load at which its set ends after the line's repetitions and reserve, as coaches find it by trying."""
    ladder = np.array(amounts)
    low, high = 0, len(ladder) - 1
    while low < high:
        middle = (low + high + 1) // 2
        try:
            asked = set_effort(
                p := replace(set_up, sources=(set_up.sources[0].with_amount(float(ladder[middle])),)), p.perform(body)
            )
        except DomainError:
            high = middle - 1
            continue
        low, high = (middle, high) if asked.hardest[1] <= WORKING else (low, middle - 1)
    return set_up.with_amount(float(ladder[low]))


@cache
def lines() -> list[Line]:
    """All lines."""
    data = tomllib.loads((HERE / "lines.toml").read_text())
    out = []
    for name, family, target, kind, stance, recline, values, kit in data["lines"]["rows"]:
        pad = stance == "pad"
        complete = movement(kind).complete(values)
        variant = Variant(complete, "standing" if pad else stance, 90.0 if pad else recline, pad)
        out.append(Line(name, target, kind, variant, kit, data["family"][family]))
    return out


@cache
def places() -> dict[str, Place]:
    """The demo's places, and those of ``places.toml``."""
    out = {name: demo_place(name) for name in PLACES}
    for name, data in tomllib.loads((HERE / "places.toml").read_text()).items():
        pins = {"kind": "machine", "masses_kg": [5.0 * k for k in range(1, 41)]}
        machines = [pins | m | {"id": m["movement"], "name": m["movement"].replace("_", " ")} for m in data.get("machines", [])]
        kit = [*data["kit"], *machines]
        out[name] = PlaceDoc.model_validate({"name": data["name"], "room": data["room"], "kit": kit}).place()
    return out


@dataclass(frozen=True)
class Verdict:
    """What a strict coach says of one list."""

    line: str
    target: str
    client: str
    place: str
    faults: list[str]
    """What is wrong with the list, its first swap first."""
    listed: tuple[str, ...] = ()
    """What was offered, in order."""
    best: float = 0.0
    """The highest match among it."""

    @property
    def first(self) -> bool:
        """Whether the first swap may be sent."""
        return not any(f.startswith("first") for f in self.faults)

    @property
    def three(self) -> bool:
        """Whether one of the first three may be sent."""
        return not any(f.startswith("none of three") for f in self.faults)


def said(swap: Swap) -> str:
    """Title with kinds of load, as expressions are read against."""
    kinds = "+".join(s.kind for s in swap.set_up.sources) or "bodyweight"
    return f"{set_up_title(swap.set_up, swap.variant)} [{kinds}]".lower()


def has(place: Place, needs: Sequence[str]) -> bool:
    """Whether a place has some of the kit."""
    return "any" in needs or any(k.kind in needs for k in place.kit)


def judge(line: Line, client: str, place_name: str) -> Verdict | None:
    """A coach's word on a line at a place; None where it cannot be written for this client, or nothing there would do."""
    place, body, family = places()[place_name], CLIENTS[client], line.family
    try:
        prescription = line.prescribed(body)
    except DomainError:
        return None
    try:
        swaps = find_swaps(prescription, place, lens_by_id("same_profile"))
    except DomainError as error:
        # Nothing is right where what it takes is not there, or is far too light.
        if not has(place, family["needs"]) or "repetitions" in error.limit:
            return None
        return Verdict(line.name, line.target, client, place_name, [f"first: nothing offered: {error.limit}", "none of three"])
    assert len({words_of(s) for s in swaps}) == len(swaps), "a candidate is one thing that a client can tell from another"
    words, faults = [said(s) for s in swaps], []
    good = [bool(re.search(family["first"], w)) for w in words]
    if not good[0]:
        faults.append(f"first is {words[0]} ({swaps[0].match:.0f})")
    if not any(good[:3]):
        faults.append(f"none of three: {'; '.join(words[:3])}")
    faults += [f"never: {w}" for w in words[:LAST] if re.search(family["never"], w)]
    faults += [f"reps: {w}" for w, s in zip(words, swaps, strict=True) if s.load.reps_high < 4 or s.load.reps_low > 30]
    # What the place does the line's own way on the same kind of kit stands first.
    own = {s.kind for s in prescription.line.set_up.sources}
    same = [i for i, s in enumerate(swaps) if s.set_up.movement == line.movement and {k.kind for k in s.set_up.sources} == own]
    if same and swaps[0].set_up.movement != line.movement:
        faults.append(f"first is {words[0]} ({swaps[0].match:.0f}) before {words[same[0]]} ({swaps[same[0]].match:.0f})")
    best = max(s.match for s in swaps)
    return Verdict(line.name, line.target, client, place_name, faults, tuple(words), best)


def cells() -> Iterator[tuple[Line, str, str]]:
    """Every line at every place, its client by turns."""
    clients = list(CLIENTS)
    for i, line in enumerate(lines()):
        for j, place in enumerate(places()):
            yield line, clients[(i + j) % len(clients)], place
