"""The same work without a browser: ``odd-swap swap``, ``profile``, ``schema``, ``openapi``, ``remap``; serving, backing up."""

from __future__ import annotations

import argparse
import getpass
import json
import os
import sys
import textwrap
from collections.abc import Iterable, Sequence
from pathlib import Path
from typing import Any, NoReturn, TypeVar

from platformdirs import user_data_path
from pydantic import BaseModel, ValidationError
from tabulate import tabulate

from oddswap import __version__
from oddswap.application.fields import name_field
from oddswap.application.matching import match_program
from oddswap.application.remap import Piece, in_processes, on_cluster, remap
from oddswap.application.starting import start
from oddswap.documents.client import ClientDoc
from oddswap.documents.match import MatchDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.problems import Fault, faults_of
from oddswap.documents.profile import ProfileDoc
from oddswap.documents.program import ProgramDoc
from oddswap.documents.ranking import RankDoc
from oddswap.documents.schemas import DOCUMENTS, RESULTS, schema
from oddswap.documents.set_up import ClientSetUpDoc
from oddswap.equivalence.lenses import lenses
from oddswap.equivalence.profile import profile
from oddswap.errors import DomainError
from oddswap.store.acting import set_password
from oddswap.store.opening import StoreError, backup, connected, restore

D = TypeVar("D", bound=BaseModel)
BAD_INPUT = 2
MOST_SEARCHING = 4
"""Processes that search beside the one that answers, where nobody names a number: each holds some 110 MB, and up to 300 with
the tables of several clients."""
DEMO_DATA = Path("var/odd-swap.db")


class BadInputError(Exception):
    """A document that cannot be; carries its faults."""

    def __init__(self, source: str, faults: list[Fault]) -> None:
        self.source, self.faults = source, faults
        super().__init__(source)


def read(model: type[D], path: str) -> D:
    """A document from a file, or from standard input for ``-``.

    Raises:
        BadInputError: If it cannot be opened or read, with every fault.
    """
    try:
        text = sys.stdin.read() if path == "-" else Path(path).read_text(encoding="utf-8-sig")
    except (OSError, UnicodeDecodeError) as error:
        fault = Fault(field="", value=path, limit=f"a readable UTF-8 file: {error}", way_out="Check the path")
        raise BadInputError(path, [fault]) from None
    try:
        return model.model_validate_json(text)
    except ValidationError as error:
        raise BadInputError(path, faults_of(error)) from None


def swap(options: argparse.Namespace) -> None:
    """Rank the equivalents of every line of a program at a place."""
    client, program = read(ClientDoc, options.client), read(ProgramDoc, options.program)
    result = match_program(client, program, read(PlaceDoc, options.place), RankDoc(lens=options.lens))
    if options.json:
        print(result.model_dump_json(indent=2))
        return
    print(f"{result.client} at {result.place}: {result.program}")
    for line in result.lines:
        print("\n" + line_table(line, options.most))


def line_table(line: MatchDoc, most: int) -> str:
    """One line's ranking as text."""
    p = line.prescribed
    head = f"{line.line}: {p.title}, {p.sets} x {p.reps}, RIR {p.rir}, {p.load} ({p.target_name}; lens {line.lens_name})"
    if line.nothing:
        return head + "\n" + textwrap.fill(line.nothing, 100)
    rows = [
        [f"{s.match:.0f}", s.title, "; ".join(r.value for r in s.rows), s.load.words, s.load.first_time, s.load.reps]
        for s in line.swaps[:most]
    ]
    widths = [5, 32, 60, 24, 24, 8]
    return head + "\n" + tabulate(rows, ["match", "set-up", "how", "load", "first time", "reps"], maxcolwidths=widths)


def show_profile(options: argparse.Namespace) -> None:
    """Print the computed curves of one set-up."""
    document = read(ClientSetUpDoc, options.set_up)
    body = name_field("client", document.client.body)
    set_up = document.set_up.set_up()
    result = ProfileDoc.of(set_up, name_field("set_up", lambda: profile(body, set_up)))
    if options.json:
        print(result.model_dump_json(indent=2))
        return
    force = [sum((f[i][k] for f in (p.force_n for p in result.pulls)), 0.0) for i in range(len(result.part)) for k in range(3)]
    # The joint that the movement is read off, and its neighbours; the shoulder blades' and trunk's are in the JSON.
    torques = [t for t in result.torques_nm if not t.startswith(("scapula", "trunk"))] or list(result.torques_nm)
    rows = [
        [result.reading[i], *(result.torques_nm[t][i] for t in torques), *force[3 * i : 3 * i + 3]]
        for i in range(0, len(result.part), 3)
    ]
    print(tabulate(rows, ["pose", *(f"{t} N·m" for t in torques), "Fx N", "Fy N", "Fz N"], floatfmt=".1f"))
    loaded = {g: t for g, t in result.targets.items() if max(t.effective_nm) > 0.5 and max(t.relative_effort) >= 0.05}
    print()
    rows = [
        [t.name, f"{t.length[0]:.2f} to {t.length[-1]:.2f}", max(t.effective_nm), f"{max(t.relative_effort):.0%}"]
        for t in sorted(loaded.values(), key=lambda t: -max(t.relative_effort))
    ]
    print(tabulate(rows, ["muscle group", "length (0 long, 1 short)", "peak load N·m", "peak effort"], floatfmt=".1f"))


def print_schema(options: argparse.Namespace) -> None:
    """Print a document's JSON Schema."""
    print(json.dumps(schema(options.name), indent=2, ensure_ascii=False))


def print_openapi(options: argparse.Namespace) -> None:
    """Print the web service's OpenAPI document."""
    from oddswap.api.app import create_app

    print(json.dumps(create_app().openapi(), indent=2, ensure_ascii=False))


def data_path(options: argparse.Namespace) -> Path:
    """The database file: as named, the demo's own, or in this user's data directory."""
    if options.data:
        return Path(options.data)
    return DEMO_DATA if getattr(options, "demo", False) else user_data_path("odd-swap") / "odd-swap.db"


def serve(options: argparse.Namespace) -> None:
    """Serve the app, printing its address when it answers."""
    from oddswap.serving import listen, run

    signing_in = options.sign_in or not is_own_machine(options.host)
    with listen(options.port, options.host) as own:
        run(own, data_path(options), options.demo, signing_in, options.workers)


def is_own_machine(host: str) -> bool:
    """Whether only this machine reaches an address."""
    return host == "localhost" or host.startswith("127.")


def set_coach_password(options: argparse.Namespace) -> None:
    """Set a coach's password, typed twice, or from a file; the coach is made where there is none of this name."""
    from oddswap.api.sign_in import HASHES, LEAST_PASSWORD

    if options.password_file:
        password = Path(options.password_file).read_text(encoding="utf-8").strip()
    else:
        password = getpass.getpass(f"Password for {options.name}: ")
        if getpass.getpass("Once more: ") != password:
            raise StoreError("the two were not the same")
    if len(password) < LEAST_PASSWORD:
        raise StoreError(f"a password has at least {LEAST_PASSWORD} letters")
    start(data_path(options))
    with connected():
        set_password(options.name, HASHES.hash(password))
    print(f"{options.name} can sign in now")


def back_up(options: argparse.Namespace) -> None:
    """Copy the database, also while the app runs."""
    backup(data_path(options), Path(options.file))
    print(f"Saved as {options.file}")


def restore_backup(options: argparse.Namespace) -> None:
    """Put a backup in the database's place; stop the app first."""
    kept = restore(Path(options.file), data_path(options))
    print(f"Restored to {data_path(options)}" + (f"; what was there is kept as {kept}" if kept else ""))


def remap_all(options: argparse.Namespace) -> None:
    """Map every program of a database over all its client's places; what did not change since the last run stands."""
    start(data_path(options))

    def tell(done: int, total: int) -> None:
        print(f"\r{done} of {total} cells", end="" if done < total else "\n", file=sys.stderr, flush=True)

    def run(work: Sequence[Piece]) -> Iterable[list[str]]:
        return on_cluster(work, options.scheduler) if options.scheduler else in_processes(work, options.workers)

    with connected():
        made, every = remap(Path(options.out), RankDoc(lens=options.lens), run, tell)
    print(f"{made} computed, {every} in {options.out}")


def port_number(text: str) -> int:
    """A port, 0 for any free one."""
    number = int(text) if text.isdigit() else -1
    if not 0 <= number <= 65535:
        raise argparse.ArgumentTypeError(f"{text} is no port: 1 to 65535, or 0 for a free one")
    return number


def worker_count(text: str) -> int:
    """How many processes."""
    number = int(text) if text.isdigit() else 0
    if not 1 <= number <= 256:
        raise argparse.ArgumentTypeError(f"{text} is no number of processes: 1 to 256")
    return number


def parser() -> argparse.ArgumentParser:
    """The command line."""
    top = argparse.ArgumentParser(prog="odd-swap", description="Equivalent set-ups on the kit a client has.")
    top.add_argument("--version", action="version", version=__version__)
    commands = top.add_subparsers(dest="command", required=True)

    one = commands.add_parser("swap", help="rank the equivalents of a program's lines at a place")
    for name in ("client", "program", "place"):
        one.add_argument(name, metavar=f"{name.upper()}.json", help=f"{name} document, or - for standard input")
    one.add_argument("--lens", default="same_profile", choices=list(lenses()), help="what to rank by")
    one.add_argument("--most", type=int, default=5, metavar="N", help="rows a line in the table (default 5)")
    one.add_argument("--json", action="store_true", help="print the full result as JSON")
    one.set_defaults(run=swap)

    one = commands.add_parser("profile", help="print the computed curves of one set-up")
    one.add_argument("set_up", metavar="SETUP.json", help="set-up document, or - for standard input")
    one.add_argument("--json", action="store_true", help="print the full result as JSON")
    one.set_defaults(run=show_profile)

    one = commands.add_parser("schema", help="print the JSON Schema of a document")
    one.add_argument("name", metavar="NAME", help=", ".join(DOCUMENTS | RESULTS))
    one.set_defaults(run=print_schema)

    commands.add_parser("openapi", help="print the OpenAPI document").set_defaults(run=print_openapi)

    _add_serving(commands)
    return top


def _add_serving(commands: Any) -> None:
    """The commands on a database."""
    one = commands.add_parser("serve", help="serve the app")
    where = "database file (default: in your data directory; with --demo var/odd-swap.db)"
    one.add_argument("--data", metavar="FILE", help=where)
    one.add_argument("--port", type=port_number, default=8765, help="port on this machine (default 8765; 0 picks a free one)")
    one.add_argument("--host", default="127.0.0.1", help="address to answer at; beyond this machine coaches sign in")
    one.add_argument("--sign-in", action="store_true", help="coaches sign in on this machine too")
    one.add_argument(
        "--workers",
        type=worker_count,
        default=min(os.cpu_count() or 1, MOST_SEARCHING),
        help=f"processes that search many lines (default: one a core, {MOST_SEARCHING} at most)",
    )
    one.add_argument("--demo", action="store_true", help="fill an empty database with demo data")
    one.set_defaults(run=serve)

    one = commands.add_parser("coach", help="set a coach's password, for serving beyond this machine")
    one.add_argument("name", metavar="NAME", help="what the coach is called")
    one.add_argument("--password-file", metavar="FILE", help="read the password from a file instead of asking")
    one.add_argument("--data", metavar="FILE", help=where)
    one.set_defaults(run=set_coach_password)

    one = commands.add_parser("remap", help="map every program of a database over all places")
    one.add_argument("--data", metavar="FILE", help=where)
    one.add_argument(
        "--out", metavar="FILE", default="mapped.jsonl", help="a line of JSON a line and place (default mapped.jsonl)"
    )
    one.add_argument("--lens", default="same_profile", choices=list(lenses()), help="what to rank by")
    one.add_argument("--workers", type=worker_count, default=os.cpu_count() or 1, help="processes (default: one a core)")
    one.add_argument("--scheduler", metavar="ADDRESS", default="", help="a Dask scheduler to send the work to instead")
    one.set_defaults(run=remap_all)

    for name, run, about in (
        ("backup", back_up, "copy the database to a file, also while the app runs"),
        ("restore", restore_backup, "put a backup in the database's place; stop the app first"),
    ):
        one = commands.add_parser(name, help=about)
        one.add_argument("file", metavar="FILE", help="the backup")
        one.add_argument("--data", metavar="FILE", help=where)
        one.set_defaults(run=run)


def fail(source: str, faults: list[Fault]) -> NoReturn:
    """Say every fault at its field, and leave with the code for bad input."""
    for fault in faults:
        where = f"{source}: {fault.field}" if fault.field else source
        print(f"odd-swap: {where}: {fault.value} cannot be: {fault.limit}. {fault.way_out}.", file=sys.stderr)
    sys.exit(BAD_INPUT)


def main(arguments: Sequence[str] | None = None) -> None:
    """Run the command line; exits with 2 on bad input."""
    options = parser().parse_args(arguments)
    try:
        options.run(options)
    except BadInputError as error:
        fail(error.source, error.faults)
    except DomainError as error:
        fail(options.command, faults_of(error))
    except StoreError as error:
        print(f"odd-swap: {error}.", file=sys.stderr)
        sys.exit(1)
    except BrokenPipeError:
        # The reader of our output left early, as ``head`` does; that is no fault.
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())


if __name__ == "__main__":
    main()
