"""The Plan room."""
