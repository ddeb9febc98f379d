"""A card on paper: a lift a page, or the session on a page with boxes to write in; PDF, made from HTML by weasyprint."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from html import escape
from typing import Any, Literal

import numpy as np

from oddswap.documents.card import CardDoc, CardLiftDoc
from oddswap.documents.profile import ProfileDoc
from oddswap.errors import DomainError

Paper = Literal["a5", "a4"]
STYLE = """
@page { size: %(size)s; margin: 11mm 12mm; @bottom-right { content: counter(page) " / " counter(pages); font: 8pt sans-serif } }
body { font: 10pt/1.35 "Instrument Sans", "DejaVu Sans", sans-serif; color: #1c2a30; margin: 0 }
h1 { font-size: 15pt; margin: 0 0 1mm } h2 { font-size: 12pt; margin: 0 }
p { margin: 0 0 1mm } .quiet { color: #56646b } .load { font-size: 19pt; font-weight: 700; color: #ad4a11 }
.lift { break-inside: avoid; border-top: 0.4mm solid #d9d0bf; padding: 3mm 0 }
.page { break-after: page } .page:last-child { break-after: auto }
table { border-collapse: collapse; width: 100%% } td { vertical-align: top; padding: 0.6mm 2mm 0.6mm 0 }
.box { display: inline-block; width: 13mm; height: 7mm; border: 0.3mm solid #1c2a30; border-radius: 1mm; margin-right: 2mm }
.head { display: flex; justify-content: space-between } ol, ul { margin: 1mm 0; padding-left: 5mm }
.watch { border-left: 1mm solid #ad4a11; padding-left: 2mm; margin: 1mm 0 } svg { display: block }
"""
WIDTH, HEIGHT = 360, 240
"""Of a drawing, CSS pixels."""


def card_pdf(card: CardDoc, paper: Paper) -> bytes:
    """A card as PDF.

    Raises:
        DomainError: Where the machine lacks the library that sets type.
    """
    try:
        from weasyprint import HTML  # type: ignore[import-untyped]
    except OSError as error:
        limit, way_out = "printing needs the library Pango on this machine", "Install libpango-1.0-0 and libpangoft2-1.0-0"
        raise DomainError("paper", paper, limit, way_out) from error
    out: Any = HTML(string=card_html(card, paper)).write_pdf()
    return bytes(out)


def card_html(card: CardDoc, paper: Paper) -> str:
    """A card as HTML for print, whole in itself."""
    size = "A5" if paper == "a5" else "A4"
    body = _pages(card) if paper == "a5" else _sheet(card)
    title = escape(f"{card.session}, {card.place}")
    head = f"<meta charset='utf-8'><title>{title}</title><style>{STYLE % {'size': size}}</style>"
    return f"<!doctype html><html lang='en'><head>{head}</head><body>{body}</body></html>"


def _pages(card: CardDoc) -> str:
    n, first = len(card.lifts), _safety(card)
    return "".join(
        f"<section class='page'>{_top(card, f'lift {i + 1} of {n}')}{_lift(lift, True)}{'' if i else first}</section>"
        for i, lift in enumerate(card.lifts)
    )


def _sheet(card: CardDoc) -> str:
    lifts = "".join(f"<section class='lift'>{_lift(lift, False)}</section>" for lift in card.lifts)
    return _top(card, f"{len(card.lifts)} lifts") + lifts + _safety(card)


def _top(card: CardDoc, what: str) -> str:
    said = f"{card.place} · {what}{f' · {card.week}' if card.week else ''} · revision {card.revision}, {card.made_at:%d %b %Y}"
    return (
        f"<div class='head'><h1>{escape(card.session)}</h1><p class='quiet'>{escape(card.client)}</p></div>"
        f"<p class='quiet'>{escape(said)}</p>"
    )


def _lift(lift: CardLiftDoc, whole: bool) -> str:
    way = lift.ways[0]
    label = f"{escape(lift.label)} " if lift.label else ""
    steps = "".join(f"<li><b>{escape(s.what)}</b> {escape(s.value)}{_quiet(s.tolerance)}</li>" for s in way.steps)
    sets = f"{way.scheme or f'{lift.sets} × {way.reps}'}{' each side' if lift.each_side else ''}, rest {lift.rest_s} s"
    boxes = "<span class='box'></span>" * lift.sets
    more = _list(way.feel) if whole else ""
    watch = "".join(f"<p class='watch'>{escape(w)}</p>" for w in way.watch) if whole else ""
    tempo = f"<p>{escape(lift.tempo)}</p>" if lift.tempo else ""
    drawing = figure_svg(way.figure, WIDTH, HEIGHT) if whole and way.figure else ""
    why = f"<p class='quiet'>{escape(way.why)}</p>" if way.why else ""
    return (
        f"<div class='head'><h2>{label}{escape(way.title)}</h2><span class='load'>{escape(way.load)}</span></div>"
        f"<p>{escape(lift.target_name)} · {escape(sets)} · {escape(lift.stop)}</p>{tempo}{why}{drawing}"
        f"<ol>{steps}</ol>{more}{watch}<p>{boxes}<span class='quiet'>load × reps, in reserve</span></p>"
    )


def _quiet(text: str) -> str:
    return f" <span class='quiet'>{escape(text)}</span>" if text else ""


def _list(lines: Sequence[str]) -> str:
    return f"<ul>{''.join(f'<li>{escape(x)}</li>' for x in lines)}</ul>" if lines else ""


def _safety(card: CardDoc) -> str:
    return f"<div class='watch'>{_list(card.safety)}</div>"


LIMBS = (
    ("left hip", "left knee", 0.105), ("left knee", "left ankle", 0.075), ("left shoulder", "left elbow", 0.075),
    ("left elbow", "left grip", 0.055), ("hips", "shoulders", 0.2), ("right hip", "right knee", 0.105),
    ("right knee", "right ankle", 0.075), ("right ankle", "right toe", 0.05), ("right shoulder", "right elbow", 0.075),
    ("right elbow", "right grip", 0.055),
)  # fmt: skip
"""Pieces of the body between joints, and their widths, m."""


def figure_svg(profile: ProfileDoc, width: int, height: int) -> str:
    """A set-up from the side that shows it best, at the end of the range, with where it begins behind it; to scale, SVG."""
    across = _best_view(profile)
    points = np.array([p for path in profile.positions_m.values() for p in path] + [e for q in profile.pulls for e in q.ends_m])
    xs, zs = points[:, across], points[:, 2]
    box = (min(xs.min(), -0.2) - 0.15, max(xs.max(), 0.2) + 0.15, min(zs.min(), 0.0) - 0.05, zs.max() + 0.2)
    scale = min(width / (box[1] - box[0]), (height - 12) / (box[3] - box[2]))
    left = (width - scale * (box[1] - box[0])) / 2

    def at(p: Sequence[float]) -> tuple[float, float]:
        return left + scale * (p[across] - box[0]), height - 6 - scale * (p[2] - box[2])

    out = [_line(at(_on(box[0], across)), at(_on(box[1], across)), "#1c2a30", 1.5)]
    for slab in profile.slabs:
        out.append(_line(at(slab.start_m), at(slab.end_m), "#8a8474", scale * slab.thickness_m))
    for pose, colour, limb in ((0, "#e6dcc8", "#d5c9b0"), (len(profile.part) - 1, "#b9ab92", "#1c2a30")):
        out += list(_body(profile, pose, at, scale, colour, limb))
    for pull in profile.pulls:
        here = at(pull.at_m[-1])
        for end in pull.ends_m:
            out.append(_line(at((end[0], end[1], 0.0)), at((end[0], end[1], box[3] - 0.1)), "#c9c2b2", 4))
            out.append(_line(at(end), here, "#1c2a30", 1.5))
            x, y = at(end)
            out.append(f"<circle cx='{x:.1f}' cy='{y:.1f}' r='5' fill='#f4efe4' stroke='#1c2a30' stroke-width='2'/>")
        out.append(f"<circle cx='{here[0]:.1f}' cy='{here[1]:.1f}' r='4' fill='#ad4a11'/>")
    return f"<svg xmlns='http://www.w3.org/2000/svg' width='{width}' height='{height}'>{''.join(out)}</svg>"


def _on(x: float, across: int) -> list[float]:
    return [x if across == 0 else 0.0, x if across == 1 else 0.0, 0.0]


def _best_view(profile: ProfileDoc) -> int:
    """The axis across the page along which hands and knees travel farthest: 0 from the side, 1 from the front."""
    paths = [np.array(profile.positions_m[n]) for n in ("right grip", "right elbow", "right knee") if n in profile.positions_m]
    way = [sum(float(np.abs(np.diff(p[:, k])).sum()) for p in paths) for k in (0, 1)]
    return 1 if way[1] > 1.15 * way[0] else 0


def _body(profile: ProfileDoc, pose: int, project: Any, scale: float, colour: str, limb: str) -> Iterable[str]:
    """The body's pieces; the limb that works is drawn apart, as on the screen."""
    joints = profile.positions_m
    working = {"elbow": "arm", "grip": "arm", "knee": "leg", "ankle": "leg", "toe": "leg"}
    for one, other, thick in LIMBS:
        if one in joints and other in joints:
            region = working.get(other.split()[-1], "")
            works = region in profile.works and (profile.both or other.startswith("right"))
            yield _line(project(joints[one][pose]), project(joints[other][pose]), limb if works else colour, scale * thick)
    if "head" in joints:
        x, y = project(joints["head"][pose])
        yield f"<circle cx='{x:.1f}' cy='{y:.1f}' r='{scale * 0.1:.1f}' fill='{colour}'/>"


def _line(start: tuple[float, float], end: tuple[float, float], colour: str, thick: float) -> str:
    return (
        f"<line x1='{start[0]:.1f}' y1='{start[1]:.1f}' x2='{end[0]:.1f}' y2='{end[1]:.1f}' stroke='{colour}' "
        f"stroke-width='{thick:.1f}' stroke-linecap='round'/>"
    )
