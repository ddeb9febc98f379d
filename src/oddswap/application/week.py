"""A client's week as it is written, and as each of their places gives it by the swaps that were accepted there."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from oddswap.application.fields import name_field
from oddswap.application.inputs import core_prescription
from oddswap.application.versions import body_text, digest
from oddswap.documents.client import ClientDoc
from oddswap.documents.program import LineDoc
from oddswap.documents.set_up import SetUpDoc
from oddswap.documents.week import PlaceWeekDoc, WeekDoc
from oddswap.equivalence.cache import SharedCache
from oddswap.equivalence.profile import Profile, profile
from oddswap.errors import DomainError
from oddswap.mechanics.types import Floats
from oddswap.planning.balance import line_work, losses, total

ONE_SET = 0.95
"""Sets from which on a session counts for a muscle."""
_profiles: SharedCache[str, Profile] = SharedCache(512)


def week(
    client: ClientDoc,
    lines: Sequence[tuple[int, int, LineDoc]],
    places: Sequence[tuple[int, str]],
    accepted: Mapping[tuple[int, int], SetUpDoc],
) -> WeekDoc:
    """Sets by muscle and third, written and at each place.

    Args:
        client: Who.
        lines: Numbers, sessions and lines of all programs, once through.
        places: Numbers and names, in the client's order.
        accepted: Set-ups in force, by line and place.

    Raises:
        DomainError: Where the client cannot be.
    """
    by_session: dict[int, list[dict[str, Floats]]] = {}
    for _, session, line in lines:
        by_session.setdefault(session, []).append(work_of(client, line, None))
    written = total(w for works in by_session.values() for w in works)
    sums = [total(works) for works in by_session.values()]
    times = {g: sum(float(s[g].sum()) >= ONE_SET for s in sums if g in s) for g in written}
    targets = [line.target for *_, line in lines]
    at = []
    for number, name in places:
        given = total(work_of(client, line, accepted[n, number]) for n, _, line in lines if (n, number) in accepted)
        filled = sum((n, number) in accepted for n, *_ in lines)
        # What is not found yet is no loss of the place's.
        asked = total(work_of(client, line, None) for n, _, line in lines if (n, number) in accepted)
        at.append(PlaceWeekDoc.of(number, name, filled, len(lines), given, losses(asked, given, targets)))
    return WeekDoc.of(written, at, targets, times, client.weekly_sets)


def work_of(client: ClientDoc, line: LineDoc, set_up: SetUpDoc | None) -> dict[str, Floats]:
    """A line's sets by group and third, as written or in an accepted set-up; nothing where that cannot be done any more."""
    try:
        if set_up is None:
            return line_work(core_prescription(client, line).profile, line.target, line.sets)

        return line_work(profile_of(client, set_up), line.target, line.sets)
    except DomainError:
        return {}


def profile_of(client: ClientDoc, set_up: SetUpDoc) -> Profile:
    """What a set-up asks of a client, remembered.

    Raises:
        DomainError: Where it cannot be done.
    """

    def work() -> Profile:
        return profile(name_field("client", client.body), set_up.set_up(), check=False)

    return _profiles.get(digest(body_text(client), set_up.model_dump_json()), work)
