"""What a coach would rather set up: round distances, straight ahead or behind, one load, the prescription's own kit.

A profile that fits by a point or two is not worth a turn of the body that nobody can repeat. Points here are of the match; they
decide between what lies near together and are never part of the match.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from itertools import product
from typing import TypeVar

from oddswap.equipment.base.positions import STEP_CM
from oddswap.equipment.base.setting import AdjustableParameter, Setting
from oddswap.equivalence.rules import rules
from oddswap.equivalence.scoring import setup_cost, stability
from oddswap.equivalence.set_up import SetUp
from oddswap.exercises import movement
from oddswap.mechanics.movement import Variant

Kept = TypeVar("Kept")

HALF_STEP = STEP_CM / 2
TURNS = {"facing": (90.0, 45.0), "distance": (HALF_STEP,), "ahead": (HALF_STEP,), "right": (10.0,), "forward": (10.0,)}
"""Round values of placements, by parameter: quarter and half-quarter turns, degrees, half steps and a foot's width, cm."""

BAND = "band"
"""Kit whose load is told by its stretch alone: of equals a load that can be read goes first (common practice, no source)."""


def plain_settings(setting: Setting) -> Iterator[Setting]:
    """The setting itself, and with one or more of its places at round values near by, a hole up or down."""
    choices: list[list[tuple[str, float]]] = []
    parameters = setting.adjustable_parameters(())
    own = {p.id: p.value for p in parameters}
    for p in parameters:
        steps = TURNS.get(p.id, ())
        near = {p.value, *(round(p.value / step) * step for step in steps)}
        near |= {(p.value // step + up) * step for step in steps if p.id == "distance" for up in (0, 1)}
        # Straight ahead another hole may be the right one.
        near |= {p.value - p.step, p.value + p.step} if p.id == "hole" else set()
        kept = [v for v in near if p.low <= v <= p.high]
        if len(kept) > 1:
            choices.append([(p.id, v) for v in sorted(kept)])
    for values in product(*choices):
        out = setting
        for name, value in values:
            # Setting a value that it has already would only round it.
            if value != own[name]:
                out = out.with_parameter(name, value)
        yield out


def roughness(setting: Setting, prescribed: SetUp) -> float:
    """Points of match that a placement's odd turns and distances cost, 0 for a plain one and for the coach's own."""
    if any(setting == own.with_amount(setting.amount) for own in prescribed.sources if own.kind == setting.kind):
        return 0.0
    return sum(_rough(p) for p in setting.adjustable_parameters(()) if p.id in TURNS)


def _rough(p: AdjustableParameter) -> float:
    rule = rules("lenses")["plain"]

    def on(step: float) -> bool:
        return bool(abs(p.value - round(p.value / step) * step) < rule["within"] * step)

    if p.id == "facing":
        return float(0.0 if on(180) else rule["side_on"] if on(90) else rule["half_turn"] if on(45) else rule["odd_turn"])
    close = rule["close"] if p.id == "distance" and p.value < rule["close_cm"] else 0.0
    return float(close + (0.0 if on(TURNS[p.id][0]) else rule["odd_distance"]))


def fuss(set_up: SetUp, prescribed: SetUp, counts: float = 1.0) -> float:
    """Points of match that a set-up must be better by than one that asks for nothing besides the prescribed set-up's own.

    Args:
        set_up: What to do.
        prescribed: The prescribed set-up.
        counts: What all but a second load counts, parts.
    """
    rule = rules("lenses")["plain"]
    costs = (rule["by_setup_cost"] * setup_cost(s, set_up.support.contact) + roughness(s, prescribed) for s in set_up.sources)
    points = sum(costs)
    points += rule["other_kit"] if {s.kind for s in set_up.sources} - {s.kind for s in prescribed.sources} else 0.0
    points += rule["other_item"] if [s.item for s in set_up.sources] != [s.item for s in prescribed.sources] else 0.0
    points += rule["one_side"] if prescribed.both_sides and not set_up.both_sides else 0.0
    points += rule["other_stance"] if set_up.stance != prescribed.stance else 0.0
    return float(rule["second_load"] * max(0, len(set_up.sources) - 1) + counts * points)


def quietest_first(found: Sequence[Kept], worth: Callable[[Kept], float], quiet: Callable[[Kept], object]) -> list[Kept]:
    """Ordered so that of those whose worth lies near the best that is left the quietest comes next.

    A point or two is not worth another way to stand, and turns over when a client is a little taller.

    Args:
        found: What is ordered.
        worth: Points of each.
        quiet: Sorts the quieter before others, whatever points they have.
    """
    within, rest, out = rules("lenses")["plain"]["within_points"], list(found), list[Kept]()
    while rest:
        least = max(map(worth, rest)) - within
        out.append(min((one for one in rest if worth(one) >= least), key=quiet))  # type: ignore[arg-type]
        rest = [one for one in rest if one is not out[-1]]
    return out


def sort_of(source: Setting) -> str:
    """What items have in common that can do the same as a source's."""
    return source.item.sort if source.item is not None else source.kind


KINDS = 0.65, 0.85
"""How much something is the prescribed kind of lift to be hardly of it, and to be of it: in between it is near it."""


def quiet_key(set_up: SetUp, variant: Variant, kind: float, prescribed: SetUp, words: str) -> tuple[object, ...]:
    """Sorts set-ups by how little they differ from the prescribed one; little in it turns with a client's size.

    Args:
        set_up: What to do.
        variant: The movement's variant that it does.
        kind: How much it is the prescribed kind of lift, 0 to 1.
        prescribed: The prescribed set-up.
        words: What it is called.
    """
    kind_of_movement, own = movement(set_up.movement), prescribed.variant().values
    spans = {p.id: p.high - p.low for p in kind_of_movement.parameters}
    other = set_up.movement != prescribed.movement
    changed = 0.0 if other else sum(abs(value - own[n]) / spans[n] for n, value in variant.values.items() if n in spans)
    kits, items = ([getattr(s, what) for s in set_up.sources] for what in ("kind", "item"))
    return (
        other,
        [sort_of(s) for s in set_up.sources] != [sort_of(s) for s in prescribed.sources],
        BAND in set(kits) - {s.kind for s in prescribed.sources},
        len(set_up.sources),
        set_up.both_sides != prescribed.both_sides,
        set_up.stance != prescribed.stance,
        abs(set_up.recline_deg - prescribed.recline_deg) if set_up.stance == prescribed.stance else 0.0,
        round(changed, 2),
        [(s.grip, s.between_hands) for s in set_up.sources] != [(s.grip, s.between_hands) for s in prescribed.sources],
        items != [s.item for s in prescribed.sources],
        -sum(kind > least for least in KINDS),
        kind_of_movement.name,
        -round(stability(set_up), 1),
        words,
        round(fuss(set_up, prescribed)),
    )
