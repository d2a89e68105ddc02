"""Taking the cast out of a picture: anchors, families of light and sensor, the fit."""
