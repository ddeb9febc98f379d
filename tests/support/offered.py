"""Set-ups that are offered for random lines: any movement of the library, three clients, all demo places."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import count

import numpy as np

from oddswap.coaching.library import usual, variants_of
from oddswap.documents.place import PlaceDoc
from oddswap.equivalence.candidates import Swap
from oddswap.equivalence.lenses import lens_by_id
from oddswap.equivalence.muscle_work import target_of
from oddswap.equivalence.prescription import Place, PrescribedLine, PrescriptionProfile, profile_prescription
from oddswap.equivalence.search import find_swaps
from oddswap.errors import DomainError
from oddswap.exercises import movements
from oddswap.mechanics.body import Body
from oddswap.store.demo import document

BODIES = (Body(1.62, 58, "female"), Body(1.80, 82, "male"), Body(1.91, 97, "male"))
ONE_CLIENT = 40
"""Lists after which places change their clients."""
PLACES = ("harbour-hall", "quay-hotel", "spare-room", "tallow-garage", "pier-club")


def demo_place(name: str) -> Place:
    """A place of the demo data."""
    return PlaceDoc.model_validate_json(document(f"place-{name}")).place()


def offered(seed: int) -> Iterator[tuple[PrescriptionProfile, Place, Swap]]:
    """Swaps without end, with what they stand for and where.

    A few lists ask for one client a place, so that samples share what is computed of them; many go round all clients.
    """
    rng, kinds, places = np.random.default_rng(seed), list(movements().values()), [demo_place(n) for n in PLACES]
    for turn in count():
        kind = kinds[rng.integers(len(kinds))]
        variants = variants_of(kind)
        variant, where = variants[rng.integers(len(variants))], int(rng.integers(len(places)))
        body, place = BODIES[(where + turn // ONE_CLIENT) % len(BODIES)], places[where]
        try:
            shown = usual(body, kind, variant)
            line = PrescribedLine(target_of(shown), shown.set_up, 3, 8, 12, 2)
            prescription = profile_prescription(line, body)
            found = find_swaps(prescription, place, lens_by_id("same_profile"))
        except DomainError:
            continue
        for swap in found:
            yield prescription, place, swap
