"""The Evidence room."""
