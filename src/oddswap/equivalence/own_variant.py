"""The prescription's own way to do its movement: what of it other ways keep, and whether a place allows it."""

from __future__ import annotations

from dataclasses import replace

from oddswap.equivalence.prescription import Place, PrescribedLine
from oddswap.equivalence.set_up import SetUp, follows_load
from oddswap.equivalence.variant_key import VariantKey, spread_leads
from oddswap.equivalence.variant_list import has_supports, list_variant_keys
from oddswap.exercises import movement

REST_OFF_DEG = 15.0
"""How much steeper or flatter than a pad a bench's rest may be that is used as one, degrees (own estimate)."""


def inherited_values(set_up: SetUp) -> dict[str, float]:
    """Of a prescription's parameters those that no variant of its movement sets: how deep, how far, how wide.

    They are the line's own, and every other way to do the movement keeps them.
    """
    kind = movement(set_up.movement)
    return {name: value for name, value in kind.complete(set_up.parameters).items() if name not in kind.varied}


def pad_angle(place: Place, wanted: float) -> float | None:
    """How far forward of the trunk, degrees, the upper arm may lie where it is wanted on a pad: on an arm pad just so, else
    over the nearest rest of an inclined bench; None where there is neither."""
    pads = {a for k in place.kit for a in k.pad_angles}
    if wanted in pads:
        return wanted
    over = [a for k in place.kit for a in k.angles_over_rest if abs(a - wanted) <= REST_OFF_DEG]
    return min(over, key=lambda angle: abs(angle - wanted), default=None)


def own_set_up(line: PrescribedLine, place: Place) -> SetUp | None:
    """The prescription as a place's supports allow it; None where they do not."""
    s = line.set_up
    if not has_supports(place, movement(s.movement), s.variant()):
        return None
    notches = {n for k in place.kit for n in k.notches}
    # On the end of any bench one sits upright.
    offered = notches | {90.0} if notches else notches
    # A machine's own seat serves the machine.
    if s.on_machine:
        return s
    if (s.stance == "bench" and s.recline_deg not in offered) or (s.stance == "chest_supported" and not notches):
        return None
    if not s.pad:
        return s
    pad = pad_angle(place, s.variant().values["arm_angle_deg"])
    return None if pad is None else replace(s, parameters={**s.parameters, "arm_angle_deg": pad})


def own_variant_key(line: PrescribedLine, place: Place) -> VariantKey | None:
    """What the prescription's own variant follows from, where the place's supports allow it."""
    s = own_set_up(line, place)
    if s is None:
        return None
    held = 0.0
    if follows_load(s) and s.sources:
        hands = 2 if s.sources[0].shares_bar and s.support.contact == "hand" else 1
        held = round(s.sources[0].amount / hands)
    return VariantKey.of(s.movement, s.variant(), place.seat_cm if place.rests.bench else s.seat_cm, held)


def line_variant_keys(line: PrescribedLine, place: Place) -> list[VariantKey]:
    """The prescription's own variant, where a place's supports allow it, and what else does its movement as deep and as far."""
    own, inherited = own_variant_key(line, place), inherited_values(line.set_up)
    out = spread_leads(own) if own is not None else []
    usual = movement(line.set_up.movement).complete({})
    if any(usual[name] != value for name, value in inherited.items()):
        out += list_variant_keys(place, None, line.set_up.movement, inherited)
    return list(dict.fromkeys(out))
