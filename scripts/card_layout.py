"""What the printed cards draw, and where: one line for each piece of text, line, field and curve, in millimetres.

    python -m scripts.card_layout

writes the layouts anew after a change that is meant; a test compares them, so that none changes by accident.
"""

from __future__ import annotations

import io
from pathlib import Path

from pypdf import PdfReader

from lean_sepia.demo.shelf import demo_shelf
from lean_sepia.document.edits.coats import Marks, lay_primer, lay_varnish, lay_wear, pin_base
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.document.edits.zones import add_zone, change_subject, name_feature, state_target
from lean_sepia.document.model import Project
from lean_sepia.report.bench_card import bench_card
from lean_sepia.report.swatch_card import swatch_card

FOLDER = Path(__file__).parents[1] / "tests" / "report"
_MM = 72 / 25.4
_SET = frozenset((b"w", b"rg", b"RG", b"g", b"G", b"f", b"f*", b"S", b"s", b"B", b"B*", b"b", b"n"))
"""Widths, colours, and how what was drawn is painted: filled, outlined or both."""
_DRAWN = {b"re": 4, b"l": 2, b"m": 2, b"c": 6}


def layout_of(pdf: bytes) -> str:
    """The drawing of a card, line by line."""
    lines: list[str] = []
    for number, page in enumerate(PdfReader(io.BytesIO(pdf)).pages, start=1):
        lines.append(f"page {number}")

        def before(operator: bytes, operands: list[float], matrix: list[float], _text: list[float]) -> None:
            if operator in _DRAWN:
                values = [float(value) for value in operands]
                points = [
                    f"{(matrix[0] * x + matrix[4]) / _MM:.1f} {(matrix[3] * y + matrix[5]) / _MM:.1f}"
                    for x, y in zip(values[::2], values[1::2], strict=True)
                ]
                lines.append(f"{operator.decode()} {', '.join(points)}")
            elif operator in _SET:
                lines.append(f"{operator.decode()} {' '.join(f'{float(value):.2f}' for value in operands)}")

        def text(said: str, matrix: list[float], at: list[float], font: dict[str, str], size: float) -> None:
            if said.strip():
                face = font["/BaseFont"].rpartition("-")[2]
                x, y = matrix[0] * at[4] + matrix[4], matrix[3] * at[5] + matrix[5]
                lines.append(f"text {x / _MM:.1f} {y / _MM:.1f} {size:g} {face} {said.strip()}")

        page.extract_text(visitor_operand_before=before, visitor_text=text)
    return "\n".join(lines) + "\n"


def example() -> Project:
    """A model of three zones: one worked, one with a bare coat, one with nothing yet."""
    paints = demo_shelf().paints()
    project, _hull = add_zone(Project(title="Workboat"), "Hull")
    project, _deck = add_zone(project, "Deck")
    project, _mast = add_zone(project, "Mast")
    project = change_subject(
        project, project.subjects[0].model_copy(update={"livery": "harbour service", "scale": 96.0})
    )
    project = state_target(state_target(project, "z1", (45.0, -16.0, -4.0)), "z3", (60.0, 10.0, 30.0))
    red = Mix.of(paints, [("red-primer", 1)])
    for zone in ("z1", "z2"):
        project = lay_primer(project, zone, red, Manner(passes=2, thinner_share=0.5))
    green = Mix.of(paints, [("deep-sea", 7), ("kingfisher", 2), ("bottle-green", 1)])
    project = pin_base(project, "z1", green, Manner(passes=3, thinner_share=0.6))
    project = lay_wear(project, "z1", [Marks("chips", "Rust chips", (33.0, 15.0, 12.0), 0.02)])
    project = lay_varnish(project, ["z1", "z2"], "matte-coat")
    return name_feature(project, "A dent in the bow").model_copy(update={"plan_start": "2031-03-03T19:00"})


def layouts() -> dict[str, str]:
    """File name and layout of every card."""
    return {
        "bench-card.txt": layout_of(bench_card(example())),
        "swatch-card.txt": layout_of(swatch_card(12, 2, 0.5)),
        "swatch-card-large.txt": layout_of(swatch_card(24)),
    }


if __name__ == "__main__":
    for file, drawing in layouts().items():
        (FOLDER / file).write_text(drawing, encoding="utf-8")
