"""The paint shelf and its files."""
