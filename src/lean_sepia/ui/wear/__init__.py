"""The Wear room."""
