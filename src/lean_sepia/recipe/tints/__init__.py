"""Thin tints over several grounds: filters, washes, oil dots."""
