"""Lean Sepia: match a scale model's finish to reference photos."""

__version__ = "0.1.0"
