"""The press: the hand pushed away along one line, from declined through flat to overhead."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

import numpy as np

from oddswap.exercises.authoring import GRIP, press_arm, stood
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Movement, Parameter, Path, Values, Variant
from oddswap.mechanics.types import Floats


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Forearm along the push, elbow from below the shoulder line to straight."""
    # The steeper the push, the more the elbow comes under the hand and in front at the lengthened end.
    steep = max(values["angle_deg"], 0.0) / 90
    flare = values["flare_deg"] * (1 - 0.3 * steep)
    return Path(s, arm=press_arm(s, values["angle_deg"], flare, values["depth_deg"], values["forearm_deg"]))


def variants(notches: Iterable[float], pads: Iterable[float]) -> Iterator[Variant]:
    """Lying flat to upright on a bench, the push plumb; standing against a line from behind, level, low or high."""
    for notch in notches:
        yield Variant({"angle_deg": min(float(notch), 85.0)}, "bench", notch)
    for angle in (-20.0, 0.0, 30.0, 85.0):
        yield Variant({"angle_deg": angle})


def title(v: Variant) -> str:
    """For example ``30° incline press``."""
    angle = v.values["angle_deg"]
    kind = (
        "Overhead press"
        if angle >= 70
        else "Incline press"
        if angle >= 15
        else "Decline press"
        if angle <= -8
        else "Flat press"
    )
    if v.stance == "bench":
        return (
            f"{v.recline_deg:.0f}° incline {kind.split()[-1]}"
            if 5 < v.recline_deg < 80
            else kind
            if v.recline_deg <= 5
            else f"Seated {kind.lower()}"
        )
    return stood(kind.lower(), v.stance)


def cues(v: Variant) -> list[str]:
    """What to look at."""
    return [
        "Forearm in line with the push all the way",
        "Shoulder blades back and down",
        "Centre body and bench before loading",
    ]


def cautions(v: Variant) -> list[str]:
    """Overhead loads, depth."""
    out = []
    if v.values["angle_deg"] >= 60:
        out.append("Test an overhead weight first and keep a way out: pins, a spotter, elbows that can bend.")
    if v.values["depth_deg"] > 35:
        out.append("Elbows far below the shoulder line strain its front: go this deep only if used to it.")
    elif v.values["depth_deg"] > 10:
        out.append("Stop where the upper arm is about level with the torso unless the shoulder is used to more.")
    return out


MOVEMENT = Movement(
    id="press",
    name="Press",
    parameters=(
        Parameter("angle_deg", "push from straight ahead (0) toward overhead (90), degrees", -20, 90, 0, on_machine="aim"),
        Parameter("flare_deg", "elbow from tucked (0) to wide (90), degrees", 15, 85, 70),
        Parameter("depth_deg", "how far the elbow goes below the shoulder line, degrees", -10, 50, 25),
        Parameter("lean_in_deg", "how far the hands lean in from over the elbows, degrees", 0, 20, 8),
        GRIP,
        Parameter("forearm_deg", "forearm rotation, degrees: 0 palms facing, 70 palms to the feet", -30, 85, 70),
    ),
    targets=("chest", "upper_chest", "front_delt", "triceps_short", "side_delt", "triceps_long"),
    hinge="right shoulder",
    reading=lambda coords: np.degrees(coords["arm"][:, 3]),
    reading_words="elbow bent {}°",
    path=path,
    variants=variants,
    title=title,
    cues=cues,
    cautions=cautions,
    family="chest",
    stances=("bench", "standing", "kneeling", "half_kneeling", "holding_on", "back_rested"),
    led="press",
)
