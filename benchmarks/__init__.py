"""Measurements: each prints a ratio against a named baseline measured in the same run; milliseconds stand beside it."""

import lean_sepia

assert lean_sepia.__version__  # imported before NumPy, whose linear algebra it keeps to one thread
