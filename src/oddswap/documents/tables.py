"""Tables in and out: rows with a line number each, from CSV as spreadsheets of any country write it, or XLSX.

A file is read whole or not at all: every cell that cannot be is named by line and column, and nothing is imported.
"""

from __future__ import annotations

import csv
import datetime as dt
import io
import re
import zlib
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from zipfile import BadZipFile, ZipFile

from openpyxl import Workbook, load_workbook  # type: ignore[import-untyped]
from openpyxl.utils.exceptions import InvalidFileException  # type: ignore[import-untyped]

from oddswap.documents.problems import Fault, shorten

NUMBER = re.compile(r"[+-]?\d+([.,]\d+)?([eE][+-]?\d+)?")
MOST_ROWS, MOST_COLUMNS, MOST_FAULTS = 20_000, 200, 100
"""What is read of a table, and how many faults of it are told."""
MOST_LINES = 5 * MOST_ROWS
"""Lines up to which empty ones are passed over."""
MOST_UNPACKED = 64 * 2**20
"""Bytes that a workbook may unpack to."""


class TableError(Exception):
    """A table that cannot be imported, with all that is wrong with it."""

    def __init__(self, faults: Sequence[Fault]) -> None:
        self.faults = list(faults)
        super().__init__(f"{len(self.faults)} faults in the table")


@dataclass(frozen=True)
class Row:
    """One line of a table: its number in the file and its cells that are not empty, by column."""

    line: int
    cells: Mapping[str, str]


class Faults:
    """Collects what is wrong, cell by cell."""

    def __init__(self) -> None:
        self.rows: list[Fault] = []

    def add(self, line: int, column: str, value: object, limit: str, way_out: str = "Correct the cell") -> None:
        """One more."""
        self.rows.append(Fault(field=f"line {line}, {column}", value=shorten(value), limit=limit, way_out=way_out))
        if len(self.rows) >= MOST_FAULTS:
            limit = f"the first {MOST_FAULTS} faults are told; what follows was not looked at"
            self.rows.append(Fault(field=f"line {line} and on", value="…", limit=limit, way_out="Correct these first"))
            self.settle()

    def settle(self) -> None:
        """Raise ``TableError`` if there is any."""
        if self.rows:
            raise TableError(self.rows)


def read(name: str, data: bytes, encoding: str = "") -> list[Row]:
    """Rows of a CSV or XLSX file, told apart by what they are and not by their name.

    Args:
        name: What the file is called.
        data: Its bytes.
        encoding: What a CSV is written in; empty to tell it from its bytes.

    Raises:
        TableError: If it is neither, or has no heading, or names a column twice.
    """
    faults = Faults()
    lines = _filled(_sheet(data) if data[:2] == b"PK" else _separated(data, encoding), faults)
    if not lines:
        faults.add(1, "heading", name, "a heading and at least one row", "Fill in the table")
        faults.settle()
    at, heading = lines[0][0], [h.strip().lower().replace(" ", "_") for h in lines[0][1]]
    for twice in sorted({h for h in heading if h and heading.count(h) > 1}):
        faults.add(at, twice, twice, "every column has a name of its own", "Rename or remove one of the two")
    rows = []
    for line, cells in lines[1:]:
        extra = [c for c in cells[len(heading) :] if c]
        if extra:
            faults.add(line, "end", extra[0], f"{len(heading)} cells, as the heading has", "Check for a stray separator")
        rows.append(Row(line, {h: c for h, c in zip(heading, cells, strict=False) if h and c}))
    faults.settle()
    return rows


def plain_rows(data: bytes, encoding: str = "") -> list[tuple[int, list[str]]]:
    """Numbers and cells of all rows of a CSV or XLSX file that are not empty, headings or not; merged cells count once.

    Raises:
        TableError: If it is neither, or larger than is read.
    """
    return _filled(_sheet(data) if data[:2] == b"PK" else _separated(data, encoding), Faults())


def _filled(lines: Iterable[tuple[int, list[str]]], faults: Faults) -> list[tuple[int, list[str]]]:
    """Lines that are not empty, as many as are read; a table that claims more is refused before it is read."""
    out: list[tuple[int, list[str]]] = []
    for line, cells in lines:
        if line > MOST_LINES or len(out) > MOST_ROWS:
            faults.add(line, "rows", line, f"at most {MOST_ROWS} rows, and {MOST_LINES} with the empty ones", "Split the file")
            faults.settle()
        if any(cells):
            if len(cells) > MOST_COLUMNS and any(cells[MOST_COLUMNS:]):
                faults.add(line, "columns", len(cells), f"at most {MOST_COLUMNS} columns", "Remove what is not needed")
                faults.settle()
            out.append((line, cells))
    return out


def _sheet(data: bytes) -> Iterator[tuple[int, list[str]]]:
    try:
        with ZipFile(io.BytesIO(data)) as packed:
            unpacked = sum(part.file_size for part in packed.infolist())
        if unpacked > MOST_UNPACKED:
            limit = f"a workbook of at most {MOST_UNPACKED // 2**20} MB unpacked; this one would be {unpacked // 2**20} MB"
            raise TableError([Fault(field="file", value="(XLSX)", limit=limit, way_out="Save the one sheet that is needed")])
        sheet = load_workbook(io.BytesIO(data), read_only=True, data_only=True).worksheets[0]
        rows = sheet.iter_rows(max_col=MOST_COLUMNS + 1, values_only=True)
        for i, row in enumerate(rows, start=1):
            yield i, [_text(c) for c in row]
    except (InvalidFileException, BadZipFile, KeyError, ValueError, IndexError, zlib.error) as error:
        limit = f"a readable workbook: {error}"
        fault = Fault(field="file", value="(not XLSX)", limit=limit, way_out="Save it as XLSX or CSV again")
        raise TableError([fault]) from error


def _text(value: object) -> str:
    if value is None:
        return ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, float):
        return f"{value:.12g}"
    if isinstance(value, dt.datetime):
        return value.date().isoformat() if value.time() == dt.time() else value.isoformat()
    return str(value).strip()


ENCODINGS = {
    "utf-8": "Unicode (UTF-8)",
    "utf-16": "Unicode (UTF-16)",
    "cp1252": "Western European (Windows-1252)",
    "cp1250": "Central European (Windows-1250)",
    "iso8859-2": "Central European (ISO 8859-2)",
    "cp1251": "Cyrillic (Windows-1251)",
    "koi8-r": "Cyrillic (KOI8-R)",
    "cp1253": "Greek (Windows-1253)",
    "cp1254": "Turkish (Windows-1254)",
    "cp1257": "Baltic (Windows-1257)",
    "mac_roman": "Western European (Macintosh)",
    "shift_jis": "Japanese (Shift JIS)",
    "gb18030": "Chinese (GB 18030)",
    "euc_kr": "Korean (EUC-KR)",
}
"""What a CSV may be written in."""
WESTERN = re.compile(r"[^\W\d_]*[À-ÖØ-öø-ÿŒœŠšŽžŸ][^\W\d_]*")
"""Words with a letter that English has not, as Windows-1252 would have them."""


def decoded(data: bytes, encoding: str = "") -> str:
    """A file's text; what is neither Unicode nor plainly Western European is asked about, not guessed.

    Raises:
        TableError: At the field ``encoding``, where it must be said or is another one.
    """
    sort = "utf-16" if data[:2] in (b"\xff\xfe", b"\xfe\xff") else "utf-8-sig"
    if encoding and encoding not in ENCODINGS:
        limit = f"one of {', '.join(ENCODINGS)}"
        raise TableError([Fault(field="encoding", value=shorten(encoding), limit=limit, way_out="Pick one of these")])
    for code in [encoding] if encoding else [sort, "cp1252"]:
        try:
            text = data.decode("utf-8-sig" if code == "utf-8" else code)
        except UnicodeDecodeError:
            continue
        if encoding or code != "cp1252" or looks_western(text):
            return text
    limit = "text in Unicode, or said to be in another encoding; guessing would garble names"
    value = shorten(data[:40].decode(encoding or "latin-1", "replace"))
    raise TableError([Fault(field="encoding", value=value, limit=limit, way_out="Say what the file is written in")])


def looks_western(text: str) -> bool:
    """Whether text that was read as Windows-1252 can be that: accents are letters, and few among plain ones."""
    odd = {c for c in text if ord(c) > 126 and not c.isalpha()} - set("\u00a0°²³µ½¼¾×·–—‘’“”„…€§«»ºª¿¡\r\n\t")
    accented = WESTERN.findall(text)
    many = [w for w in accented if sum(ord(c) > 126 for c in w) > max(1, len(w) // 2)]
    return not odd and len(many) <= len(accented) // 10


def _separated(data: bytes, encoding: str) -> Iterator[tuple[int, list[str]]]:
    if b"\0" in data[:4000] and data[:2] not in (b"\xff\xfe", b"\xfe\xff"):
        limit = "a CSV or XLSX file"
        raise TableError([Fault(field="file", value="(binary)", limit=limit, way_out="Save it as CSV or XLSX")])
    text = decoded(data, encoding)
    first = text.lstrip("\r\n").split("\n", 1)[0]
    announced = re.match(r"sep=(.)\r?$", first)
    if announced:
        # Some spreadsheets name their separator in a line of its own.
        text = text.lstrip("\r\n").split("\n", 1)[1] if "\n" in text else ""
        first = text.split("\n", 1)[0]
    # The first line with any mark in it tells which one separates: a title may stand above.
    found = re.search(r"[;\t,|]", text)
    at = found.start() if found else 0
    end = text.find("\n", at)
    telling = text[text.rfind("\n", 0, at) + 1 : end if end >= 0 else len(text)]
    mark = announced.group(1) if announced else max(";\t,|", key=telling.count)
    try:
        reader = csv.reader(io.StringIO(text, newline=""), delimiter=mark, strict=True)
        offset = 1 if announced else 0
        for cells in reader:
            yield reader.line_num + offset, [as_written(c.replace("\u00a0", " ").strip()) for c in cells]
    except csv.Error as error:
        fault = Fault(field=f"line {reader.line_num}", value="(quotes)", limit=f"{error}", way_out="Check the quotes")
        raise TableError([fault]) from error


def write_csv(columns: Sequence[str], rows: Sequence[Mapping[str, str]]) -> bytes:
    """A CSV file: commas, decimal points, UTF-8."""
    out = io.StringIO(newline="")
    writer = csv.DictWriter(out, columns, restval="", extrasaction="ignore", lineterminator="\r\n")
    writer.writeheader()
    writer.writerows({name: neutralise(text) for name, text in row.items()} for row in rows)
    return out.getvalue().encode()


FORMULA = re.compile(r"\s*[=+\-@]")
"""How a cell starts that a spreadsheet would compute."""


def neutralise(text: str) -> str:
    """A cell that no spreadsheet takes for a formula: an apostrophe before it, which ``as_written`` takes off again."""
    return f"'{text}" if (FORMULA.match(text) and not NUMBER.fullmatch(text)) or re.match(r"'+\s*[=+\-@]", text) else text


def as_written(text: str) -> str:
    """A cell without the apostrophe that stands before what looks like a formula."""
    return text[1:] if re.match(r"'+\s*[=+\-@]", text) else text


def write_xlsx(title: str, columns: Sequence[str], rows: Sequence[Mapping[str, str]]) -> bytes:
    """An XLSX workbook of one sheet; numbers are numbers."""
    book = Workbook()
    sheet = book.active
    sheet.title = title[:31]
    sheet.append(list(columns))
    for row in rows:
        sheet.append([_cell(row.get(c, "")) for c in columns])
        for cell in sheet[sheet.max_row]:
            if cell.data_type == "f":
                cell.data_type = "s"  # words, whatever they look like
    sheet.freeze_panes = "A2"
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def _cell(text: str) -> float | str | None:
    if not text:
        return None
    plain = re.fullmatch(r"-?\d+(\.\d+)?", text) and show(float(text)) == text
    return float(text) if plain else text


def number(text: str) -> float:
    """A number with a decimal point or comma.

    Raises:
        ValueError: Where it is none, or could be read as thousands.
    """
    text = text.replace(" ", "").replace("\u202f", "")
    if not NUMBER.fullmatch(text):
        raise ValueError("a number such as 12.5 or 12,5")
    if re.fullmatch(r"[+-]?[1-9]\d{0,2},\d{3}", text):
        raise ValueError("a number that cannot be read as thousands: write 1.250 as 1.25, or 1,250 as 1250")
    return float(text.replace(",", "."))


def show(value: float) -> str:
    """A number as text, shortest that reads back the same."""
    return str(int(value)) if float(value).is_integer() and abs(value) < 1e15 else repr(float(value))
