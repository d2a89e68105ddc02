"""The commands of `lean-sepia`, by the part of the work they do."""
