"""Where target and recipe lie in the plane of hues, what a stray drop does, and how far the photo is sure."""

from __future__ import annotations

from PySide6.QtWidgets import QLabel

from lean_sepia.answers.match import MatchAnswer
from lean_sepia.language import _
from lean_sepia.ui.kit.plots.colour_plane import ColourPlane
from lean_sepia.ui.kit.plots.plane_content import Point


def show_plane(plane: ColourPlane, words: QLabel, found: MatchAnswer, chosen: int) -> None:
    """Show one choice of an answer beside its target."""
    target, recipe = found.question.target, found.choices[chosen].recipe
    points = [Point(target.lab, "round", _("target")), Point(recipe.lab, "square", _("recipe"))]
    within = None if target.half90 is None else (target.lab, target.half90[1], target.half90[2])
    plane.show_colours(points, within=within, halo=found.behaviours[chosen].strayed)
    words.setText(_("Round: target. Square: recipe. Halo: a stray drop. Dashed: the photo's range."))
