"""How matter is handled: what it is thinned with, and how what was laid is taken back."""
