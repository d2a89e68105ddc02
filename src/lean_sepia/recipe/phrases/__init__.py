"""Ratios and mixtures as people say and write them."""
