"""Documents of earlier format versions, brought to the present one.

Version 1 is read as it was written; what is stored and what goes out is version 2. Version 2 took the names of the trade:
what changed is listed here and nowhere else.
"""

from __future__ import annotations

from typing import Any

KEYS = {
    "sore": "restrictions",
    "girdle_forward": "scapula_forward",
    "girdle_up": "scapula_up",
}
"""Fields of version 1 with another name now."""
MOVEMENTS = {
    "shrug_up": "shrug",
    "shrug_back": "scapular_retraction",
    "shrug_up_in": "up_and_in_shrug",
    "hinge": "romanian_deadlift",
}
STANCES = {"chest_pad": "chest_supported", "bent": "bent_over"}
LENSES = {"same_shape": "same_profile", "long_end": "lengthened"}
PARTS = {"shape": "profile", "steadiness": "stability", "long": "lengthened", "handy": "setup"}
VALUES: dict[str, dict[str, str]] = {
    "movement": MOVEMENTS,
    "knows": MOVEMENTS,
    "banned": MOVEMENTS,
    "pinned": MOVEMENTS,
    "stance": STANCES,
    "lens": LENSES,
    "cam": {"bell": "peaked"},
    "equivalence": {"long": "lengthened"},
}
"""By field, values of version 1 with another name now."""
PREFIX = "odd-swap/"


def is_old(data: object) -> bool:
    """Whether a document as read is of version 1, by its ``format``, or by a field that only version 1 has."""
    if not isinstance(data, dict):
        return False
    written = data.get("format")
    return (isinstance(written, str) and written.startswith(PREFIX) and written.endswith("/1")) or "sore" in data


def upgrade(data: Any) -> Any:
    """A document of version 1, or a part of one, as version 2; what has the same name in both stays as it is.

    Args:
        data: Parsed JSON.

    Returns:
        A copy with fields, ids and the version renamed.
    """
    if isinstance(data, list):
        return [upgrade(value) for value in data]
    if not isinstance(data, dict):
        return data
    out = {}
    for name, value in data.items():
        if name == "weights" and isinstance(value, dict):
            out[name] = _weights(value)
            continue
        made = upgrade(value)
        names = VALUES.get(name, {})
        if isinstance(made, str):
            made = names.get(made, made)
        elif isinstance(made, list) and names:
            made = [names.get(v, v) if isinstance(v, str) else v for v in made]
        out[KEYS.get(name, name)] = made
    written = out.get("format")
    if isinstance(written, str) and written.startswith(PREFIX) and written.endswith("/1"):
        out["format"] = written[:-1] + "2"
    key = out.get("key")
    if isinstance(key, str) and ":" in key:
        movement, rest = key.split(":", 1)
        out["key"] = f"{MOVEMENTS.get(movement, movement)}:{rest}"
    return out


def _weights(data: dict[str, Any]) -> dict[str, Any]:
    """Weights of a match's parts, or those by lens."""
    out: dict[str, Any] = {}
    for name, value in data.items():
        if isinstance(value, dict):
            out[LENSES.get(name, name)] = _weights(value)
        else:
            out[PARTS.get(name, name)] = value
    return out
