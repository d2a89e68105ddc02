"""What a user states of a picture, and of places in it."""
