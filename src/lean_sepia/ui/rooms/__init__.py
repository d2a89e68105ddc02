"""The seven rooms, in working order."""
