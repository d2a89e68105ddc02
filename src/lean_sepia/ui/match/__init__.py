"""The Match room."""
