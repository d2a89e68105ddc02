"""The invented scenario: every photo is rendered from known colours, so every answer can be checked."""
