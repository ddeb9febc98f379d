"""How the fields of a record stand in the cells of a table: numbers, flags, lists, nested records, measures with their unit."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import MISSING, dataclass, fields, is_dataclass
from typing import Annotated, Any, get_args, get_origin, get_type_hints

from oddswap.documents.tables import number, show
from oddswap.quantities import OTHERS, SIZES, converted, unit_shown

YES, NO = {"yes", "true", "1", "y", "x"}, {"no", "false", "0", "n"}


@dataclass(frozen=True)
class Codec:
    """How one field stands in a cell."""

    read: Callable[[str], Any]
    write: Callable[[Any], str]


def _flag(text: str) -> bool:
    if text.lower() not in YES | NO:
        raise ValueError("yes or no")
    return text.lower() in YES


def _whole(text: str) -> int:
    value = number(text)
    if not value.is_integer():
        raise ValueError("a whole number")
    return int(value)


PLAIN: dict[type, Codec] = {
    bool: Codec(_flag, lambda v: "yes" if v else "no"),
    int: Codec(_whole, str),
    float: Codec(number, show),
    str: Codec(str, str),
}


def codec(hint: Any) -> Codec:
    """The codec of a field's type: numbers, yes or no, words; lists with spaces between; records with colons."""
    while get_origin(hint) is Annotated:
        hint = get_args(hint)[0]
    options = [a for a in get_args(hint) if a is not type(None)]
    if hint in PLAIN:
        return PLAIN[hint]
    if get_origin(hint) is list:
        inner = codec(options[0])
        return Codec(lambda text: [inner.read(part) for part in text.split()], lambda v: " ".join(inner.write(x) for x in v))
    if isinstance(hint, type) and is_dataclass(hint):
        return _record(hint)
    if options and all(isinstance(o, int) for o in options):
        return PLAIN[int]
    if options and type(None) in get_args(hint):
        return codec(options[0])
    return PLAIN[str]


def _record(kind: type) -> Codec:
    parts = columns_of(kind)

    def read_record(text: str) -> dict[str, Any]:
        values = text.split(":")
        if len(values) != len(parts):
            raise ValueError(f"{' : '.join(parts)}, parts joined by colons")
        return {name: c.read(value) for (name, c), value in zip(parts.items(), values, strict=True)}

    return Codec(read_record, lambda v: ":".join(c.write(getattr(v, name)) for name, c in parts.items()))


def columns_of(kind: Any) -> dict[str, Codec]:
    """A dataclass's fields and how each stands in a cell, in their order; masses and lengths may bring their unit."""
    hints = get_type_hints(kind, include_extras=True)
    out = {f.name: codec(hints[f.name]) for f in fields(kind)}
    ends = {name: name.rsplit("_", 1)[-1] for name in out}
    return {name: with_unit(c, ends[name]) if ends[name] in OTHERS else c for name, c in out.items()}


MEASURED = re.compile(r"(\d+(?:[.,]\d+)?)(?:\s*([a-zA-Z\"″]+))?")
"""A number and the unit behind it, if there is one."""
UNIT_WORDS = {"lbs": "lb", "pound": "lb", "pounds": "lb", '"': "in", "″": "in", "inch": "in", "inches": "in"}


def with_unit(inner: Codec, unit: str) -> Codec:
    """A codec of masses or lengths whose cells may name their unit, ``25lb`` or ``5 10 25 lb``, or mean the one in force."""

    def read(text: str) -> Any:
        named = [(m[2] or "").lower() for m in MEASURED.finditer(text)]
        named = [UNIT_WORDS.get(word, word) for word in named if word]
        if not named:
            if unit_shown(unit) == unit:
                return inner.read(text)
            named = [unit_shown(unit)]
        if any(word not in OTHERS[unit] for word in named):
            raise ValueError(f"a number such as 12.5 or 12,5, in {' or '.join(OTHERS[unit])}")

        def meant(found: re.Match[str]) -> str:
            word = (found[2] or "").lower()
            own = UNIT_WORDS.get(word, word) or named[-1]
            return show(round(number(found[1]) * SIZES[own] / SIZES[unit], 6))

        return inner.read(MEASURED.sub(meant, text))

    def write(value: Any) -> str:
        there = unit_shown(unit)
        if there == unit:
            return inner.write(value)
        return MEASURED.sub(lambda m: f"{converted(float(m[1]), unit, there):g}{there}", inner.write(value))

    return Codec(read, write)


def cells_of(value: Any) -> dict[str, str]:
    """A dataclass as cells; what is at its default is left out."""
    out, kind = {}, type(value)
    own: dict[str, Codec] = columns_of(kind)
    for f in fields(value):
        held = getattr(value, f.name)
        usual = f.default_factory() if f.default_factory is not MISSING else f.default
        if held != usual and held is not None and held != []:
            out[f.name] = own[f.name].write(held)
    return out


def open_lists(kind: Any) -> list[str]:
    """Fields of a dataclass that must be given and are lists, which an empty cell stands for."""
    hints = get_type_hints(kind)
    needed = [f.name for f in fields(kind) if f.default is MISSING and f.default_factory is MISSING]
    return [name for name in needed if get_origin(hints[name]) is list]


@dataclass(frozen=True)
class NamedField:
    """A dataclass's field as people see it."""

    name: str
    label: str
    needed: bool
    usual: Any


def named_fields(kind: Any) -> list[NamedField]:
    """All fields but the kind, with what their metadata calls them."""
    out = []
    for f in fields(kind):
        if f.name == "kind":
            continue
        needed = f.default is MISSING and f.default_factory is MISSING
        usual = None if needed else f.default_factory() if f.default_factory is not MISSING else f.default
        label = f.metadata.get("description") or {"id": "Short id, one of a kind here", "name": "Name"}.get(f.name, f.name)
        out.append(NamedField(f.name, label, needed and f.name not in open_lists(kind), usual))
    return out
