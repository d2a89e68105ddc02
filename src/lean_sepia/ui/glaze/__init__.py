"""The Glaze room."""
