"""The movement library as documents."""

from __future__ import annotations

from typing import Literal

import numpy as np

from oddswap.coaching.explanation import load_words
from oddswap.coaching.library import kits_of, variants_of
from oddswap.documents.base import Result, rounded
from oddswap.documents.detail import HelperDoc, helper_doc
from oddswap.documents.profile import ProfileDoc
from oddswap.documents.words import RowDoc, set_up_rows
from oddswap.equipment.barbell import BarbellHold
from oddswap.equivalence.muscle_work import find_limiting_muscle, helpers, relative_effort_curve, target_of
from oddswap.equivalence.profile import Profile
from oddswap.equivalence.set_up import SetUp
from oddswap.mechanics.movement import Movement, Variant
from oddswap.mechanics.muscle_regions import AXES
from oddswap.mechanics.muscles import muscle_table


class ChoiceDoc(Result):
    """Something to pick, with its name for people."""

    id: str
    name: str


class MovementDoc(Result):
    """A movement as listed in the library."""

    id: str
    name: str
    family: str
    targets: list[ChoiceDoc]
    ways: list[str]
    """Titles of its variants; the place in this list names one."""
    kits: list[list[ChoiceDoc]]
    """Generic kit that loads each variant, the most usual first."""

    @staticmethod
    def of(kind: Movement) -> MovementDoc:
        """The document of a movement."""
        groups = muscle_table().groups
        variants = variants_of(kind)
        return MovementDoc(
            id=kind.id,
            name=kind.name,
            family=kind.family,
            targets=[ChoiceDoc(id=t, name=groups[t].name) for t in kind.targets],
            ways=[kind.title(v) for v in variants],
            kits=[[ChoiceDoc(id=k.id, name=k.name) for k in kits_of(kind, v)] for v in variants],
        )


def _kit_of(set_up: SetUp) -> str:
    """Id of the generic kit that a set-up is on."""
    if not set_up.sources:
        return "body"
    first = set_up.sources[0]
    if isinstance(first, BarbellHold) and first.bar.rail_deg is not None:
        return "rails"
    kind = first.use_label if first.source_kind == "dumbbell" and first.use_label in ("belt", "shared") else first.kind
    return {"dumbbell": "dumbbells", "barbell": "bar"}.get(kind, kind)


class ExampleDoc(Result):
    """A movement on generic kit for one client, with its curves and who carries them."""

    format: Literal["odd-swap/example/2"] = "odd-swap/example/2"
    movement: str
    title: str
    client: str
    kit: str
    """Id of the generic kit."""
    target: str
    """Group that this way of it asks most of."""
    target_name: str
    load: str
    rows: list[RowDoc]
    cues: list[str]
    cautions: list[str]
    helpers: list[HelperDoc]
    doubtful: list[bool]
    """Poses at which the shares are not to be believed."""
    limits_set: str
    limiting_relative_effort: float
    """Its peak demand over what it can give."""
    relative_effort: list[float]
    """Effort curve: what the most loaded muscle is asked for over what it can give, at every pose."""
    resistance: dict[str, list[float]]
    """Size of the torque at each loaded joint at every pose, N·m."""
    profile: ProfileDoc

    @staticmethod
    def of(client: str, variant: Variant, computed: Profile) -> ExampleDoc:
        """The document of a library example."""
        kind, set_up = computed.motion.movement, computed.set_up
        who = helpers(computed)
        first = find_limiting_muscle(computed)
        target = muscle_table().groups[target_of(computed)]
        joints = list(dict.fromkeys((h.group.region, h.joint) for h in who))
        demand = {j: np.linalg.norm(computed.demand[r][:, [a.startswith(j) for a in AXES[r]]], axis=1) for r, j in joints}
        return ExampleDoc(
            movement=kind.id,
            title=kind.title(variant),
            client=client,
            kit=_kit_of(set_up),
            target=target.id,
            target_name=target.name,
            load=load_words(set_up),
            rows=set_up_rows(set_up, variant),
            cues=kind.cues(variant),
            cautions=[*kind.cautions(variant), *(c for s in set_up.sources for c in s.cautions())],
            helpers=[helper_doc(h) for h in who],
            doubtful=computed.doubt(target.region).tolist(),
            limits_set=first.name,
            limiting_relative_effort=round(first.relative_effort, 3),
            relative_effort=rounded(relative_effort_curve(computed), 4),
            resistance={j: rounded(v, 2) for j, v in demand.items()},
            profile=ProfileDoc.of(set_up, computed),
        )
