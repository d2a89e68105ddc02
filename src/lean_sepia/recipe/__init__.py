"""Answers: mixes, lighteners, glazes; parts, drops and millilitres."""
