"""When a lift has been kept long enough: about a month, longer while it still rises."""

from __future__ import annotations

from collections.abc import Sequence

from oddswap.training_log.progression import LOOKED_BACK, by_session, plateau
from oddswap.training_log.rules import rules
from oddswap.training_log.sets import LoggedSet


def rotation_due(sets: Sequence[LoggedSet], today: float, kept_since: float = float("-inf")) -> str:
    """Why a set-up is due for a change, in words; empty where it is not.

    Args:
        sets: Of one line in one set-up at one place.
        today: Days since the sets' origin.
        kept_since: When a coach last chose to keep it.
    """
    r, days = rules("next"), [s.day for s in sets]
    if not days or today - max(days) > r["rotate_days"] or today - kept_since < r["rotate_days"]:
        return ""
    kept = max(days) - min(days)
    if kept < r["rotate_days"]:
        return ""
    stuck = plateau(by_session(sets)[-LOOKED_BACK:])
    if stuck:
        return f"{kept:.0f} days the same, the last {stuck} sessions without progress"
    if kept >= r["rising_days"]:
        return f"{kept:.0f} days the same, however well it goes"
    return ""
