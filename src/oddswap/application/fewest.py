"""The fewest lifts at a place for muscles that a coach wants covered."""

from __future__ import annotations

from oddswap.application.fields import name_field
from oddswap.application.inputs import core_place
from oddswap.application.week import profile_of
from oddswap.documents.client import ClientDoc
from oddswap.documents.fewest import FewestDoc, FewestWishDoc, FewLiftDoc, WantedDoc
from oddswap.documents.place import PlaceDoc
from oddswap.documents.set_up import SetUpDoc
from oddswap.documents.words import kit_words
from oddswap.equivalence.coverage import ZONES
from oddswap.equivalence.usual_lifts import usual_lifts
from oddswap.errors import DomainError
from oddswap.exercises import movement
from oddswap.mechanics.actions import LiftKind
from oddswap.mechanics.muscles import muscle_table
from oddswap.planning.balance import line_work
from oddswap.planning.exact import OutOfTimeError
from oddswap.planning.fewest import LIMIT_S, MOST_SETS, Covering, Part, fewest_lifts
from oddswap.planning.session import heaviness_of, rest_after, session_rules
from oddswap.quantities import shown_in

REPS = 10
"""Repetitions that a set is reckoned with."""
LEAST = 0.15
"""Part of a set under which it is not said that a lift serves a muscle."""


def fewest_for(client: ClientDoc, place: PlaceDoc, wish: FewestWishDoc) -> FewestDoc:
    """The fewest of the lifts that load a client best at a place whose sets cover a wish.

    Raises:
        DomainError: For a muscle group that does not exist, or where nothing was found in time.
    """
    groups = muscle_table().groups
    for i, wanted in enumerate(wish.wanted):
        if wanted.group not in groups:
            raise DomainError(f"wish.wanted.{i}.group", wanted.group, "a muscle group", "Pick one of the list")
    with shown_in(client.units):
        offered = _lifts(client, place)
        lifts = [covering for covering, _, _ in offered]
        able = [w for w in wish.wanted if any(x.parts.get(_part(w), 0.0) * MOST_SETS >= 1 for x in lifts)]
        lacking = [_words(w) for w in wish.wanted if w not in able]
        parts, most = {_part(w): w.sets for w in able}, None if wish.minutes is None else wish.minutes * 60
        try:
            found = fewest_lifts(lifts, parts, most) if able else None
        except OutOfTimeError:
            said, limit = [_words(w) for w in able], f"a wish that is answered within {LIMIT_S:g} s"
            raise DomainError("wish.wanted", said, limit, "Ask again, or for fewer muscles at a time") from None
        if found is None:
            short = [f"all of it{f' in {wish.minutes} min' if wish.minutes else ''}"] if able else []
            return FewestDoc(lifts=[], minutes=0.0, proven=True, nothing=[*lacking, *short])
        out, seconds = [], 0.0
        for (covering, target, how), sets in zip(offered, found.sets, strict=True):
            if not sets:
                continue
            seconds += sets * covering.set_s
            serves = [_words(w) for w in wish.wanted if covering.parts.get(_part(w), 0.0) >= LEAST]
            set_up = how.set_up()
            out.append(
                FewLiftDoc(
                    title=covering.name, kit=kit_words(set_up), target=groups[target].name, sets=sets, serves=serves, set_up=how
                )
            )
        return FewestDoc(lifts=out, minutes=round(seconds / 60, 1), proven=found.proven, nothing=lacking)


def _lifts(client: ClientDoc, place: PlaceDoc) -> list[tuple[Covering, str, SetUpDoc]]:
    """The lifts that a place is good for: what each covers of the muscles it is done for, for which first, and how."""
    rule, out = session_rules(), list[tuple[Covering, str, SetUpDoc]]()
    body, room = name_field("client", client.body), core_place(place)
    for set_up, target in usual_lifts(body, room):
        how, kind = SetUpDoc.of(set_up), movement(set_up.movement)
        if kind.id in rule["fewest"]["left_out"]:
            continue
        try:
            found = profile_of(client, how)
        except DomainError:
            continue
        # A helper that nobody does the lift for is not covered by it.
        works = {g: v for g, v in line_work(found, target, 1.0).items() if g in kind.targets}
        parts: dict[Part, float] = {(g, -1): float(v.sum()) for g, v in works.items()}
        parts |= {(g, k): float(v[k]) for g, v in works.items() for k in range(len(v))}
        rest = rest_after(heaviness_of(LiftKind.of(found.motion)))
        sides = 1 if set_up.both_sides else 2
        covering = Covering(kind.title(set_up.variant()), parts, float(sides * REPS * rule["rep_s"] + rest))
        out.append((covering, target, how))
    return out


def _part(wanted: WantedDoc) -> Part:
    return wanted.group, -1 if wanted.third == "any" else ZONES.index(wanted.third)


def _words(wanted: WantedDoc) -> str:
    name = muscle_table().groups[wanted.group].name
    return name if wanted.third == "any" else f"{name}, {wanted.third}"
