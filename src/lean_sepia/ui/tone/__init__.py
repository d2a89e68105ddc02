"""The Tone room."""
