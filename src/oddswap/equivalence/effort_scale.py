"""What every amount of a set-up asks of a client beside the prescription: what a log is read by, without computing anew."""

from __future__ import annotations

import numpy as np

from oddswap.equivalence.candidates import amounts_of
from oddswap.equivalence.carried import line_about_load
from oddswap.equivalence.loads import peak_effort
from oddswap.equivalence.prescription import Place, PrescriptionProfile
from oddswap.equivalence.response import response
from oddswap.equivalence.set_up import SetUp, follows_load
from oddswap.equivalence.variants import mechanics_of
from oddswap.mechanics.types import Floats

MOST_AMOUNTS = 48
"""Amounts that a scale names; between them it is read straight."""
SPAN = 2.5
"""Times the amount in use that a scale reaches up and down, so far as there are amounts."""


def effort_ratios(prescription: PrescriptionProfile, set_up: SetUp, amounts: Floats) -> Floats:
    """Peak effort of the target over the prescription's, at amounts (amount,) of a set-up's first source, ratios, (amount,).

    Args:
        prescription: What is written.
        set_up: How it is done; its first source's own amount only says about which load a leaning body is balanced.
        amounts: In the first source's unit; without any source they make no difference.
    """
    group = prescription.group
    if not set_up.sources:
        own = mechanics_of(prescription.body, set_up).demands[group.id].own
        per_unit = np.zeros_like(own)
    elif follows_load(set_up):
        own, per_unit = line_about_load(prescription, set_up)
    else:
        own, per_unit = response(mechanics_of(prescription.body, set_up), group, set_up.sources[0], set_up.sources[1:])
    used = per_unit / prescription.handling_of(set_up)
    peaks = peak_effort(own[None, :], used[None, :], np.asarray(amounts, dtype=float))
    return np.asarray(peaks / (prescription.counted_for(set_up) * prescription.levels["hardest"]))


def amounts_about(set_up: SetUp, place: Place) -> Floats:
    """Amounts there are of a set-up's first source about the one in use, ascending, (amount,), at most ``MOST_AMOUNTS``."""
    if not set_up.sources:
        return np.zeros(1)
    there, used = amounts_of(set_up.sources[0], place), set_up.sources[0].amount
    near = there[(there >= used / SPAN - 1e-9) & (there <= used * SPAN + 1e-9)]
    near = np.union1d(near, [used])
    return np.asarray(near[np.unique(np.linspace(0, len(near) - 1, MOST_AMOUNTS).round().astype(int))])


def written_amounts(set_up: SetUp) -> Floats:
    """Amounts about that of a prescribed set-up, ascending, (amount,): what a log is drawn on."""
    used = set_up.sources[0].amount if set_up.sources else 0.0
    return np.asarray(used * np.geomspace(1 / SPAN, SPAN, 9)) if used else np.zeros(1)
