"""Made-up demo data: one coach, three clients of different sizes, five places. Any likeness is by chance."""

from __future__ import annotations

from importlib.resources import files

from oddswap.documents.client import ClientDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.program import KeptProgramDoc, ProgramDoc, check_program
from oddswap.store import editing
from oddswap.store.models import Coach, Creation, database
from oddswap.store.programs import add_program
from oddswap.store.records import add_client, add_coach, add_place, the_coach

COACH = "Wren Adair"
PLACES = ("harbour-hall", "quay-hotel", "spare-room", "tallow-garage", "pier-club")
CLIENTS = {"ilka": PLACES[:3], "tobi": PLACES[:2], "sunniva": PLACES[:3]}
"""Clients, and where each trains."""
PROGRAMS = {"ilka": "ilka", "tobi": "tobi", "sunniva": "sunniva", "tobi-week": "tobi", "sunniva-week": "sunniva"}
"""Programs, and whose each is: short ones, and whole weeks over all muscles."""
READY = {
    "Large gym": "pier-club",
    "Small gym": "harbour-hall",
    "Hotel room": "quay-hotel",
    "Garage with a bar and a pulley": "tallow-garage",
    "Bands, dumbbells and a door": "spare-room",
    "Bedroom with bands and a door": "bedroom",
    "Park with a high bar and bands": "park",
}
"""Typical rooms to start from, and the made-up place each comes from."""


def ready_kits() -> list[PlaceDoc]:
    """Generic kits of typical rooms."""
    held = {name: PlaceDoc.model_validate_json(document(f"place-{place}")) for name, place in READY.items()}
    return [doc.model_copy(update={"name": name, "busy": []}) for name, doc in held.items()]


def document(name: str) -> bytes:
    """A demo document, for example ``client-ilka``, as JSON."""
    return (files("oddswap.store") / "demo" / f"{name}.json").read_bytes()


KEY = "demo"
"""What the keys begin with under which demo records are made, so that they can be told from a coach's own."""


def load_demo() -> bool:
    """Fill an empty store with the demo; returns False when there is a coach already."""
    with database.connection_context(), database.atomic():
        if Coach.select().exists():
            return False
        add_coach(COACH)
        add_demo()
        return True


def add_demo() -> None:
    """Add the demo's clients and places to what there is; those that are there already stay as they are."""
    with database.atomic():
        coach = the_coach()
        places = {p: add_place(coach, PlaceDoc.model_validate_json(document(f"place-{p}")), f"{KEY} {p}") for p in PLACES}
        clients = {
            name: add_client(
                coach, ClientDoc.model_validate_json(document(f"client-{name}")), [places[p] for p in at], f"{KEY} {name}"
            )
            for name, at in CLIENTS.items()
        }
        for program, name in PROGRAMS.items():
            made = ProgramDoc.model_validate_json(document(f"program-{program}"))
            check_program(made)
            add_program(clients[name], KeptProgramDoc.of(made), f"{KEY} {program}")


def demo_records() -> list[tuple[str, int]]:
    """Kind and number of the demo's records that are here, clients first."""
    rows = Creation.select().where(Creation.key.contains(f" {KEY} ")).order_by(Creation.kind)
    return [(r.kind, r.number) for r in rows]


def remove_demo() -> int:
    """Delete the demo's clients, programs and places for good; returns how many."""
    with database.atomic():
        held = demo_records()
        for kind, number in held:
            # A client takes along their programs.
            if editing.TABLES[kind].get_or_none(editing.TABLES[kind].id == number) is not None:
                editing.put_away(kind, number, None)
                editing.delete_for_good(kind, number)
        Creation.delete().where(Creation.key.contains(f" {KEY} ")).execute()
        return len(held)
