"""Measurements: each prints a ratio against a named baseline measured in the same run; milliseconds stand beside it."""
