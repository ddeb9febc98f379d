"""Documents as the core sees them, read once while they stay the same."""

from __future__ import annotations

from oddswap.application.fields import name_field
from oddswap.application.versions import body_text, digest, line_text, place_text
from oddswap.documents.client import ClientDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.program import LineDoc
from oddswap.equivalence.cache import SharedCache
from oddswap.equivalence.prescription import Place, PrescriptionProfile, profile_prescription

_prescriptions: SharedCache[str, PrescriptionProfile] = SharedCache(256)
_places: SharedCache[str, Place] = SharedCache(64)


def core_prescription(client: ClientDoc, line: LineDoc) -> PrescriptionProfile:
    """What a line asks of a client.

    Raises:
        DomainError: With the field's path as seen from ``client`` or ``line``.
    """

    def work() -> PrescriptionProfile:
        body = name_field("client", client.body)
        return name_field("line", lambda: profile_prescription(line.line(), body))

    return _prescriptions.get(digest(body_text(client), line_text(line)), work)


def core_place(place: PlaceDoc) -> Place:
    """A place in the core's terms.

    Raises:
        DomainError: With the field's path as seen from ``place``.
    """
    return _places.get(digest(place_text(place)), lambda: name_field("place", place.place))
