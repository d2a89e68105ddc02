"""The document: model, history, store, paint shelf, and what can be read off it."""
