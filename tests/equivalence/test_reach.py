"""Reach maps: what rooms can and cannot load, as coaches know it, and the laws that hold whatever the kit."""

from __future__ import annotations

from dataclasses import replace
from functools import cache

import numpy as np

from oddswap.coaching.library import variants_of
from oddswap.documents.client import ClientDoc
from oddswap.documents.place import PlaceDoc
from oddswap.equipment.dumbbell import Dumbbells
from oddswap.equivalence.coverage import VARIANTS_LOOKED_AT, coverage_rules, gap_words, reach
from oddswap.equivalence.kit import distinct_items
from oddswap.equivalence.profile import profile
from oddswap.equivalence.purchases import purchases
from oddswap.equivalence.set_up import SetUp
from oddswap.equivalence.variant_list import list_variant_keys
from oddswap.equivalence.variants import variants_at
from oddswap.exercises import movements
from oddswap.mechanics.body import Body
from oddswap.mechanics.lengths import BINS
from oddswap.mechanics.muscles import muscle_table
from oddswap.store.demo import document

BODY = ClientDoc.model_validate_json(document("client-ilka")).body()


def place(name):
    return PlaceDoc.model_validate_json(document(f"place-{name}")).place()


@cache
def cells(name):
    return {(c.group.id, c.zone): c for c in reach(BODY, place(name))}


def score(name, group, zone):
    return cells(name)[group, zone].score


def test_big_gym_garage_and_hotel_differ_as_coaches_expect():
    """Common practice, no source: what a full gym has over a room with dumbbells and one pulley."""
    gym, garage, hotel = "pier-club", "tallow-garage", "quay-hotel"
    covered = {n: sum(c.score >= coverage_rules()["fair"] for c in cells(n).values()) for n in (gym, garage, hotel)}
    assert covered[gym] > covered[garage] > covered[hotel]
    # Thighs and traps need heavy things: dumbbells of 20 kg leave them too light.
    for group, zone in (("quads", 1), ("upper_traps", 1)):
        assert score(gym, group, zone) > score(hotel, group, zone) + 25, group
    # On two legs; on one the same dumbbells are nearly enough.
    at = place(hotel)
    two = [v for v in variants_at(BODY, at, list_variant_keys(at, VARIANTS_LOOKED_AT)) if not v.variant.values.get("one_leg")]
    calves = next(c for c in reach(BODY, at, two) if (c.group.id, c.zone) == ("soleus", 1))
    assert calves.load < 0.6
    assert "too light" in gap_words(calves)
    assert cells(hotel)["soleus", 1].load > 1.5 * calves.load
    assert score(garage, "upper_traps", 1) > score(hotel, "upper_traps", 1)  # plates against dumbbells
    # A line loads what dumbbells leave empty, and one pulley is enough for it.
    for name in (gym, garage, hotel):
        assert score(name, "chest", 1) > 75, name
        assert score(name, "triceps_long", 2) > 75, name
    # Without a bench and a second line the lengthened end of the biceps stays poor in the hotel.
    assert score(hotel, "biceps", 0) < coverage_rules()["fair"]


def test_lengthened_end_of_the_side_delts_wants_a_line_and_a_band_at_the_hip_gives_it():
    """P6 and P7: dumbbells are empty hanging; a line from hand height is not."""
    hotel = place("quay-hotel")
    dumbbells = replace(hotel, kit=[k for k in hotel.kit if k.kind in ("dumbbells", "bench")])
    own = reach(BODY, dumbbells)
    side = next(c for c in own if c.group.id == "side_delt" and c.zone == 0)
    assert score("quay-hotel", "side_delt", 0) > side.score
    bought = {p.id: p for p in purchases(BODY, dumbbells, own)}
    assert bought["band_low"].cells["side_delt", 0].score > side.score + 3
    # A pulley does more for a room of dumbbells than another set of dumbbells.
    assert bought["pulley"].gain > bought["dumbbells"].gain
    assert next(iter(bought.values())).gain > 0


def test_more_kit_never_makes_a_map_worse():
    hotel, garage = place("quay-hotel"), place("tallow-garage")
    extra = [k for k in garage.kit if k.kind in ("barbell", "station")]
    both = {(c.group.id, c.zone): c for c in reach(BODY, replace(hotel, kit=[*hotel.kit, *extra]))}
    for key, cell in cells("quay-hotel").items():
        assert both[key].score >= cell.score - 1e-6, key


def test_two_sets_of_dumbbells_are_one_set():
    """A rack that begins at 12 kg does not hide the light dumbbells beside it, whichever is named first."""
    light, heavy = (Dumbbells(n, n, [float(m) for m in range(*span)]) for n, span in (("l", (1, 11)), ("h", (12, 51))))
    for kit in ([light, heavy], [heavy, light]):
        ((_, amounts),) = distinct_items(kit)
        assert list(amounts) == [*light.amounts(), *heavy.amounts()]


def test_what_a_cell_promises_a_full_profile_keeps():
    """The map's coarse shortcut against the whole computation of its best set-up."""
    seen = 0
    for cell in list(cells("tallow-garage").values())[::3]:
        if cell.mechanics is None or cell.setting is None or cell.mechanics.motion.support.base != "seat":
            continue
        v = cell.mechanics.variant
        p = profile(
            BODY, SetUp(cell.mechanics.kind.id, [cell.setting], v.values, v.stance, v.recline_deg, 44, v.pad), 31, check=False
        )
        relative_effort = p.relative_effort[p.row(cell.group.id)]
        # Amounts go in steps, and the lightest may be a little too heavy.
        assert coverage_rules()["need"] * cell.load - 0.2 < relative_effort.max() < coverage_rules()["too_much"] + 0.05, (
            cell.mechanics.title,
            relative_effort,
        )
        seen += 1
    assert seen > 10


def test_nothing_here_loads_nothing():
    empty = replace(place("quay-hotel"), kit=[])
    found = [c for c in reach(BODY, empty) if c.score > 0]
    assert found
    assert all(c.setting is None for c in found)  # the body alone: push-ups, squats, calf raises
    assert all(c.mechanics.motion.support.base != "seat" for c in found)


def test_reachable_spans_are_what_the_movements_reach():
    body = Body(1.80, 82)
    low, high = {}, {}
    for kind in movements().values():
        for v in variants_of(kind)[:: max(1, len(variants_of(kind)) // 3)]:
            motion = SetUp(kind.id, (), v.values, v.stance, v.recline_deg, 45.0, v.pad).perform(body, 16)
            for t in kind.targets:
                length = motion.target_length(muscle_table().groups[t]) * BINS
                low[t], high[t] = min(low.get(t, BINS), length.min()), max(high.get(t, 0), length.max())
    for t, (first, last) in coverage_rules()["span"].items():
        assert first - 2 <= low[t], t
        assert high[t] <= last + 2, t
    assert np.mean([high[t] - low[t] for t in low]) > 0.8 * np.mean([b - a for a, b in coverage_rules()["span"].values()])
