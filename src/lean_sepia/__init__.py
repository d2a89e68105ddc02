"""Lean Sepia: match a scale model's finish to reference photos."""

import os

__version__ = "0.1.0"

# Products are small and jobs run side by side: threads of the linear algebra would only wait for each other. It is said here, before
# NumPy is first imported, since a limit set later looks through the loaded libraries, and that waits for ever for a thread which is
# importing one.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
