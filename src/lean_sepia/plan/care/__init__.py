"""What to heed at a step: hazards, how it can be undone, what to put out, and when to look again."""
