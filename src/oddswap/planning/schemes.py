"""Figures of a line as they are written: sets, repetitions, loads, reserve, back-off sets."""

from __future__ import annotations

import re
from dataclasses import replace

from lark import Token, Tree

from oddswap.equivalence.conversion import repetitions_at
from oddswap.planning.session import session_rules
from oddswap.planning.sets import PlannedSet
from oddswap.planning.written import Span, Written
from oddswap.quantities import SIZES

RPE_FAILURE = 10
"""Rating of an effort to failure: repetitions in reserve are what is missing to it (Zourdos and others 2016)."""
LEAST_RPE = 5
"""``@`` with a smaller number means repetitions in reserve, with this or a greater one a rating: common practice, no source."""
LIGHTEST, MOST_RESERVE = 0.3, 6
"""Part of the first sets' load under which nothing is a back-off set, and repetitions in reserve that are not counted beyond:
own estimates."""
NOT_SAID = -1
"""Reserve of a set whose line does not say one."""


def text_of(tree: Tree[Token]) -> str:
    """What was written of a figure."""
    return str(tree.children[0]).strip()


def _numbers(text: str) -> list[float]:
    return [float(n.replace(",", ".")) for n in re.findall(r"\d+(?:[.,]\d+)?", text)]


def with_figure(made: Written, tree: Tree[Token]) -> Written:
    """With what one figure says; a second of its sort is not understood."""
    text, n = text_of(tree), _numbers(text_of(tree))
    fields: dict[str, object] = {}
    match str(tree.data):
        case "label":
            fields = {"label": text.rstrip(".):").upper()}
        case "scheme" if len(n) == 1:
            fields = {"sets": int(n[0]), "amrap": True}
        case "scheme" | "scheme_words":
            fields = {"sets": int(n[0]), "reps": (int(n[1]), int(n[2] if len(n) > 2 else n[1]))}
            if re.search(r"side|arm|leg|seite|[e/]\s*s$", text, re.I):
                fields["each_side"] = True
        case "amrap":
            fields = {"amrap": True} | ({"sets": int(n[0])} if n else {})
        case "reps_list":
            each = [int(k) for k in re.findall(r"\d+", text)]
            fields = {
                "sets": len(each),
                "reps": (min(each), max(each)),
                "sets_as": tuple(PlannedSet(k, k, NOT_SAID) for k in each),
            }
        case "hold":
            lasts = max(1, round(n[1] / session_rules()["rep_s"]))
            fields = {"sets": int(n[0]), "hold_s": int(n[1]), "reps": (lasts, lasts)}
        case "percent" | "less":
            fields = {"percent": n[0] if tree.data == "percent" else 100 - n[0]}
        case "sides":
            fields = {"each_side": True}
        case "reps_only":
            fields = {"reps": (int(n[0]), int(n[-1]))}
        case "sets_only":
            fields = {"sets": int(n[0])}
        case "load" | "pair" as sort:
            fields = _load(text, Span(tree.meta.start_pos, tree.meta.end_pos, text), sort == "pair")
        case "bodyweight":
            fields = {"load": 0.0, "load_unit": ""}
        case "rir":
            fields = {"rir": int(n[0])}
        case "rpe":
            fields = {"rir": max(0, int(RPE_FAILURE - n[0] + 0.5))}
        case "at":
            fields = {"rir": int(n[0]) if n[0] < LEAST_RPE else max(0, int(RPE_FAILURE - n[0] + 0.5))}
        case "failure":
            fields = {"rir": 0}
        case "tempo":
            digits = re.findall(r"[\dx]", re.sub(r"(?i)tempo", "", text).lower())
            fields = {"tempo": tuple(0 if d == "x" else int(d) for d in digits)}
        case "rest":
            minutes = re.search(r"\d\s*(?:min|m\b|')", text, re.I)
            fields = {"rest_s": int(n[0] * (60 if minutes else 1))}
        case "method":
            fields = {"methods": (*made.methods, _method(text))}
    twice = [k for k in fields if k != "methods" and getattr(made, k) not in (None, "", (), False)]
    if twice:
        start = tree.meta.start_pos
        return replace(made, unknown=[*made.unknown, Span(start, tree.meta.end_pos, text)])
    return replace(made, **fields)  # type: ignore[arg-type]


def _load(text: str, span: Span, counted: bool) -> dict[str, object]:
    """A load, ``counted`` in weights as in ``2x24kg`` or not, and where it is written."""
    *pieces, load = _numbers(text)
    fields: dict[str, object] = {
        "load": load,
        "load_unit": "lb" if re.search(r"lb|pound", text, re.I) else "kg",
        "load_at": span,
    }
    return fields | ({"pieces": int(pieces[0])} if counted else {"less": text.lstrip("@ ")[0] in "-−"})


def _method(text: str) -> str:
    """A method's usual name, with how often."""
    words, times = text.casefold().lstrip("+ "), _numbers(text)
    names = {"drop": "drop", "partial": "partials", "halve": "partials", "rest": "rest-pause", "myo": "myo-reps"}
    names |= {"cluster": "cluster", "stop": "dead stop", "pause": "paused"}
    name = next(v for k, v in names.items() if k in words)
    return f"{name} x{int(times[0])}" if times else name


def with_back_off(made: Written, after: Written | None, said: Span) -> Written:
    """With lighter sets after the first ones; where it is not said how light they are, they are not understood."""
    if after is None:
        return made
    part = None
    if after.percent is not None:
        part = after.percent / 100
    elif after.load and made.load:
        part = after.load * SIZES.get(after.load_unit or "kg", 1.0) / (made.load * SIZES.get(made.load_unit or "kg", 1.0))
    first, then = _scheme(made), _scheme(after)
    if part is None or not LIGHTEST <= part < 1 or first is None or then is None or made.sets_as:
        return replace(made, unknown=[*made.unknown, *after.unknown, said], sure=False)
    reserve = NOT_SAID if made.rir is None else made.rir
    sets = [PlannedSet(*first[1], reserve)] * first[0]
    sets += [PlannedSet(*then[1], reserve if after.rir is None else after.rir, round(part, 2))] * then[0]
    kept = {"rest_s": made.rest_s or after.rest_s, "methods": (*made.methods, *after.methods)}
    unknown = [*made.unknown, *after.unknown]
    return replace(made, sets=len(sets), sets_as=sets, unknown=unknown, **kept)  # type: ignore[arg-type]


def _scheme(made: Written) -> tuple[int, tuple[int, int]] | None:
    """Sets and repetitions; None where one is not said."""
    return None if made.sets is None or made.reps is None else (made.sets, made.reps)


def by_percent(made: Written) -> Written:
    """With the reserve that a part of what can be lifted once leaves (Epley 1985, from memory)."""
    if made.percent is None or made.rir is not None or made.reps is None:
        return made
    left = repetitions_at(made.percent / 100, 1.0) - made.reps[1]
    return replace(made, rir=int(min(max(round(left), 0), MOST_RESERVE)))
