"""The Bench room."""
