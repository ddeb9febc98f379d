"""A line as coaches write it on paper, read: ``incline db press 30 4x8-10 @1 14kg``.

Figures are read by a grammar (``data/shorthand.lark``), words by the vocabulary. What is not understood is said, with its place
in the text; nothing is guessed in silence.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cache
from importlib.resources import files
from typing import Any

from lark import Lark, Token, UnexpectedInput

from oddswap.coaching.holds import bar_clears
from oddswap.coaching.library import BAR, kits_of
from oddswap.coaching.machines import machine_ways
from oddswap.exercises import movement
from oddswap.mechanics.movement import NOTCHES, PADS, Movement, Variant
from oddswap.mechanics.stance import ONE_HANDED
from oddswap.planning.schemes import by_percent, text_of, with_back_off, with_figure
from oddswap.planning.vocabulary import PIECE, Lift, Phrase, Word, fold, phrase, vocabulary
from oddswap.planning.written import Reading, Span, Written
from oddswap.quantities import SIZES, units_shown

UPRIGHT, INCLINE = 85.0, 30.0
"""Back rests, degrees, where a line says seated or incline and no angle: common practice, no source."""
GRIPS = {"neutral": 0.0, "underhand": -80.0, "overhand": 60.0}
"""Forearm rotation, degrees: common practice, no source."""
WEIGHTED_APART = ("cable", "landmine")
"""Kit whose load says nothing of whether it is a bar's or dumbbells'."""
WIDTHS = {"wide": 1.0, "close": 0.0}
FLARES = {"wide": 80.0, "close": 45.0}
GRIPS_APART = {"wide": 80.0, "close": 38.0}
"""What wide and close mean for a row or pulldown (from 0 to 1), and for a press (degrees, and cm between the hands on a bar or
the floor): common practice, no source."""
DUMBBELL_PERHAPS_NOT, DUMBBELL_SURELY_NOT = 26.0, 40.0
"""Loads, kg, above which a line that names no kit may mean a bar instead of a dumbbell in each hand, and surely does: own
estimates."""
OTHERS = 3
"""Other readings that are worth a look."""


@cache
def grammar() -> Lark:
    """The grammar of figures, made once."""
    text = (files("oddswap.planning") / "data" / "shorthand.lark").read_text("utf-8")
    return Lark(text, parser="lalr", propagate_positions=True, maybe_placeholders=False)


def read_line(text: str, own: Mapping[str, str] | None = None) -> Written:
    """Read a line.

    Args:
        text: As it was typed.
        own: The coach's own names of lifts, each with the name of the vocabulary that it stands for.
    """
    try:
        tree = grammar().parse(text)
    except UnexpectedInput as error:
        at = error.pos_in_stream or 0
        return Written(text, unknown=[Span(at, len(text), text[at:])], sure=False)
    made, pieces = Written(text), []
    angle: float | None = None
    after: Written | None = None
    back_off = Span(0, 0, "")
    for child in tree.children:
        if isinstance(child, Token):
            pieces += [(m[0], child.start_pos + m.start()) for m in PIECE.finditer(str(child))]  # type: ignore[operator]
        elif child.data == "angle":
            angle = float(re.findall(r"\d+", text_of(child))[0])
        elif child.data == "back_off":
            back_off, after = Span(child.meta.start_pos, child.meta.end_pos, text_of(child)), Written(text)
        elif after is not None:
            after = with_figure(after, child)
        else:
            made = with_figure(made, child)
    return _with_lift(by_percent(with_back_off(made, after, back_off)), pieces, angle, own or {})


@dataclass(frozen=True)
class _Said:
    """The words around a lift's name: what they say, by sort."""

    kit: str = ""
    stance: str = ""
    bench: str = ""
    side: str = ""
    attachment: str = ""
    grip: str = ""
    width: str = ""
    angle: float | None = None
    twice: bool = False
    heavy: bool | None = False
    """Whether the load is more than dumbbells have; None where it may be either."""
    under_bar: bool = False
    """Whether it is less than the bar alone weighs."""
    pieces: int = 0
    """Weights that are counted: one, or one for each hand."""
    loaded: bool = False
    """Whether there is a load beside the body's own."""


def _by_load(said: _Said, made: Written) -> _Said:
    """With what the load says of the kit, where nothing else does."""
    load = (made.load or 0.0) * SIZES.get(made.load_unit or units_shown().mass, 1.0)
    heavy = True if load > DUMBBELL_SURELY_NOT else None if load > DUMBBELL_PERHAPS_NOT else False
    said = replace(said, loaded=load > 0)
    if said.kit:
        return said
    if made.less:
        return replace(said, kit="assist")
    if made.load == 0:
        return replace(said, kit="body")
    if made.pieces:
        # A weight for each hand, or one: no bar is counted so.
        return replace(said, pieces=made.pieces)
    return replace(said, heavy=heavy, under_bar=0 < load < BAR.amounts()[0] - 1e-6)


def _with_lift(made: Written, pieces: Sequence[tuple[str, int]], angle: float | None, own: Mapping[str, str]) -> Written:
    """With what the words mean: the name that covers most of them, and what the others say of it."""
    folded = [fold(p) for p, _ in pieces]
    best: list[tuple[tuple[int, int, bool], list[Reading], list[int], bool]] = []
    for name, lifts in _names(own):
        at = _found(name, folded)
        if at is None:
            continue
        said, left = _around(folded, [i for i in range(len(pieces)) if i not in at], angle)
        scattered, said = at != [*range(at[0], at[0] + len(at))], _by_load(said, made)
        for lift in lifts:
            readings = _readings(lift, said)
            missing = len(left) + (not readings)
            # No bar weighs so little: a dumbbell in each hand, one alone, or a light bar of their own.
            lighter = said.under_bar and lift.kit == "bar" and bool(readings) and readings[0].kit != "bar"
            best.append(((missing, -len(at), scattered), readings, left, lighter))
    best.sort(key=lambda b: b[0])
    if not best or not best[0][1]:
        left = best[0][2] if best else [i for i, f in enumerate(folded) if (f,) not in vocabulary().words]
        return replace(made, sure=False, unknown=[*made.unknown, *_spans(pieces, left or range(len(pieces)))])
    first, readings, left, lighter = best[0]
    # As good by words, and another lift: the coach decides.
    equals = [r for score, found, *_ in best[1:] if score == first for r in found[:1] if r != readings[0]]
    others = _distinct([readings[0], *equals, *readings[1:]])[1:]
    unknown = [*made.unknown, *_spans(pieces, left)]
    if readings[0].kit == "body" and made.load and made.load_at is not None:
        # Nothing there takes a load: what is written is not dropped in silence.
        unknown.append(made.load_at)
    # A load that a bar or a dumbbell in each hand may have: the coach decides.
    two = readings[0].kit, readings[1].kit if len(readings) > 1 else ""
    either = _by_load(_Said(), made).heavy is None and two == ("dumbbells", "bar")
    sure = not equals and not unknown and not either and not lighter
    return replace(made, readings=[readings[0], *others], sure=sure, unknown=unknown)


def _names(own: Mapping[str, str]) -> Iterable[tuple[Phrase, Sequence[Lift]]]:
    known = vocabulary().lifts
    yield from known.items()
    for name, means in own.items():
        lifts = known.get(phrase(means))
        if lifts:
            yield phrase(name), lifts


def _found(name: Phrase, folded: Sequence[str]) -> list[int] | None:
    """Where the pieces of a name stand, together or else in its own order where they can; None where one is missing."""
    size = len(name)
    together = next((i for i in range(len(folded) - size + 1) if tuple(folded[i : i + size]) == name), None)
    if together is not None:
        return [*range(together, together + size)]
    at: list[int] = []
    for piece in name:
        free = [i for i, f in enumerate(folded) if f == piece and i not in at]
        if not free:
            return None
        at.append(next((i for i in free if not at or i > at[-1]), free[0]))
    return at


def _around(folded: Sequence[str], left: list[int], angle: float | None) -> tuple[_Said, list[int]]:
    """What the other words say, the longest phrases first; and those that say nothing known."""
    words, said, rest = vocabulary().words, _Said(angle=angle), list(left)
    longest = max(len(p) for p in words)
    for size in range(min(longest, len(rest)), 0, -1):
        i = 0
        while i + size <= len(rest):
            run = rest[i : i + size]
            word = words.get(tuple(folded[k] for k in run))
            if word is None or run[-1] - run[0] != size - 1:
                i += 1
                continue
            said = _say(said, word)
            del rest[i : i + size]
    if said.angle is None:
        number = next((k for k in rest if folded[k].isdigit() and 0 <= int(folded[k]) <= 90), None)
        if number is not None:
            said = replace(said, angle=float(folded[number]))
            rest.remove(number)
    return said, rest


def _say(said: _Said, word: Word) -> _Said:
    if word.sort == "filler":
        return said
    before = getattr(said, word.sort)
    if word.sort == "kit" and {before, word.says} == {"bar", "cable"}:
        return replace(said, kit="cable", attachment="bar")
    change: dict[str, Any] = {word.sort: word.says} if before in ("", word.says) else {"twice": True}
    return replace(said, **change)


def _spans(pieces: Sequence[tuple[str, int]], places: Iterable[int]) -> list[Span]:
    """Pieces that were not understood, neighbours together, with names that are spelt nearly so."""
    runs: list[list[int]] = []
    for i in places:
        if runs and runs[-1][-1] == i - 1:
            runs[-1].append(i)
        else:
            runs.append([i])
    out = []
    for run in runs:
        words = [pieces[i] for i in run]
        start, end = words[0][1], words[-1][1] + len(words[-1][0])
        near = vocabulary().nearest(tuple(fold(w) for w, _ in words))
        out.append(Span(start, end, " ".join(w for w, _ in words), near))
    return out


def _readings(lift: Lift, said: _Said) -> list[Reading]:
    """Ways of a lift that agree with everything that is said of it, the likeliest first; none where none does."""
    if said.twice:
        return []
    if said.kit == "bar" and lift.kit == "cable":
        said = replace(said, kit="cable", attachment="bar")
    if said.attachment:
        if said.kit not in ("", "cable"):
            return []
        said = replace(said, kit="cable")
    kind = movement(lift.movement)
    values = dict(lift.values)
    if not _grip_and_width(kind, said, values):
        return []
    one_side = lift.one_side or bool(said.side) or (said.pieces == 1 and kind.support(kind.complete(values)).base == "seat")
    if one_side and "one_leg" in {p.id for p in kind.parameters}:
        values["one_leg"] = 1.0
        one_side = False
    elif said.side == "one_leg" and kind.support(kind.complete(values)).contact in ("hand", "back", "hips"):
        return []  # both feet stand whatever the arms do
    if (said.kit or lift.kit) == "machine" and (made := _on_machine(kind, lift, said, values, one_side)):
        return _distinct(made)
    stance, recline = _carried(kind, lift, said, values)
    notches = NOTCHES if recline is None or recline in NOTCHES else (*NOTCHES, recline)
    listed = list(kind.variants(notches, PADS))
    # How else one may stand is a reading only where the line says so.
    listed = listed if not stance or any(v.stance == stance for v in listed) else kind.every_way(notches, PADS)
    ways = [replace(v, values=kind.complete(v.values)) for v in listed]
    fixed = {p.id: p for p in kind.parameters}
    found = []
    for i, way in enumerate(ways):
        if (stance and way.stance != stance) or way.pad != lift.pad:
            continue
        if recline is not None and not _reclines(way, recline):
            continue
        off, stray = (
            sum(abs(way.values[k] - v) / max(1e-9, fixed[k].high - fixed[k].low) for k, v in wanted.items() if k in fixed)
            # What the name leaves open stays as the movement has it.
            for wanted in (values, {k: v for k, v in kind.complete({}).items() if k not in values})
        )
        order = off, stray if not lift.pad and not recline else 0.0, i
        found.append((order, replace(way, values={**way.values, **values})))
    found.sort(key=lambda f: f[0])
    out = []
    for _, way in found:
        kits = [k.id for k in kits_of(kind, way)]
        alone = one_side or way.stance in ONE_HANDED
        wanted = _kit_wanted(said, lift, kits)
        if wanted and wanted not in kits:
            continue
        target = lift.target if lift.target in kind.targets else kind.targets[0]
        kit = wanted or ("bar" if said.heavy and "bar" in kits else kits[0])
        hung: Any = said.attachment or (lift.attachment if kit == "cable" and not alone else "")
        if hung == "bar" and said.grip == "neutral":
            hung = "rope"
        out.append(Reading(kind.id, way, kit, target, alone, hung))
        if said.heavy is None and not wanted and kit == "dumbbells" and "bar" in kits:
            out.append(replace(out[-1], kit="bar"))
    return _distinct(_likeliest_first(kind, lift, said, out))


def _likeliest_first(kind: Movement, lift: Lift, said: _Said, found: list[Reading]) -> list[Reading]:
    """Readings by what their load says of the kit; a bar is held where it clears thighs and trunk, if a way has it do so."""
    out = sorted(found, key=lambda r: "bar" in (r.kit, r.attachment) and not bar_clears(kind, r.variant))
    if said.heavy:
        out.sort(key=lambda r: r.kit == "dumbbells")
    if said.loaded and not lift.kit:
        out.sort(key=lambda r: r.kit == "body")
    if said.heavy is None and out and out[0].kit == "dumbbells":
        first = out[0]
        out.sort(key=lambda r: r is not first and r.kit != "bar")
    return out


def _kit_wanted(said: _Said, lift: Lift, kits: Sequence[str]) -> str:
    """The kit that is said, or what the lift is done with where it can be; a load under the bar's own is no bar's."""
    wanted = said.kit or (lift.kit if lift.kit in kits else "")
    if wanted in ("dumbbells", "shared") and lift.kit == "shared":
        # One is in both hands, two are in one each.
        wanted = "shared" if said.pieces != 2 and "shared" in kits else "dumbbells"
    elif not said.kit and said.pieces and "dumbbells" in kits and wanted not in WEIGHTED_APART:
        return "dumbbells"
    if not said.kit and said.loaded and "belt" in kits:
        return "belt"
    if wanted == "body" and said.loaded and not said.kit:
        return ""
    lighter = said.under_bar and not said.kit and wanted not in WEIGHTED_APART
    return "dumbbells" if lighter and {"bar", "dumbbells"} <= set(kits) else wanted


def _on_machine(kind: Movement, lift: Lift, said: _Said, values: dict[str, float], one_side: bool) -> list[Reading]:
    """Ways of a lift on a machine, which has a seat, rests and a way of its own, the likeliest first."""
    rest = said.angle if said.angle is not None else lift.recline
    incline = said.bench == "incline" or (rest is not None and 0 < rest < UPRIGHT - 5)
    chosen = {p.id for p in kind.parameters if p.on_machine}
    ways = [
        w
        for w in machine_ways(kind, values, incline)
        if all(k in chosen or w.values.get(k, v) == v for k, v in lift.values.items())
    ]
    off = lambda way: sum(abs(way.values[k] - v) for k, v in values.items() if k in way.values)
    target = lift.target if lift.target in kind.targets else kind.targets[0]
    return [
        Reading(kind.id, replace(way, values=kind.complete({**values, **way.values})), "machine", target, one_side)
        for way in sorted(ways, key=off)
    ]


def _reclines(way: Variant, recline: float) -> bool:
    """Whether a way is on such a back rest; upright is upright."""
    if way.stance not in ("bench", "chest_supported", "hip_pad"):
        return True
    return way.recline_deg >= UPRIGHT - 5 if recline >= UPRIGHT else abs(way.recline_deg - recline) < 0.5


def _distinct(readings: Sequence[Reading]) -> list[Reading]:
    return [r for i, r in enumerate(readings) if r not in readings[:i]][: 1 + OTHERS]


def _grip_and_width(kind: Movement, said: _Said, values: dict[str, float]) -> bool:
    """Put what is said of grip and width into a movement's values; False where it has no such choice."""
    known = {p.id: p for p in kind.parameters}
    if said.grip:
        if "forearm_deg" not in known:
            return False
        one = known["forearm_deg"]
        usual = kind.complete({})["forearm_deg"]
        wanted = usual if said.grip == "overhand" and usual > 0 else GRIPS[said.grip]
        values["forearm_deg"] = min(max(wanted, one.low), one.high)
    if said.width:
        name, table = ("width", WIDTHS) if "width" in known else ("flare_deg", FLARES)
        if name not in known:
            return False
        values[name] = table[said.width]
        if table is FLARES and "grip_cm" in known:
            values["grip_cm"] = GRIPS_APART[said.width]
    return True


def _carried(kind: Movement, lift: Lift, said: _Said, values: dict[str, float]) -> tuple[str, float | None]:
    """Stance and back rest that a line asks for; empty and None for any."""
    stance, recline = lift.stance, lift.recline
    seated = "seated" in {p.id for p in kind.parameters}
    if said.stance == "bench":
        stance, recline = "bench", None if seated else UPRIGHT
        if seated:
            values["seated"] = 1.0
    elif said.stance == "lying":
        stance, recline = ("chest_supported", None) if seated else ("bench", 0.0)
        if seated:
            values["seated"] = 0.0
    elif said.stance:
        stance, recline = said.stance, INCLINE if said.stance == "chest_supported" else None
    if said.bench:
        stance = "chest_supported" if stance in ("chest_supported", "bent_over") else "bench"
        recline = 0.0 if said.bench == "flat" else recline if recline and recline < UPRIGHT - 5 else INCLINE
        # The bench decides then, as it does where its angle is said.
        values.pop("angle_deg", None)
    if said.angle is not None:
        stance = stance if stance in ("bench", "chest_supported", "hip_pad") else "bench"
        recline = said.angle
        values.pop("angle_deg", None)
    return stance, recline
