"""The first page, and how projects begin."""
