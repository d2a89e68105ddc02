"""How a project is kept: where its file lies, what is in it, and which of its states stay."""
