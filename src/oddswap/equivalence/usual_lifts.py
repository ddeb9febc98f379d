"""The lifts that a place is good for: every movement where it leaves its first target the largest share of the work."""

from __future__ import annotations

import numpy as np

from oddswap.equivalence.index import build_reach_table
from oddswap.equivalence.loads import equal_effort, peak_effort
from oddswap.equivalence.prescription import Place
from oddswap.equivalence.rules import rules
from oddswap.equivalence.set_up import SetUp
from oddswap.mechanics.body import Body


def usual_lifts(body: Body, place: Place) -> list[tuple[SetUp, str]]:
    """Set-ups at an amount that asks for a usual effort, one a movement, with the muscle group each is for.

    Args:
        body: The client.
        place: Where.
    """
    table, need, most = build_reach_table(body, place), float(rules("reach")["need"]), float(rules("reach")["too_much"])
    out = []
    for target, rows in table.rows.items():
        amounts = [source.amounts for source in table.sources]
        least, top = (np.array([a[k] for a in amounts])[rows.source] for k in (0, -1))
        wanted = equal_effort(rows.own, rows.unit, need)
        amount = np.clip(np.where(np.isfinite(wanted), wanted, least), least, np.minimum(top, rows.hold))
        effort = peak_effort(rows.own, rows.unit, amount)
        good = (effort > need / 2) & (effort < most) & (rows.hold >= least)
        done: set[str] = set()
        # Rows stand by the share that they leave to the target.
        for i in np.flatnonzero(good).tolist():
            mechanics, source = table.variants[rows.variant[i]], table.sources[rows.source[i]]
            if mechanics.kind.id in done or mechanics.kind.targets[0] != target:
                continue
            done.add(mechanics.kind.id)
            near = source.amounts[np.abs(source.amounts - amount[i]).argmin()]
            loads = [] if source.batch is None else [source.batch.setting(int(rows.placement[i]), float(near))]
            out.append((mechanics.set_up(*loads), target))
    return out
