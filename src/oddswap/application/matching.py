"""Rank the equivalents of a line, or of every line of a program, at a place."""

from __future__ import annotations

from oddswap.application.fields import name_field
from oddswap.application.inputs import core_place, core_prescription
from oddswap.application.jobs import LONG_WORK
from oddswap.application.kept_matches import NOTHING, drop_kept, keep_match, read_match, times_dropped
from oddswap.application.looks import TAKEN, TakenLook, keep_search
from oddswap.application.stations import kit_needed
from oddswap.application.versions import match_digest
from oddswap.coaching.explanation import load_words
from oddswap.documents.board import LookDoc
from oddswap.documents.client import ClientDoc
from oddswap.documents.match import MatchDoc, SwapsDoc, match_doc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.program import LineDoc, ProgramDoc, check_program
from oddswap.documents.ranking import RankDoc
from oddswap.equivalence.cache import SharedCache
from oddswap.equivalence.candidates import Swap, set_up_title
from oddswap.equivalence.first_look import Glimpse, take_first_look
from oddswap.equivalence.search import find_swaps
from oddswap.errors import DomainError
from oddswap.quantities import Units, shown_in

MATCHES = 128
"""Matches kept in memory, by content: an edited client, line or place is computed anew, an undone edit is remembered."""
_matches: SharedCache[tuple[str, Units], MatchDoc] = SharedCache(MATCHES)


def match_line(client: ClientDoc, line: LineDoc, place: PlaceDoc, ranking: RankDoc, curves: bool = True) -> MatchDoc:
    """Rank the equivalents of a line for a client at a place.

    Args:
        client: Who.
        line: What is prescribed.
        place: Where.
        ranking: Lens and filters.
        curves: Whether curves are wanted with every swap.

    Raises:
        DomainError: With the field's path as seen from ``client``, ``line``, ``place`` or ``rank``.
    """
    with LONG_WORK.wanted(match_digest(client, line, place, ranking)):
        return watched_match(client, line, place, ranking, curves)


def watched_match(client: ClientDoc, line: LineDoc, place: PlaceDoc, ranking: RankDoc, curves: bool = True) -> MatchDoc:
    """The same for a caller who says for how long the match is wanted, by its digest.

    Raises:
        DomainError: See ``match_line``.
        AbandonedError: Once nobody wants it.
    """
    name, begun = match_digest(client, line, place, ranking), times_dropped()

    def work() -> MatchDoc:
        kept = read_match(name, client.units)
        if kept is not None:
            return kept
        try:
            found = _search(client, line, place, ranking, name)
        except DomainError as nothing:
            keep_match(name, client.units, nothing, begun)
            raise
        keep_match(name, client.units, found, begun)
        return found

    def told() -> MatchDoc:
        found = work()
        keep_search(name, client.units, found, place)
        return found

    with shown_in(client.units):
        whole = _matches.get((name, client.units), told)
    if curves:
        return whole
    return whole.model_copy(update={"swaps": [swap.model_copy(update={"profile": None}) for swap in whole.swaps]})


def take_look(client: ClientDoc, line: LineDoc, place: PlaceDoc, ranking: RankDoc) -> TakenLook:
    """What most likely stands first for a line at a place, and what else was seen there on other kit.

    Args:
        client: Who.
        line: What is prescribed.
        place: Where.
        ranking: Lens and filters.
    """
    room = core_place(place)

    def told(seen: Swap | Glimpse) -> LookDoc:
        set_up, items = seen.set_up, sorted(kit_needed(seen.set_up, room))
        title, load = set_up_title(set_up, seen.variant), load_words(set_up)
        return LookDoc(match=round(seen.match, 1), title=title, load=load, items=items)

    with shown_in(client.units):
        try:
            filters, lens = ranking.filters(client), ranking.resolve_lens()
            first, others = take_first_look(core_prescription(client, line), room, lens, filters)
        except DomainError:
            return TakenLook(look=None)
        every: list[Swap | Glimpse] = [first, *others]
        return TakenLook.of(map(told, every))


def forget_matches() -> None:
    """Forget all matches and looks, in memory and on disk: once a record is deleted for good nothing of it shall be left."""
    _matches.clear()
    TAKEN.clear()
    drop_kept()


def _search(client: ClientDoc, line: LineDoc, place: PlaceDoc, ranking: RankDoc, name: str) -> MatchDoc:
    lens = name_field("rank", ranking.resolve_lens)
    room, prescription = core_place(place), core_prescription(client, line)
    filters, excluded = ranking.filters(client), dict[str, int]()

    def tell(part: float) -> None:
        LONG_WORK.tell(name, part)

    with LONG_WORK.taken(name):
        swaps = name_field("place", lambda: find_swaps(prescription, room, lens, tell, filters, excluded))
    strained = filters.strains(prescription.profile.motion)
    return match_doc(line.name, place.name, prescription, swaps, lens, True, excluded, strained)


def match_program(client: ClientDoc, program: ProgramDoc, place: PlaceDoc, ranking: RankDoc) -> SwapsDoc:
    """Map every line of a program to a place.

    Raises:
        DomainError: With the field's path as seen from ``client``, ``program``, ``place`` or ``rank``.
    """
    name_field("program", lambda: check_program(program))
    matches = []
    for s, session in enumerate(program.sessions):
        for i, line in enumerate(session.lines):
            try:
                matches.append(match_line(client, line, place, ranking, curves=False))
            except DomainError as error:
                if error.field == NOTHING:
                    matches.append(_empty_match(client, line, place, ranking, error))
                    continue
                inside = error.field.removeprefix("line.")
                if inside == error.field:
                    raise
                raise DomainError(f"program.sessions.{s}.lines.{i}.{inside}", error.value, error.limit, error.way_out) from None
    return SwapsDoc(client=client.name, program=program.name, place=place.name, lines=matches)


def _empty_match(client: ClientDoc, line: LineDoc, place: PlaceDoc, ranking: RankDoc, why: DomainError) -> MatchDoc:
    """A line that nothing at a place stands in for, among others that something does."""
    prescription, lens = core_prescription(client, line), name_field("rank", ranking.resolve_lens)
    words = f"{why.limit[:1].upper()}{why.limit[1:]}. {why.way_out}."
    with shown_in(client.units):
        return match_doc(line.name, place.name, prescription, [], lens, curves=False, nothing=words)
