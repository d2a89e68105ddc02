"""Asking and telling in windows of their own."""
