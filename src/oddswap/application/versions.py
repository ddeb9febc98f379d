"""One policy of what makes a result old: a digest of its inputs and of the rules, data and code that it was computed by."""

from __future__ import annotations

import hashlib
from functools import cache
from importlib.resources import files
from importlib.resources.abc import Traversable

from oddswap.documents.client import ClientDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.program import LineDoc
from oddswap.documents.ranking import RankDoc
from oddswap.equivalence.kit import bears_on

COMPUTED = ("mechanics", "exercises", "equipment", "equivalence", "coaching")
"""Packages whose code and data results depend on."""
WORDED = (*COMPUTED, "documents", "quantities.py")
"""What the words of a document depend on."""


def rules_digest() -> str:
    """Digest of all code and data that results depend on, as it is installed, 64 hexadecimal digits."""
    return _code_digest(COMPUTED)


def words_digest() -> str:
    """The same of all that documents, words and all, depend on."""
    return _code_digest(WORDED)


@cache
def _code_digest(packages: tuple[str, ...]) -> str:
    def below(folder: Traversable) -> list[Traversable]:
        inside = sorted(folder.iterdir(), key=lambda f: f.name)
        return [f for entry in inside for f in (below(entry) if entry.is_dir() else [entry])]

    digest = hashlib.sha256()
    for package in packages:
        at = files("oddswap") / package
        for file in below(at) if at.is_dir() else [at]:
            if file.name.endswith((".py", ".toml", ".npz")):
                digest.update(file.read_bytes())
    return digest.hexdigest()


def body_text(client: ClientDoc) -> str:
    """What of a client decides the body, as JSON."""
    seen = client.model_dump_json(include={"name", "stature_cm", "mass_kg", "sex", "measured_cm", "ranges_deg"})
    return f"{seen} strong at {client.first_mass_kg}"


def client_text(client: ClientDoc) -> str:
    """What of a client bears on a search, as JSON: a weighing does not cost one."""
    seen = client.model_dump_json(
        exclude={"weights", "mass_unit", "length_unit", "weaker_side", "experience", "weekly_sets", "note"}
    )
    return f"{seen} strong at {client.first_mass_kg}"


def place_text(place: PlaceDoc) -> str:
    """What of a place bears on a search, as JSON."""
    return place.model_dump_json(exclude={"busy", "note"})


def bearing_on(line: LineDoc, place: PlaceDoc) -> PlaceDoc:
    """A place without what has no say in a line's search, so that a leg machine that comes or goes costs no curl one."""
    kit = [item for item in place.kit if bears_on(item, line.target, line.set_up.movement)]
    if len(kit) == len(place.kit):
        return place
    there = {item.id for item in kit}
    return place.model_copy(update={"kit": kit, "plan": [spot for spot in place.plan if spot.item in there]})


def line_text(line: LineDoc) -> str:
    """What of a line bears on a search, as JSON."""
    return line.model_dump_json(
        exclude={"note", "amrap", "each_side", "tempo", "rest_s", "methods", "label", "sets_as", "hold_s"}
    )


def digest(*parts: str) -> str:
    """Digest of inputs under the present rules, 64 hexadecimal digits."""
    return hashlib.sha256("\0".join((rules_digest(), *parts)).encode()).hexdigest()


def match_digest(client: ClientDoc, line: LineDoc, place: PlaceDoc, ranking: RankDoc) -> str:
    """Names a match by all that it is computed from."""
    return digest(client_text(client), line_text(line), place_text(bearing_on(line, place)), ranking.model_dump_json())


def map_digest(client: ClientDoc, place: PlaceDoc) -> str:
    """Names a reach map by all that it is computed from."""
    return digest(body_text(client), place_text(place))
