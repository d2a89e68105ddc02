"""The rooms of the window: what each is called, says of itself, has noticed, and is for."""
