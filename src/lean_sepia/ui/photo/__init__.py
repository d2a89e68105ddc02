"""A photo on screen: viewer, marks, loupe."""
