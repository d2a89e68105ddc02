"""What a hand could do otherwise: lay, mix, add, and everything that one mix could be."""
