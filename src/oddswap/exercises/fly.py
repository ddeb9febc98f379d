"""The fly: the nearly straight arm swept from out at the side to the front of the chest."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

import numpy as np

from oddswap.exercises.authoring import stood
from oddswap.mechanics.arm import ArmPath, antecubital_at, slerp
from oddswap.mechanics.body import Body
from oddswap.mechanics.movement import Movement, Parameter, Path, Values, Variant
from oddswap.mechanics.types import Floats

SOFT_ELBOW = 12.0
# Arms a little below the line of the shoulders, where the front of the shoulder is at ease.
BELOW = -10.0
# Upper arm past straight ahead, degrees, where the hands meet, and where they have passed each other by a hand's length.
MEET, PASS = 6.0, 22.0


def direction(around_deg: float, tilt_deg: float) -> Floats:
    """Arm direction in the torso frame: ``around`` from the side (0) to straight ahead (90), ``tilt`` above shoulder level."""
    a, t = np.radians(around_deg), np.radians(tilt_deg)
    return np.array([np.sin(a) * np.cos(t), -np.cos(a) * np.cos(t), np.sin(t)])


def path(values: Values, s: Floats, free: Floats, body: Body) -> Path:
    """Great circle from the open to the closed arm; crooks of the elbows turn from ahead to inward-up."""
    rise = values["rise_deg"]
    start = direction(-values["depth_deg"], BELOW - rise)
    end = direction(90 + values["close_deg"], BELOW + rise)
    u = slerp(start, end, s)
    antecubital = antecubital_at(u, np.radians(5 + 40 * s))
    bend = np.full_like(s, np.radians(values["elbow_deg"]))
    # Palms up while open, facing each other when closed.
    return Path(s, arm=ArmPath(u, antecubital, bend, np.radians(-80 + 45 * s)))


def variants(notches: Iterable[float], pads: Iterable[float]) -> Iterator[Variant]:
    """Standing level, rising, falling; on a bench from flat to steep."""
    for close in (MEET, PASS):
        for rise in (-25.0, 0.0, 25.0):
            yield Variant({"rise_deg": rise, "close_deg": close, "depth_deg": 0.0})
        for notch in notches:
            if notch <= 60 or notch >= 80:
                yield Variant({"rise_deg": 0.0, "close_deg": close, "depth_deg": 0.0}, "bench", notch)


def title(v: Variant) -> str:
    """For example ``30° incline fly``."""
    crossing = ", hands crossing" if v.values["close_deg"] > MEET + 5 else ""
    if v.stance == "bench":
        name = (
            "Flat fly" if v.recline_deg < 10 else "Seated fly" if v.recline_deg >= 80 else f"{v.recline_deg:.0f}° incline fly"
        )
        return name + crossing
    rise = v.values["rise_deg"]
    way = ", low to high" if rise > 10 else ", high to low" if rise < -10 else ""
    return stood(f"fly{way}{crossing}", v.stance)


def cues(v: Variant) -> list[str]:
    """What to look at."""
    meet = "Let the hands pass each other at the end" if v.values["close_deg"] > MEET + 5 else "Hands meet over the breastbone"
    return ["Soft elbow, the same bend all the way", "Open until the upper arm is level with the chest", meet]


def cautions(v: Variant) -> list[str]:
    """Depth, and getting dumbbells into place."""
    out = ["Open no deeper than level with the torso unless used to it: deep loaded flies strain the front of the shoulder."]
    if v.stance == "bench" and v.recline_deg < 60:
        out.append("To spot yourself bend the elbows: the lever shortens at once.")
    return out


MOVEMENT = Movement(
    id="fly",
    name="Fly",
    parameters=(
        Parameter("rise_deg", "how far the hands rise (+) or fall (-) from level, degrees", -45, 45, 0),
        Parameter("close_deg", "how far past straight ahead the arm closes, degrees; the hands meet at 10", 0, 40, MEET),
        Parameter("depth_deg", "how far behind the torso the arm opens, degrees", -20, 25, 0),
        Parameter("elbow_deg", "fixed bend of the elbow, degrees", 0, 90, SOFT_ELBOW),
    ),
    targets=("chest", "upper_chest"),
    hinge="right shoulder",
    reading=lambda coords: np.degrees(coords["arm"][:, 0]),
    reading_words="arm {}° round from the side",
    path=path,
    variants=variants,
    title=title,
    cues=cues,
    cautions=cautions,
    stances=("standing", "bench", "kneeling", "half_kneeling", "holding_on", "back_rested"),
    family="chest",
)
