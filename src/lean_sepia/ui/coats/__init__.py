"""Sheets that slide out beside the zone column: coats laid by hand, zones, surfaces."""
