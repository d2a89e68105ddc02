"""Edits of the document: functions from a project to a project."""
