"""The forms in which a shelf comes and goes: one file each, one row each in the table."""
