"""Help of the commands in the user's language: what stands in their docstrings and options is translated before it is shown."""

from __future__ import annotations

import inspect

import click

from lean_sepia.language import _


def speak(command: click.Command) -> None:
    """Translate a command's help, its options' and its subcommands'."""
    if command.help:
        command.help = _(inspect.cleandoc(command.help))
    for parameter in command.params:
        if isinstance(parameter, click.Option) and parameter.help:
            parameter.help = _(parameter.help)
    if isinstance(command, click.Group):
        for inner in command.commands.values():
            speak(inner)
