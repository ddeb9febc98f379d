"""The documentation's worked examples, character by character, and the command line's manners."""

from __future__ import annotations

import io
import json
import re
import shlex
from pathlib import Path

import jsonschema
import pytest

from oddswap.cli import main
from oddswap.documents.client import ClientDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.program import ProgramDoc
from oddswap.documents.schemas import DOCUMENTS, RESULTS, schema
from oddswap.documents.set_up import ClientSetUpDoc, SetUpDoc
from oddswap.documents.upgrade import upgrade

DOCS = Path(__file__).resolve().parents[2] / "docs"
EXAMPLES = DOCS / "examples"
BLOCKS = re.findall(r"```console\n\$ odd-swap (.*)\n((?:.*\n)*?)```", (DOCS / "formats.md").read_text())


def run(arguments: list[str], capsys) -> tuple[int, str]:
    """Exit code, and what was printed on either stream."""
    code = 0
    try:
        main(arguments)
    except SystemExit as stop:
        code = int(stop.code or 0)
    out = capsys.readouterr()
    return code, out.out + out.err


def shown(code: int, text: str) -> str:
    """As it stands in the documentation."""
    lines = [line.rstrip() for line in text.rstrip("\n").split("\n")]
    return "\n".join(lines) + "\n" + (f"[exit code {code}]\n" if code else "")


def test_the_documentation_has_its_examples():
    assert len(BLOCKS) == 3
    assert all(output for _, output in BLOCKS)


@pytest.mark.parametrize(("command", "output"), BLOCKS, ids=[c for c, _ in BLOCKS])
def test_worked_examples_print_what_the_documentation_shows(command, output, capsys, monkeypatch):
    monkeypatch.chdir(EXAMPLES)
    assert shown(*run(shlex.split(command), capsys)) == output


@pytest.mark.parametrize("name", list(DOCUMENTS))
def test_example_files_keep_their_schema(name):
    jsonschema.validate(json.loads((EXAMPLES / f"{name}.json").read_text()), schema(name))


def test_json_output_keeps_its_schema(capsys, monkeypatch):
    monkeypatch.chdir(EXAMPLES)
    for command, name in [
        ("profile set-up.json --json", "profile"),
        ("swap client.json program.json place.json --json", "swaps"),
    ]:
        code, text = run(command.split(), capsys)
        assert code == 0
        jsonschema.validate(json.loads(text), schema(name))


@pytest.mark.parametrize("name", [*DOCUMENTS, *RESULTS])
def test_schemas_print(name, capsys):
    code, text = run(["schema", name], capsys)
    assert code == 0
    jsonschema.Draft202012Validator.check_schema(json.loads(text))


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ('{"client": {', "well-formed JSON"),
        ("[1, 2]", "input should be an object"),
        ('{"client": {}, "set_up": {}}', "client.stature_cm: (missing)"),
    ],
)
def test_malformed_documents_leave_with_code_2(text, words, capsys, monkeypatch):
    monkeypatch.setattr("sys.stdin", io.StringIO(text))
    code, said = run(["profile", "-"], capsys)
    assert code == 2
    assert words in said


def test_bad_values_on_the_command_line_leave_with_code_2(capsys, monkeypatch, tmp_path):
    monkeypatch.chdir(EXAMPLES)
    good = json.loads(Path("client.json").read_text())
    for change, words in [({"stature_cm": 30}, "client.stature_cm: 30"), ({"mass_kg": -5}, "30 to 250 kg")]:
        path = tmp_path / "client.json"
        path.write_text(json.dumps(good | change))
        code, said = run(["swap", str(path), "program.json", "place.json"], capsys)
        assert code == 2
        assert words in said
    for arguments in (
        ["schema", "nonsense"],
        ["profile", "missing.json"],
        ["swap", "client.json", "program.json", "missing.json"],
    ):
        assert run(arguments, capsys)[0] == 2
    with pytest.raises(SystemExit) as stop:
        main(["nonsense"])
    assert stop.value.code == 2


def test_documents_round_trip():
    place = PlaceDoc.model_validate_json((EXAMPLES / "place.json").read_text())
    assert PlaceDoc.model_validate_json(place.model_dump_json()) == place
    doc = ClientSetUpDoc.model_validate_json((EXAMPLES / "set-up.json").read_text())
    back = SetUpDoc.of(doc.set_up.set_up())
    assert SetUpDoc.model_validate_json(back.model_dump_json()) == doc.set_up


def test_documents_of_version_1_are_read_as_their_version_2():
    old = {
        "format": "odd-swap/program/1",
        "name": "Old",
        "sessions": [{"name": "A", "lines": [{
            "name": "Shrug", "target": "upper_traps", "sets": 3, "reps_low": 8, "reps_high": 10,
            "set_up": {"movement": "shrug_up", "sources": [{"kind": "dumbbell", "mass_kg": 20}]},
        }]}],
    }  # fmt: skip
    new = json.loads(json.dumps(old).replace("program/1", "program/2").replace("shrug_up", "shrug"))
    assert ProgramDoc.model_validate_json(json.dumps(old)) == ProgramDoc.model_validate_json(json.dumps(new))
    client = {"name": "I", "stature_cm": 170, "mass_kg": 60, "sex": "female", "weights": [{"day": "2026-01-02", "mass_kg": 60}]}
    for old_client in (
        {"format": "odd-swap/client/1", **client, "restrictions": [{"joint": "hip"}]},
        {**client, "restrictions": [{"joint": "hip"}]},
    ):
        read = ClientDoc.model_validate_json(json.dumps(old_client))
        assert read == ClientDoc.model_validate_json(json.dumps({**client, "restrictions": [{"joint": "hip"}]}))
    assert upgrade(upgrade(old)) == upgrade(old)
