"""A measuring run as it is kept: its raw readings and what they were read with, so that it can go on another day."""

from __future__ import annotations

from pydantic import Field

from oddswap.documents.base import Document, example
from oddswap.documents.measurement import MeasurementDoc


class MeasuringRunDoc(Document):
    """Readings of a run, finished or not."""

    model_config = example({"measurement": {"what": "band", "item": "sand", "readings": [{"at": 60, "value": 21.5}]}})

    measurement: MeasurementDoc
    stack_kg: float = Field(default=20.0, gt=0, le=500)
    """On a machine: the pin that was set."""
    arm_cm: float = Field(default=35.0, gt=1, le=200)
    """On a machine: handle to axis."""
    kept: bool = False
    """Whether its figures were put into the kit, or into the client's ranges."""
