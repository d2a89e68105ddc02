"""The card says what the document says, and its check line is 100 mm long."""

import io
from itertools import combinations
from pathlib import Path

import pytest
from pypdf import PdfReader
from reportlab.pdfbase.pdfmetrics import stringWidth
from scripts.card_layout import layouts

from lean_sepia.answers.amounts import cups_of
from lean_sepia.answers.bench import span
from lean_sepia.document.called import title_of
from lean_sepia.document.edits.coats import pin_base
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.document.edits.zones import add_zone, change_zone
from lean_sepia.document.model import Project
from lean_sepia.errors import BadInputError
from lean_sepia.report.bench_card import bench_card, write_bench_card
from lean_sepia.report.fonts import REGULAR


@pytest.fixture(scope="module")
def drawn_now():
    return layouts()


def text_of(pdf: bytes) -> str:
    return "\n".join(page.extract_text() for page in PdfReader(io.BytesIO(pdf)).pages)


def test_zones_parts_and_steps_are_on_it(worked):
    words = " ".join(text_of(bench_card(worked)).split())
    for zone in worked.zones:
        assert zone.name in words
    for recipe in worked.recipes:
        for version, _ in recipe.parts:
            assert worked.paint(version).name in words
    for step in worked.steps:
        assert title_of(worked, step) in words
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


def boxes_on(page):
    """Boxes (left, bottom, right, top, words) of every piece of text and every filled field of a page."""
    texts, fields = [], []

    def text(words, cm, tm, _font, size):
        if words.strip():
            x, y = cm[4] + tm[4], cm[5] + tm[5]
            for line in [part for part in words.split("\n") if part.strip()][:1]:
                width = stringWidth(line.strip(), REGULAR, size)
                texts.append((x, y - 0.15 * size, x + width, y + 0.65 * size, line.strip()))

    def operator(name, values, cm, _tm):
        if name == b"re":
            x, y, width, height = (float(value) for value in values)
            fields.append((cm[4] + x, cm[5] + y, cm[4] + x + width, cm[5] + y + height, ""))

    page.extract_text(visitor_text=text, visitor_operand_before=operator)
    return texts, fields


def overlap(one, other, slack=0.6):
    return (
        min(one[2], other[2]) - max(one[0], other[0]) > slack
        and min(one[3], other[3]) - max(one[1], other[1]) > slack
    )


def with_zones(worked, shelf_paints, count):
    """The demo with more zones: long names, four bottles, no area, or nothing on them at all."""
    project = worked
    for number in range(len(worked.zones), count):
        project, zone = add_zone(project, f"Superstructure, aft part number {number}, starboard")
        if number % 3:
            parts = [("deep-sea", 9), ("chrome-green", 4), ("greenish-off-white", 3), ("raw-umber", 1)]
            known = {paint.id for paint in shelf_paints}
            mix = Mix.of(shelf_paints, [part for part in parts if part[0] in known])
            project = pin_base(project, zone, mix, Manner(2, 0.6))
        if number % 2:
            project = change_zone(project, project.zone(zone).model_copy(update={"area_cm2": 1234.5}))
    return project


@pytest.mark.parametrize("zones", [1, 6, 14])
def test_nothing_on_the_card_lies_over_anything_else(worked, shelf_paints, zones):
    project = with_zones(worked, shelf_paints, zones)
    if zones == 1:
        from lean_sepia.document.edits.zones import remove_zone

        for zone in [zone.id for zone in worked.zones][1:]:
            project = remove_zone(project, zone)
    pages = PdfReader(io.BytesIO(bench_card(project))).pages
    assert sum(len(boxes_on(page)[1]) for page in pages) > zones
    for page in pages:
        texts, fields = boxes_on(page)
        assert len(texts) > 3
        assert [(a[4], b[4]) for a, b in combinations(texts, 2) if overlap(a, b)] == []
        assert [(a[4], b) for a in texts for b in fields if overlap(a, b)] == []
        assert [(a, b) for a, b in combinations(fields, 2) if overlap(a, b)] == []
        for left, bottom, right, top, words in (*texts, *fields):
            assert left > 28, words
            assert right < 595 - 28, words
            assert bottom > 20, words
            assert top < 842 - 28, words


def test_zones_without_a_coat_take_one_line(worked, shelf_paints):
    project = with_zones(worked, shelf_paints, 14)
    bare = [zone.name for zone in project.zones if not project.coats_of(zone.id)]
    assert len(bare) >= 2
    words = " ".join(text_of(bench_card(project)).split())
    assert f"Without a coat yet: {', '.join(bare)}." in words


def test_amounts_thinner_and_dates_are_those_of_the_bench(worked):
    worked = worked.model_copy(update={"plan_start": "2031-03-03T19:00"})
    words = " ".join(text_of(bench_card(worked)).split())
    for coat in worked.coats:
        for cup in cups_of(worked, [coat]):
            if coat.kind == "base":
                assert f"{cup.total_ml:.1f} ml in all" in words
                assert f"thinner {cup.thinner_ml:.1f} ml" in words
    assert "aside before thinning: Fade, Hull" in words
    assert "a bead of" in words
    assert "Mon 3 March, 19:00" in words


@pytest.mark.parametrize("name", ["bench-card.txt", "swatch-card.txt", "swatch-card-large.txt"])
def test_nothing_on_a_card_moves_by_accident(drawn_now, name):
    """A change that is meant is written anew with `python -m scripts.card_layout`."""
    kept = (Path(__file__).parent / name).read_text(encoding="utf-8")
    assert drawn_now[name].splitlines() == kept.splitlines()


@pytest.mark.parametrize("name", ["W" * 100, "word " * 20, "W" * 1000, "é<b>&" * 200])
def test_names_of_any_length(worked, name):
    named = worked.model_copy(
        update={
            "title": name,
            "paints": tuple(paint.model_copy(update={"name": name}) for paint in worked.paints),
            "recipes": tuple(recipe.model_copy(update={"name": name}) for recipe in worked.recipes),
            "zones": tuple(
                z.model_copy(update={"name": name[:990] + str(i)}) for i, z in enumerate(worked.zones)
            ),
        }
    )
    pages = PdfReader(io.BytesIO(bench_card(named))).pages
    text = "".join("".join(page.extract_text().split()) for page in pages)
    assert "".join(name.split())[:40] in text
    assert "Baseco" in text
    assert len(pages[0].extract_text()) > 60


def test_a_zone_of_many_coats(worked):
    zone = worked.zones[0]
    coat = next(coat for coat in worked.coats if coat.zone == zone.id and coat.recipe)
    step = worked.step(coat.step)
    steps = tuple(step.model_copy(update={"id": f"more{i}", "after": ()}) for i in range(60))
    coats = tuple(coat.model_copy(update={"id": f"m{i}", "step": f"more{i}"}) for i in range(60))
    many = worked.model_copy(update={"steps": (*worked.steps, *steps), "coats": (*worked.coats, *coats)})
    assert len(PdfReader(io.BytesIO(bench_card(many))).pages) > 4
