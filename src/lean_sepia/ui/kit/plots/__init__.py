"""Drawn figures: colours in the plane, bars of sizes, rows of ramps."""
