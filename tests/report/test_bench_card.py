"""The card says what the document says, and its check line is 100 mm long."""

import io

import pytest
from pypdf import PdfReader

from lean_sepia.document.model import Project
from lean_sepia.errors import BadInputError
from lean_sepia.report.bench_card import bench_card, span, write_bench_card


def text_of(pdf: bytes) -> str:
    return "\n".join(page.extract_text() for page in PdfReader(io.BytesIO(pdf)).pages)


def test_zones_parts_and_steps_are_on_it(worked):
    words = text_of(bench_card(worked))
    for zone in worked.zones:
        assert zone.name in words
    for recipe in worked.recipes:
        for version, _ in recipe.parts:
            assert worked.paint(version).name in words
    for step in worked.steps:
        assert step.title in words
    assert worked.signature in words
    assert "drops" in words
    assert "data sheet" in words
    assert "ΔE00" in words


def test_check_line_is_100_millimetres(worked):
    page = PdfReader(io.BytesIO(bench_card(worked))).pages[0]
    content = page.get_contents().get_data().decode("latin-1")
    lines = [line for line in content.splitlines() if line.endswith(" l S")]
    lengths = []
    for line in lines:
        x0, y0, _, x1, y1 = line.split()[-7:-2]
        lengths.append(((float(x1) - float(x0)) ** 2 + (float(y1) - float(y0)) ** 2) ** 0.5)
    assert any(length == pytest.approx(100 * 72 / 25.4, abs=0.01) for length in lengths)


def test_what_if_is_labelled_on_every_page(worked):
    subject = worked.subjects[0].model_copy(update={"what_if": True})
    pdf = bench_card(worked.model_copy(update={"subjects": (subject,)}))
    for page in PdfReader(io.BytesIO(pdf)).pages:
        assert "WHAT IF" in page.extract_text()


def test_an_empty_project_still_prints():
    assert text_of(bench_card(Project(title="Nothing"))).startswith("page 1") or "Nothing" in text_of(
        bench_card(Project(title="Nothing"))
    )


def test_the_same_project_gives_the_same_card(worked):
    assert bench_card(worked) == bench_card(worked)


def test_a_card_that_cannot_be_written_leaves_nothing(worked, tmp_path):
    with pytest.raises(BadInputError, match="cannot be written"):
        write_bench_card(worked, tmp_path / "no" / "such" / "card.pdf")
    assert list(tmp_path.rglob("*.pdf*")) == []


def test_spans_are_spoken_as_people_do():
    assert [span(20), span(60), span(90), span(1440)] == ["20 min", "1 h", "1 h 30", "24 h"]
