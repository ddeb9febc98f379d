"""Set-ups in words."""

from __future__ import annotations

from oddswap.documents.base import Result
from oddswap.equivalence.set_up import SetUp, is_for_arm
from oddswap.exercises import movement
from oddswap.mechanics.movement import Movement, Variant


class RowDoc(Result):
    """One line of set-up words."""

    what: str
    value: str


def bench_words(recline_deg: float) -> str:
    """A bench's notch, degrees to the floor, as it is called."""
    return "flat bench" if recline_deg <= 5 else "upright bench" if recline_deg >= 80 else f"{recline_deg:.0f}° incline bench"


def support_rows(variant: Variant, movement_: Movement, on_machine: bool = False) -> list[RowDoc]:
    """Bench, pad or floor, in words."""
    if variant.pad:
        else_where = "" if on_machine else ", or over the rest of an inclined bench from behind it"
        return [RowDoc(what="Support", value=f"upper arm on the pad{else_where}")]
    words = {
        "bent_over": f"bent over, trunk {variant.recline_deg:.0f}° above level",
        "chest_supported": f"chest on the bench at {variant.recline_deg:.0f}°"
        if variant.recline_deg > 5
        else "chest on the flat bench",
        "kneeling": "kneeling, hips tall",
        "half_kneeling": "one knee down, on the side that works; the other foot ahead",
        "holding_on": "standing, the free hand holds on to a column or rack beside",
        "back_rested": "standing, back against a wall or an upright pad",
        "chest_rested": "standing, chest against an upright pad",
        "sitting": "sitting on the floor, knees a little bent, feet braced",
        "hip_pad": f"hips on the pad at {variant.recline_deg:.0f}°, ankles held",
        "lying": "lying on the back on the floor",
        "hanging": "hanging from the hands",
        "floor": "on the floor",
    }
    if variant.stance in words:
        return [RowDoc(what="Carried", value=words[variant.stance])]
    if variant.stance == "bench":
        return [RowDoc(what="Bench", value=bench_words(variant.recline_deg))]
    support = movement_.support(variant.values)
    if support.base == "pad and feet":
        return [RowDoc(what="Stand", value="back on the sliding pad, feet high on the plate")]
    if support.one_side and support.contact == "hand":
        return [RowDoc(what="Stand", value="feet under the hips, knees soft")]
    if support.root == "hips":
        return [RowDoc(what="Stand", value="feet staggered, hips square")]
    return [RowDoc(what="Stand", value="weight over the middle of the foot")]


def set_up_rows(set_up: SetUp, variant: Variant) -> list[RowDoc]:
    """All set-up words of a set-up."""
    rows = [RowDoc(what=r.what, value=_handle_words(set_up, r.value)) for s in set_up.sources for r in s.rows()]
    return support_rows(variant, movement(set_up.movement), set_up.on_machine) + rows


def _handle_words(set_up: SetUp, words: str) -> str:
    """Words of a row with the attachment that the limb takes."""
    if not is_for_arm(set_up):
        words = words.replace("one dumbbell, one arm at a time", "one dumbbell")
    if set_up.support.contact != "hand":
        own = words.replace("strap handles, each hand", "ankle cuffs, each leg").replace("strap handles", "ankle cuffs")
        return own.replace("each hand to the other", "each leg to the other").replace("strap handle", "ankle cuff, or a strap")
    # A hand that holds a dumbbell holds no handle besides.
    full = len(set_up.sources) > 1 and any(s.kind == "dumbbell" for s in set_up.sources)
    return words.replace("strap handle", "loop around the wrist") if full else words


def plain_digits(value: float, digits: int) -> str:
    """A number with so many significant digits, never as a power of ten: 110, not 1.1e+02."""
    return f"{float(f'{value:.{digits}g}'):.15g}" if abs(value) < 1e15 else f"{value:.0f}"


def reps_words(low: int, high: int) -> str:
    """For example ``10–12``."""
    return f"{low}–{high}" if high > low else f"{low}"


def kit_words(set_up: SetUp) -> str:
    """Which kit and how, in a few words."""
    return " + ".join(s.short() for s in set_up.sources) or "bodyweight"
