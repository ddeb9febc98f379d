"""Reach maps, guided runs and a client's size as documents."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np
from pydantic import BaseModel, ConfigDict

from oddswap.devices.runs import BandFit, CamFit, ColumnFit, Fit, RangeFit, repeat_advice
from oddswap.documents.kit import AnyItem
from oddswap.equivalence.coverage import ZONES, Cell, gap_words
from oddswap.equivalence.purchases import Purchase
from oddswap.mechanics.body import GRAVITY, Body
from oddswap.training_log.bodyweight import trend

LANDMARKS = ("ankle", "knee", "hip", "navel", "chest", "shoulder", "chin", "eye")
"""Heights that are shown on the figure."""


class Report(BaseModel):
    """Common rules."""

    model_config = ConfigDict(use_attribute_docstrings=True)


class CellDoc(Report):
    """A muscle in a zone."""

    zone: str
    possible: bool
    """Whether any movement takes the muscle there."""
    score: float
    """All of it, 0 to 100."""
    match: float
    """Likeness to a full, even load, 0 to 100."""
    load: float
    """Part of the load the client needs, 0 to 1."""
    share: float
    """The muscle's own part of the work against a fair one, 0 to 1."""
    title: str
    """The best movement; empty where there is none."""
    kit: str
    """What loads it, and how much; empty where the body does."""
    rows: list[list[str]]
    """How to set it up: what and value."""
    gap: str
    """Why it is weak; empty where it is not."""

    @staticmethod
    def of(cell: Cell) -> CellDoc:
        """The document of a cell."""
        kit, rows = "", []
        if cell.setting is not None:
            kit = f"{cell.setting.amount_words(cell.setting.amount)}, {cell.setting.short()}"
            rows = [[r.what, r.value] for r in cell.setting.rows()]
        return CellDoc(
            zone=ZONES[cell.zone],
            possible=cell.possible,
            score=round(cell.score, 1),
            match=round(cell.match, 1),
            load=round(cell.load, 3),
            share=round(cell.share, 3),
            title=cell.mechanics.title if cell.mechanics else "",
            kit=kit,
            rows=rows,
            gap=gap_words(cell),
        )


class ReachRow(Report):
    """A muscle group over its zones, lengthened end first."""

    group: str
    name: str
    region: str
    cells: list[CellDoc]


class ReachDoc(Report):
    """How well a place can load a client."""

    client: str
    place: str
    rows: list[ReachRow]
    covered: int
    """Cells that are loaded fairly."""
    possible: int
    """Cells that any movement reaches."""

    @staticmethod
    def of(client: str, place: str, cells: Sequence[Cell], fair: float) -> ReachDoc:
        """The document of a map."""
        rows: dict[str, ReachRow] = {}
        for cell in cells:
            g = cell.group
            rows.setdefault(g.id, ReachRow(group=g.id, name=g.name, region=g.region, cells=[])).cells.append(CellDoc.of(cell))
        able = [c for c in cells if c.possible]
        covered = sum(c.score >= fair for c in able)
        return ReachDoc(client=client, place=place, rows=list(rows.values()), covered=covered, possible=len(able))


class ClosedDoc(Report):
    """A gap that a purchase would close."""

    group: str
    name: str
    zone: str
    score: float
    title: str
    kit: str


class PurchaseDoc(Report):
    """What one purchase would do."""

    id: str
    name: str
    gain: float
    """Points over all cells."""
    closes: list[ClosedDoc]

    @staticmethod
    def of(purchase: Purchase) -> PurchaseDoc:
        """The document of a purchase."""
        closes = []
        for cell in purchase.closes:
            d = CellDoc.of(cell)
            closes.append(
                ClosedDoc(group=cell.group.id, name=cell.group.name, zone=d.zone, score=d.score, title=d.title, kit=d.kit)
            )
        return PurchaseDoc(id=purchase.id, name=purchase.name, gain=round(purchase.gain, 1), closes=closes)


class SteadyDoc(Report):
    """What an instrument showed while nothing moved."""

    value: float
    """N, or degrees."""
    error: float
    """Its standard error."""
    zero: float
    """What it showed unloaded just before."""
    zero_error: float
    used: int
    """How many readings count."""
    shown: list[float | None]
    """All readings, for the trace; empty places are drop-outs."""


class PointDoc(Report):
    """A point of a fitted curve."""

    at: float
    value: float


class FitDoc(Report):
    """The result of a guided run."""

    curve: list[PointDoc]
    """The fit along what was measured: cm and N, kg and N, part of the travel and of the mean."""
    residuals: list[float]
    """What each reading is off the fit, N or degrees."""
    outliers: list[bool]
    spread: float
    """Scatter of the readings that count, part of their size."""
    good_enough: bool
    advice: str
    figures: dict[str, float]
    """What was found, units in the names."""
    item: AnyItem | None = None
    """The kit item with the result in it."""
    changed: list[str] = []
    """What of the item changes, in words."""


def fit_doc(fit: Fit, positions: Sequence[float], item: Any, changed: list[str]) -> FitDoc:
    """The document of a run's result."""
    curve: list[PointDoc] = []
    figures: dict[str, float] = {}
    unit = "deg" if isinstance(fit, RangeFit) else "N"
    if isinstance(fit, BandFit):
        curve = [PointDoc(at=round(x * 100, 1), value=round(float(y), 2)) for x, y in zip(fit.lengths, fit.forces, strict=True)]
        figures = {"slack_cm": round(fit.slack * 100, 1), "most_n": round(float(fit.forces[-1]), 1)}
    elif isinstance(fit, ColumnFit):
        for sign in (1, -1):
            slope = GRAVITY * fit.ratio * (1 + sign * fit.friction)
            curve += [PointDoc(at=x, value=round(slope * x + fit.offset, 2)) for x in (0.0, max(positions))]
        figures = {"ratio": round(fit.ratio, 4), "friction": round(fit.friction, 3), "handle_n": round(fit.offset, 2)}
    elif isinstance(fit, CamFit):
        parts = np.linspace(0, 1, len(fit.shape))
        curve = [PointDoc(at=round(float(x), 3), value=round(float(y), 3)) for x, y in zip(parts, fit.shape, strict=True)]
        figures = {"radius_cm": round(fit.radius * 100, 2)}
    elif isinstance(fit, RangeFit):
        figures = {"low_deg": round(fit.low, 1), "high_deg": round(fit.high, 1), "repetitions": fit.repetitions}
    return FitDoc(
        curve=curve,
        residuals=[round(float(r), 3) for r in fit.residuals],
        outliers=[bool(o) for o in fit.outliers],
        spread=round(fit.spread, 4),
        good_enough=fit.good_enough,
        advice=repeat_advice(fit, unit),
        figures=figures,
        item=item,
        changed=changed,
    )


class SizeDoc(Report):
    """A client's size in figures."""

    heights_cm: dict[str, float]
    """Landmarks above the floor, standing."""
    lengths_cm: dict[str, float]
    """Segments, the client's own where measured."""
    masses_kg: dict[str, float]
    trend_kg_week: float | None
    """Bodyweight change over the last weeks; none with fewer than three weighings."""
    trend: str
    """In words."""

    @staticmethod
    def of(body: Body, weights: Sequence[tuple[float, float]]) -> SizeDoc:
        """Of a body and weighings (day number, kg)."""
        slope, words = trend(weights)
        segments = ("upper_arm", "forearm", "hand", "thigh", "shank", "foot")
        return SizeDoc(
            heights_cm={n: round(body.height(n) * 100, 1) for n in LANDMARKS},
            lengths_cm={n: round(body.length(n) * 100, 1) for n in segments},
            masses_kg={n: round(body.segment_mass(n), 2) for n in (*segments, "trunk", "head")},
            trend_kg_week=None if slope is None else round(slope, 2),
            trend=words,
        )
