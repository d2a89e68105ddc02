"""Paper: the bench card."""
