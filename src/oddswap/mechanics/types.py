"""Array types of the core. The last axes are always named in the docstring, as in ``(..., pose, xyz)``."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Bools = NDArray[np.bool_]
Ints = NDArray[np.int_]
