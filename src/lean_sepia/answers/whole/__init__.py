"""Whole jobs from open files: read, laid as the sheet lays, and told."""
