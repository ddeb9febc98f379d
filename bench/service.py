"""The service under load: sixty clients, two years of logs, four places; ten main calls by one user and by fifty at once."""

from __future__ import annotations

import datetime as dt
import json
import threading
import time
import urllib.request
import uuid
from collections.abc import Callable, Sequence
from multiprocessing import get_context
from pathlib import Path

import numpy as np

from oddswap.application.cards import build_card
from oddswap.application.matching import match_line
from oddswap.application.starting import start
from oddswap.cli import main as command
from oddswap.documents.accepted import AcceptedDoc
from oddswap.documents.card import CardDoc
from oddswap.documents.client import ClientDoc
from oddswap.documents.log import EntryDoc, LoggedSetDoc
from oddswap.documents.log_context import ContextDoc
from oddswap.documents.program import KeptProgramDoc, ProgramDoc
from oddswap.documents.ranking import RankDoc
from oddswap.store import cards, log, programs, records, swaps
from oddswap.store.demo import document, load_demo
from oddswap.store.models import LogEntry, database, now
from oddswap.store.opening import connected

Show = Callable[..., None]
CLIENTS, YEARS, PER_WEEK, SEED, PORT = 60, 2, 3, 20, 8931


def fill(path: Path) -> tuple[dict[str, int], str]:
    """A database of that size; returns numbers of one client's records, and a card's link."""
    start(path)
    load_demo()
    random = np.random.default_rng(SEED)
    with connected(), database.atomic():
        coach, places = records.the_coach(), [p.id for p in records.places()][:4]
        program = KeptProgramDoc.of(ProgramDoc.model_validate_json(document("program-ilka")))
        person = ClientDoc.model_validate_json(document("client-ilka"))
        place = records.place(places[1])
        taken: dict[str, str] = {}
        for line in (x.line for x in program.sessions[0].lines):
            best = match_line(person, line, place.document, RankDoc(), curves=False).swaps[0]
            taken[line.name] = AcceptedDoc(swap=best).model_dump_json()
        for n in range(CLIENTS):
            client = records.add_client(coach, person.model_copy(update={"name": f"Client {n}"}), places)
            number = programs.add_program(client, program)
            session = programs.program(number).document.sessions[0]
            for x in session.lines:
                swaps.accept_swap(x.id, place.id, taken[x.line.name])
            if n == 0:
                card = build_card(session.id, place.id)
            _two_years(client, place.id, card, [x.id for x in session.lines], random)
        _, link = cards.hand_out(session.id, place.id)
    return {"client": client, "session": session.id, "line": session.lines[0].id, "place": place.id}, link


def _two_years(client: int, place: int, card: CardDoc, lines: Sequence[int | None], random: np.random.Generator) -> None:
    """Three sets of every lift three times a week; the first of each as the app keeps it, the rest written straight."""
    rows = list[dict[str, object]]()
    for lift, line in zip(card.lifts, lines, strict=False):
        way = lift.ways[0]
        context = ContextDoc(line_name=lift.name, title=way.title, kit=way.kit, place_name=card.place, basis=way.basis)
        first = True
        for day in range(0, 365 * YEARS, 7 // PER_WEEK):
            for k in range(3):
                at = now() - dt.timedelta(days=365 * YEARS - day, minutes=-3 * k)
                done = LoggedSetDoc(amount=way.amount, reps=int(random.integers(8, 13)), rir=1)
                key = str(uuid.UUID(int=int(random.integers(1 << 62))))
                entry = EntryDoc(id=key, kind="set", set=done, at=at.replace(tzinfo=dt.UTC), line=line)
                if first:
                    log.append(client, [log.NewEntry(entry, at, 0, context, place)])
                    number = LogEntry.get(LogEntry.key == key).context_id  # type: ignore[attr-defined]
                    first = False
                    continue
                rows.append({"client": client, "key": key, "kind": "set", "line": line, "place": place, "done_at": at,
                             "document": entry.model_dump_json(), "context": number})  # fmt: skip
    for chunk in range(0, len(rows), 1000):
        LogEntry.insert_many(rows[chunk : chunk + 1000]).execute()


def bench_service(show: Show, folder: Path) -> None:
    """Print how long the main calls take, and the server's memory."""
    of, link = fill(folder / "load.db")
    database.close()
    server = get_context("spawn").Process(
        target=command, args=(["serve", "--data", str(folder / "load.db"), "--port", str(PORT)],), daemon=True
    )
    server.start()
    base, secret = f"http://127.0.0.1:{PORT}", {"Card-Link": link}
    body = {"place": of["place"]}
    calls: dict[str, tuple[str, str, dict[str, str], object]] = {
        "roster": ("GET", "/api/clients", {}, None),
        "attention": ("GET", "/api/attention", {}, None),
        "log": ("GET", f"/api/clients/{of['client']}/log", {}, None),
        "client": ("GET", f"/api/clients/{of['client']}", {}, None),
        "cards of a client": ("GET", f"/api/clients/{of['client']}/cards", {}, None),
        "card by its link": ("GET", "/api/card", secret, None),
        "a set sent": ("POST", "/api/card/entries", secret, "entry"),
        "match, computed before": ("POST", f"/api/lines/{of['line']}/match", {}, body),
        "week": ("GET", f"/api/clients/{of['client']}/week", {}, None),
        "find": ("GET", "/api/find?q=client", {}, None),
    }
    for _ in range(600):
        try:
            urllib.request.urlopen(base + "/api/health", timeout=5).read()
            break
        except OSError:
            time.sleep(0.1)
    for name, call in calls.items():
        seconds = _ask(base, call, of)
        show(f"{name}, the first time", seconds * 1e3, "ms")
    for users, each in ((1, 10), (50, 2)):
        for name, call in calls.items():
            took = _at_once(users, each, base, call, of)
            p50, p95, p99 = np.percentile(np.array(took) * 1e3, [50, 95, 99])
            show(f"{name}, {users} at once: median; 95 %: {p95:.0f}, 99 %: {p99:.0f} ms", float(p50), "ms")
    status = Path(f"/proc/{server.pid}/status").read_text()
    kilobytes = next(int(line.split()[1]) for line in status.splitlines() if line.startswith("VmRSS"))
    show("server memory after it (goal <= 400)", kilobytes / 1024, "MB")
    server.terminate()


def _at_once(
    users: int, each: int, base: str, call: tuple[str, str, dict[str, str], object], ids: dict[str, int]
) -> list[float]:
    """Seconds that a call takes so many users who ask at once, each so often."""
    took: list[float] = []

    def ask() -> None:
        took.extend(_ask(base, call, ids) for _ in range(each))

    workers = [threading.Thread(target=ask) for _ in range(users)]
    for w in workers:
        w.start()
    for w in workers:
        w.join()
    return took


def _ask(base: str, call: tuple[str, str, dict[str, str], object], ids: dict[str, int]) -> float:
    method, path, headers, body = call
    if body == "entry":
        at = dt.datetime.now(dt.UTC).isoformat()
        one = {
            "id": str(uuid.uuid4()),
            "kind": "set",
            "at": at,
            "line": ids["line"],
            "set": {"amount": 5.0, "reps": 11, "rir": 1},
        }
        body = {"sent_at": at, "entries": [one]}
    data = json.dumps(body).encode() if body is not None else None
    asked = urllib.request.Request(base + path, data, {"Content-Type": "application/json", **headers}, method=method)
    begun = time.perf_counter()
    with urllib.request.urlopen(asked, timeout=120) as answer:
        answer.read()
    return time.perf_counter() - begun
