"""`python -m lean_sepia` is the command line."""

from lean_sepia.cli import main

main()
