"""Made-up demo data: one coach, three clients of different sizes, five places. Any likeness is by chance."""

from __future__ import annotations

from importlib.resources import files

from oddswap.documents.client import ClientDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.program import KeptProgramDoc, ProgramDoc, check_program
from oddswap.store.models import Coach, database
from oddswap.store.programs import add_program
from oddswap.store.records import add_client, add_coach, add_place

COACH = "Wren Adair"
PLACES = ("harbour-hall", "quay-hotel", "spare-room", "tallow-garage", "pier-club")
CLIENTS = {"ilka": PLACES[:3], "tobi": PLACES[:2], "sunniva": PLACES[:3]}
"""Clients, and where each trains."""
READY = {
    "Large gym": "pier-club",
    "Small gym": "harbour-hall",
    "Hotel room": "quay-hotel",
    "Garage with a bar and a pulley": "tallow-garage",
    "Bands, dumbbells and a door": "spare-room",
}
"""Typical rooms to start from, and the made-up place each comes from."""


def ready_kits() -> list[PlaceDoc]:
    """Generic kits of typical rooms."""
    held = {name: PlaceDoc.model_validate_json(document(f"place-{place}")) for name, place in READY.items()}
    return [doc.model_copy(update={"name": name, "busy": []}) for name, doc in held.items()]


def document(name: str) -> bytes:
    """A demo document, for example ``client-ilka``, as JSON."""
    return (files("oddswap.store") / "demo" / f"{name}.json").read_bytes()


def load_demo() -> bool:
    """Fill an empty store with the demo; returns False when there is a coach already."""
    with database.connection_context(), database.atomic():
        if Coach.select().exists():
            return False
        coach = add_coach(COACH)
        places = {p: add_place(coach, PlaceDoc.model_validate_json(document(f"place-{p}"))) for p in PLACES}
        for name, at in CLIENTS.items():
            client = add_client(coach, ClientDoc.model_validate_json(document(f"client-{name}")), [places[p] for p in at])
            program = ProgramDoc.model_validate_json(document(f"program-{name}"))
            check_program(program)
            add_program(client, KeptProgramDoc.of(program))
        return True
