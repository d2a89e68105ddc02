"""The document: one immutable value, its edits by name, its history and its file."""
