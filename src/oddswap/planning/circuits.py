"""A circuit written in one line, ``3 rounds: 10 push ups, 12 db row 14kg, rest 90 s``, taken apart into lines as typed.

Every lift becomes a line of its own with a common label; its sets are the rounds, and the rest after a round is the last one's.
"""

from __future__ import annotations

import re
import tomllib
from collections.abc import Collection
from importlib.resources import files

LETTERS = "ABCDEFGH"
"""Letters of groups, as labels have them."""
MOST = 9
"""Lifts of a circuit: labels count no further."""


def _words(name: str) -> str:
    """Words of the data file as a pattern, the longest first."""
    words = sorted(tomllib.loads((files("oddswap.planning") / "data" / "circuit.toml").read_text("utf-8"))[name], key=len)
    return rf"(?:{'|'.join(re.escape(w) for w in reversed(words))})(?!\w)"


ROUND, NAMES, OF, SOME_REST = _words("rounds"), _words("names"), _words("of"), _words("rest")
HEAD = re.compile(
    rf"^\s*(?:(?P<label>[a-h])[.):]?\s+)?(?:{NAMES}\s*(?:{OF})?\s*:?\s*)?"
    rf"(?:(?P<rounds>\d{{1,2}})\s*(?:{ROUND}(?:\s+{OF})?|[x×]\s*[:(])|[x×]\s*(?P<times>\d{{1,2}})\s*[:(])\s*[:(]?\s*",
    re.IGNORECASE,
)
"""How a circuit begins: what it is called, and how many rounds."""
TAIL = re.compile(rf"[,;]?\s*(?:[x×]\s*(\d{{1,2}})|(\d{{1,2}})\s*{ROUND})\s*$", re.IGNORECASE)
"""Rounds that stand at the end."""
BETWEEN = re.compile(rf"\s*(?:[,;](?!\d)|\s\+\s|\s/\s|\b{_words('then')})\s*", re.IGNORECASE)
"""What parts one lift from the next; a comma within a number does not."""
REST = re.compile(rf"^{SOME_REST}|\b{SOME_REST}$", re.IGNORECASE)
OF_A_SET = re.compile(rf"^(?:{_words('of_a_set')}|amrap$|[-−\d\s%x×]+$)", re.IGNORECASE)
"""What belongs to the set before it, and is no lift."""
SCHEME = re.compile(r"\d{1,2}\s*[x×*]\s*(?=\d|amrap|max)", re.IGNORECASE)
"""Sets of a lift that has its own; the rounds stand in their place."""
SECONDS = re.compile(rf"(?<![\d.,])(\d{{1,3}})\s*{_words('seconds')}", re.IGNORECASE)
UNIT = rf"(?!\d|[.,]\d|\s*{_words('units')})"
COUNT = re.compile(rf"(?<![\w.,@/-])(\d{{1,3}}(?:\s*[-–]\s*\d{{1,3}})?){UNIT}(?:\s*(?:x|×|reps?|wdh)\b)?", re.IGNORECASE)
AMRAP = re.compile(r"\bamrap\b|(?<!% )(?<!%)(?<!of )\bmax\b", re.IGNORECASE)
"""As many as possible; a part of the most that can be lifted once is a load."""


def spread_circuit(text: str, taken: Collection[str] = ()) -> list[str]:
    """The lines of a circuit that was written in one; the text alone where it is none.

    Args:
        text: As it was typed.
        taken: Letters of groups that there are already.
    """
    head, tail = HEAD.match(text), TAIL.search(text)
    named = re.match(rf"^\s*(?:[a-z][.):]?\s+)?{NAMES}\s*:?\s*", text, re.IGNORECASE)
    if head:
        rounds, body = int(head["rounds"] or head["times"]), text[head.end() :]
    elif named and tail:
        rounds, body = int(tail[1] or tail[2]), text[named.end() : tail.start()]
    else:
        return [text]
    pieces = [p.strip(" ().:") for p in BETWEEN.split(body)]
    if any(OF_A_SET.match(p) for p in pieces):
        return [text]
    rests = [p for p in pieces if REST.search(p)]
    lifts = [p for p in pieces if p and p not in rests]
    if not 2 <= len(lifts) <= MOST or not rounds:
        return [text]
    letter = head["label"].upper() if head and head["label"] else next((c for c in LETTERS if c not in taken), "")
    labels = [f"{letter}{i}. " if letter else "" for i in range(1, len(lifts) + 1)]
    out = [label + _in_rounds(lift, rounds) for label, lift in zip(labels, lifts, strict=True)]
    return [*out[:-1], " ".join([out[-1], *rests])]


def _in_rounds(lift: str, rounds: int) -> str:
    """A lift of a circuit with its count as sets of so many."""
    if SCHEME.search(lift):
        return SCHEME.sub(f"{rounds}x", lift, count=1)
    if AMRAP.search(lift):
        return AMRAP.sub(f"{rounds}xamrap", lift, count=1)
    held, counts = SECONDS.search(lift), list(COUNT.finditer(lift))
    if held:
        return _without(lift, held, f"{rounds}x{held[1]}s")
    if not counts:
        return f"{lift} {rounds} sets"
    # The count stands first or last; a number between may be the bench's.
    count = counts[0] if not lift[: counts[0].start()].strip() else counts[-1]
    return _without(lift, count, f"{rounds}x{count[1].replace(' ', '')}")


def _without(lift: str, part: re.Match[str], scheme: str) -> str:
    """The words around a part, then the scheme that it became."""
    return " ".join([*lift[: part.start()].split(), *lift[part.end() :].split(), scheme])
