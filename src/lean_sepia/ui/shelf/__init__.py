"""The Shelf page."""
