"""Array types of the core. The last axes are always named in the docstring, as in ``(..., pose, xyz)``."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Bools = NDArray[np.bool_]
Ints = NDArray[np.int_]
Singles = NDArray[Any]
"""Numbers in single precision, where large tables are only compared."""
