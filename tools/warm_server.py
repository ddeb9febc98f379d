"""What servers of the tests have in common, made once in the process that they are forked from.

Imported there and nowhere else: the program as it is read, the application with its routes, and the movements of one
of the demo's clients. Each server then starts with its own database as if it were warm.
"""

from __future__ import annotations

from fastapi.testclient import TestClient

import oddswap.serving  # noqa: F401  what a server reads before it answers
from oddswap.api.app import create_app
from oddswap.documents.client import ClientDoc
from oddswap.documents.place import PlaceDoc
from oddswap.equivalence.variant_list import list_variant_keys
from oddswap.equivalence.variants import variants_at
from oddswap.store.demo import CLIENTS, document

CLIENT = "ilka"

# Routes are worked out by the first request; asked for in the words that a server asks in.
TestClient(create_app(signing_in=False), "http://127.0.0.1").get("/")
# Most tests are about one client.
body = ClientDoc.model_validate_json(document(f"client-{CLIENT}")).body()
for place in CLIENTS[CLIENT]:
    room = PlaceDoc.model_validate_json(document(f"place-{place}")).place()
    variants_at(body, room, list_variant_keys(room))
