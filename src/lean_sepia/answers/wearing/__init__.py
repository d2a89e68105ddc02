"""Wear: measured on a photo, planned without one, simulated, and compared with the model."""
