"""Body, muscles, movements, load sources and the curves computed from them: NumPy in, NumPy out."""
