"""Where a guided run reads an item, in order."""

from __future__ import annotations

from typing import Any

import numpy as np

from oddswap.devices.simulated_kit import check_item

PASSES = {"band": 3, "column": 2, "cam": 2}
"""How often a run goes over its points: what scatters shows only between passes."""


def planned(what: str, item: Any) -> list[float]:
    """Where a guided run reads an item, in order: lengths in cm, pins in kg, or angles of the arm in degrees.

    Points are spread over what the item allows, short of its ends: a slack band and a bottomed stack tell nothing.

    Raises:
        DomainError: For an item that is not of the run's kind.
    """
    check_item(what, item)
    if what == "band":
        slack = item.curve()[0].length_cm
        points = np.round(np.linspace(1.12 * slack, 0.97 * item.most_cm, 7))
    elif what == "column":
        pins = np.arange(item.least_kg, item.most_kg + 1e-9, item.step_kg)
        wanted = np.linspace(min(item.least_kg + 2 * item.step_kg, item.most_kg), 0.8 * item.most_kg, 5)
        points = np.unique(pins[np.abs(pins - wanted[:, None]).argmin(axis=1)])
    else:
        points = np.round(np.linspace(10, 110, 8))
    return [round(float(p), 3) for p in points] * PASSES[what]
