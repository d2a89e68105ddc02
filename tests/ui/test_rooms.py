"""Each room does its job on the document, is undoable, and shows the core's answer."""

import json

import numpy as np
import pytest
from PySide6.QtCore import QPoint, QPointF, Qt

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.project import edits
from lean_sepia.project.model import AnchorMark
from lean_sepia.project.questions import cast_of
from lean_sepia.ui.anchor_dialog import AnchorDialog
from lean_sepia.ui.photo_card import PhotoCard
from lean_sepia.ui.photo_dialog import PhotoDialog
from lean_sepia.ui.recipe_card import RecipeCard
from lean_sepia.ui.subject_dialog import SubjectDialog


def widget_point(viewer, x, y):
    return (QPointF(x, y) * viewer._scale + viewer._offset).toPoint()


def test_evidence_samples_where_it_is_clicked(untouched, demo, qtbot):
    room = untouched.rooms["evidence"]
    session = untouched.session
    room.add_anchor(AnchorMark(id="new", x=1088, y=511, radius=5, lightness=65, name="Locker"))
    session.choose_zone("funnel")
    room.samples.size.setValue(9)
    qtbot.keyClick(room.viewer, Qt.Key.Key_S)
    assert room.viewer.tool == "sample"
    qtbot.mouseClick(room.viewer, Qt.MouseButton.LeftButton, pos=widget_point(room.viewer, 836, 372))
    (sample,) = session.project.samples
    assert (sample.zone, sample.role, sample.radius) == ("funnel", "base", 9)
    assert abs(sample.x - 836) < 2
    truth = demo.truth["labs"]["funnel"]["exposed"]
    assert float(delta_e00(sample.lab, truth)) <= sample.de00_90
    qtbot.keyClick(room.viewer, Qt.Key.Key_Escape)
    assert room.viewer.tool == "look"
    session.undo()
    assert session.project.samples == ()


def test_evidence_works_without_a_mouse(untouched, qtbot):
    room = untouched.rooms["evidence"]
    untouched.session.choose_zone("hull")
    qtbot.keyClick(room.viewer, Qt.Key.Key_S)
    for _ in range(3):
        qtbot.keyClick(room.viewer, Qt.Key.Key_Down)
    qtbot.keyClick(room.viewer, Qt.Key.Key_Return)
    assert len(untouched.session.project.samples) == 1


def test_anchors_correct_the_samples_that_are_there(untouched):
    room, session = untouched.rooms["evidence"], untouched.session
    session.choose_zone("house")
    room.add_sample(640, 520, 12)
    before = session.project.samples[0]
    room.add_anchor(AnchorMark(id="new", x=1088, y=511, radius=5, lightness=65, name="Locker"))
    after = session.project.samples[0]
    assert float(delta_e00(before.lab, after.lab)) > 4
    assert after.de00_90 < before.de00_90
    assert "Warm" in room.cast_panel.words.text()
    photo = session.project.photo("f1")
    cast = cast_of(session.picture("f1").pixels, photo.anchors)
    assert np.allclose(cast.hypotheses[0].theta, room.seen.cast.hypotheses[0].theta)
    room._remove_anchor(photo.anchors[0].id)
    assert session.project.samples[0].lab == pytest.approx(before.lab)


def test_the_stored_photo_is_never_touched(untouched, demo):
    data = untouched.session.store.photo(untouched.session.project.photo("f1").sha256)
    untouched.rooms["evidence"].add_anchor(AnchorMark(id="new", x=1088, y=511, radius=5, name="Locker"))
    assert untouched.session.store.photo(untouched.session.project.photo("f1").sha256) == data
    assert data == demo.photo("slide-1957.jpg").read_bytes()


def test_contact_sheet_and_wipe(workspace, qtbot):
    room = workspace.rooms["evidence"]
    cards = room.findChildren(PhotoCard)
    assert [card.photo.id for card in cards if not card.isHidden()] == ["f1", "f2", "f3", "f4"]
    assert any("contradicted" in card.accessibleName() for card in cards)
    qtbot.mouseClick(next(card for card in cards if card.photo.id == "f2"), Qt.MouseButton.LeftButton)
    assert room.seen.photo.id == "f2"
    room.wipe.setValue(40)
    assert room.viewer._wipe == pytest.approx(0.4)


def test_loupe_shows_the_corrected_colour(workspace, qtbot):
    room = workspace.rooms["evidence"]
    qtbot.mouseMove(room.viewer, widget_point(room.viewer, 560, 606))
    room._hover(560, 606)
    assert room._loupe.isVisible()
    assert "blue-green" in room._loupe._name.text() or "green" in room._loupe._name.text()


def test_signature_is_kept(workspace):
    room = workspace.rooms["evidence"]
    room.features.text.setPlainText("The dented bow")
    room.features.text.editing_finished.emit()
    assert workspace.session.project.signature == "The dented bow"


def test_dialogs_edit_copies(workspace, qtbot):
    anchor = AnchorDialog(AnchorMark(id="a", x=1, y=2, radius=3, name="Card"))
    qtbot.addWidget(anchor)
    assert anchor.anchor().lightness is None
    assert not anchor.lightness.isEnabled()
    anchor.known.setCurrentIndex(2)
    anchor.lightness.setValue(40)
    anchor.a.setValue(-5)
    assert (anchor.anchor().lightness, anchor.anchor().a) == (40, -5)
    photo = PhotoDialog(workspace.session.project.photos[0])
    qtbot.addWidget(photo)
    photo.date.setText("1956")
    assert photo.photo().date == "1956"
    subject = SubjectDialog(workspace.session.project.subjects[0])
    qtbot.addWidget(subject)
    subject.scale.setValue(72)
    subject.what_if.setChecked(True)
    assert (subject.subject().scale, subject.subject().what_if) == (72, True)


def test_match_pins_what_is_chosen(workspace, qtbot):
    session = workspace.session
    session.choose_zone("band")
    workspace.open_room("match")
    room = workspace.rooms["match"]
    assert room.answer.question.zone == "band"
    cards = [room._cards.itemAt(i).widget() for i in range(room._cards.count())]
    assert all(isinstance(card, RecipeCard) for card in cards)
    qtbot.mouseClick(cards[1], Qt.MouseButton.LeftButton)
    chosen = room.answer.choices[1].recipe
    assert room._figure.text() == f"{chosen.de00:.1f}"
    qtbot.mouseClick(room.pin, Qt.MouseButton.LeftButton)
    coat = next(coat for coat in session.project.coats_of("band") if coat.kind == "base")
    recipe = session.project.recipe(coat.recipe)
    assert [(session.project.paint(v).shelf_id, n) for v, n in recipe.parts] == list(chosen.parts)
    assert coat.thinner_share == pytest.approx(0.6)
    predicted = session.cut("band").fresh
    assert float(delta_e00(predicted, chosen.lab)) < 0.05  # the strata and the solver agree
    assert room.answer.choices[0].pinned


def test_match_answers_other_limits(workspace):
    workspace.open_room("match")
    room = workspace.rooms["match"]
    room.paints.setValue(1)
    assert all(len(choice.recipe.parts) == 1 for choice in room.answer.choices if not choice.pinned)
    room.volume.setValue(12)
    assert "12 ml" in " ".join(label.text() for label in room.findChildren(type(room._remark)))


def test_match_without_a_target_says_what_to_do(workspace):
    workspace.session.choose_zone("gear")
    workspace.open_room("match")
    assert "no target" in workspace.rooms["match"]._statement.text()
    assert not workspace.rooms["match"].pin.isEnabled()


def test_tone_lays_the_chosen_fade(workspace, qtbot):
    session = workspace.session
    session.choose_zone("boot")
    workspace.open_room("tone")
    room = workspace.rooms["tone"]
    qtbot.keyClick(room.rows, Qt.Key.Key_Down)
    option = room.answer.lighteners[1]
    qtbot.mouseClick(room.lay, Qt.MouseButton.LeftButton)
    fade = next(coat for coat in session.project.coats_of("boot") if coat.kind == "fade")
    recipe = session.project.recipe(fade.recipe)
    assert recipe.basis_parts == option.base_parts
    assert session.project.paint(recipe.parts[0][0]).shelf_id == option.paint
    session.undo()
    assert not [coat for coat in session.project.coats_of("boot") if coat.kind == "fade"]


def test_glaze_lays_one_filter_on_all_its_zones(workspace, qtbot):
    workspace.open_room("glaze")
    room = workspace.rooms["glaze"]
    zones = [zone for zone, *_ in room.answer.pairs]
    room.rows._choose(0)
    room._show_choice()
    qtbot.mouseClick(room.lay, Qt.MouseButton.LeftButton)
    laid = {coat.zone for coat in workspace.session.project.coats if coat.kind == "filter"}
    assert laid >= {zone for zone in zones if workspace.session.cut(zone).fresh}


def test_wear_measures_a_drawn_region(workspace, demo, qtbot):
    session = workspace.session
    workspace.open_room("wear")
    room = workspace.rooms["wear"]
    assert f"{session.project.regions[0].wear.coverage_percent:.1f} %" in room._much.text()
    room.viewer.fit()
    qtbot.keyClick(room.viewer, Qt.Key.Key_R)
    start, end = widget_point(room.viewer, 500, 642), widget_point(room.viewer, 1100, 686)
    qtbot.mousePress(room.viewer, Qt.MouseButton.LeftButton, pos=start)
    qtbot.mouseMove(room.viewer, end)
    qtbot.mouseRelease(room.viewer, Qt.MouseButton.LeftButton, pos=end)
    assert room.box[0] == pytest.approx(500, abs=3)
    qtbot.mouseClick(room.measure_button, Qt.MouseButton.LeftButton)
    region = session.project.regions[0]
    assert region.corners[0][0] == pytest.approx(500, abs=3)
    assert region.wear.coverage_percent > 0
    qtbot.mouseClick(room.lay, Qt.MouseButton.LeftButton)
    chips = {coat.name: coat.area_share for coat in session.project.coats_of("hull") if coat.kind == "chips"}
    rust = next(c for c in region.wear.classes if c.name == "rust")
    assert chips["Rust chips"] == pytest.approx(rust.coverage_percent / 100)


def test_plan_moves_a_step_and_the_fault_goes(workspace, qtbot):
    session = workspace.session
    workspace.open_room("plan")
    room = workspace.rooms["plan"]
    powder = next(step.id for step in session.project.steps if step.kind == "powder")
    room._choose(powder)
    assert "vanish" in " ".join(label.text() for label in room._found_panel.findChildren(type(room._remark)))
    room.timeline.setFocus()
    room.timeline._current = powder
    qtbot.keyClick(room.timeline, Qt.Key.Key_Down, Qt.KeyboardModifier.ControlModifier)
    assert session.project.steps[-1].id == powder
    assert not [advice for advice in session.advice() if "vanish" in advice.text]


def test_plan_refuses_evenings_that_cannot_be(workspace):
    workspace.open_room("plan")
    room = workspace.rooms["plan"]
    before = workspace.session.project
    room.evenings.setText("whenever")
    room.evenings.editingFinished.emit()
    assert workspace.session.project is before
    assert "mon-fri" in workspace.advice._text.text()
    room.evenings.setText("sat 10:00-18:00")
    room.evenings.editingFinished.emit()
    assert workspace.session.project.evenings == "sat 10:00-18:00"
    assert all(placed.start.weekday() == 5 for placed in room.schedule.steps)


def test_plan_keeps_schools_and_adds_steps(workspace):
    workspace.open_room("plan")
    room = workspace.rooms["plan"]
    room.question.setCurrentText("chips")
    room.school.setCurrentText("after the wash")
    room._set_school()
    assert workspace.session.project.schools["chips"] == "after the wash"
    count = len(workspace.session.project.steps)
    room.kind.setCurrentText("pin wash")
    room.add_step()
    assert len(workspace.session.project.steps) == count + 1
    assert workspace.session.project.step(room.current).kind == "pin-wash"


def test_bench_goes_step_by_step(workspace, qtbot):
    session = workspace.session
    workspace.open_room("bench")
    room = workspace.rooms["bench"]
    first = session.project.steps[0]
    assert room._title.text() == first.title
    qtbot.keyClick(room, Qt.Key.Key_Space)
    assert session.project.steps[0].done
    assert room._title.text() == session.project.steps[1].title
    assert ":" in room._wait.text()  # the clock runs
    qtbot.keyClick(room, Qt.Key.Key_PageUp)
    assert room._title.text() == first.title
    session.undo()
    assert not session.project.steps[0].done
    room._clock.stop()


def test_shelf_imports_all_or_nothing(workspace, tmp_path, qtbot):
    workspace.open_shelf()
    page = workspace.rooms["shelf"]
    count = len(page._shown)
    good = {
        "id": "pier-blue",
        "name": "Pier blue",
        "medium": "acrylic-water",
        "finish": "flat",
        "lab": [40, -5, -25],
    }
    (tmp_path / "bad.json").write_text(
        json.dumps({"paints": [good, {**good, "id": "x", "lab": [400, 0, 0]}]})
    )
    page.import_file(tmp_path / "bad.json")
    assert len(page._shown) == count
    assert "L*" in workspace.advice._text.text()
    (tmp_path / "good.json").write_text(json.dumps({"paints": [good]}))
    page.import_file(tmp_path / "good.json")
    assert len(page._shown) == count + 1
    page.order_by("name")
    names = [paint.name.casefold() for paint in page._shown]
    assert names == sorted(names)
    qtbot.keyClick(page.list, Qt.Key.Key_Right)
    assert page._name.text() == page._shown[1].name
    page.back.emit()
    assert workspace.room == "evidence"
    assert workspace.column.isVisible()


def test_viewer_zooms_and_pans(workspace, qtbot):
    viewer = workspace.rooms["evidence"].viewer
    before = viewer.to_picture(QPointF(200, 150))
    viewer.zoom(2.0, QPointF(200, 150))
    assert viewer.to_picture(QPointF(200, 150)).x() == pytest.approx(before.x(), abs=0.01)
    qtbot.keyClick(viewer, Qt.Key.Key_0)
    qtbot.mousePress(viewer, Qt.MouseButton.LeftButton, pos=QPoint(200, 150))
    qtbot.mouseMove(viewer, QPoint(240, 170))
    qtbot.mouseRelease(viewer, Qt.MouseButton.LeftButton, pos=QPoint(240, 170))
    assert viewer.to_picture(QPointF(240, 170)).x() == pytest.approx(before.x(), abs=1.5)
    qtbot.keyClick(viewer, Qt.Key.Key_0)
    assert viewer._fitted


def test_a_polygon_is_drawn_corner_by_corner_and_closed_on_its_first(untouched, qtbot):
    room = untouched.rooms["evidence"]
    untouched.session.choose_zone("house")
    room.samples.shape.setCurrentIndex(1)
    room.viewer.set_tool("sample")
    assert room.viewer.tool == "polygon"
    for x, y in ((600, 505), (700, 505), (700, 540), (600, 540), (600, 505)):
        qtbot.mouseClick(room.viewer, Qt.MouseButton.LeftButton, pos=widget_point(room.viewer, x, y))
    (sample,) = untouched.session.project.samples
    assert sample.shape == "polygon"
    assert len(sample.path) == 4
    assert sample.pixels > 2000
    untouched.session.undo()
    assert untouched.session.project.samples == ()


def test_a_brush_stroke_is_one_sample(untouched, qtbot):
    room = untouched.rooms["evidence"]
    untouched.session.choose_zone("house")
    room.samples.shape.setCurrentIndex(2)
    room.viewer.set_tool("sample")
    start, end = widget_point(room.viewer, 600, 520), widget_point(room.viewer, 700, 520)
    qtbot.mousePress(room.viewer, Qt.MouseButton.LeftButton, pos=start)
    qtbot.mouseMove(room.viewer, (start + end) / 2)
    qtbot.mouseMove(room.viewer, end)
    qtbot.mouseRelease(room.viewer, Qt.MouseButton.LeftButton, pos=end)
    (sample,) = untouched.session.project.samples
    assert sample.shape == "brush"
    assert sample.pixels > 150


def test_escape_drops_a_polygon_that_is_not_closed(untouched, qtbot):
    room = untouched.rooms["evidence"]
    room.viewer.set_tool("polygon")
    qtbot.mouseClick(room.viewer, Qt.MouseButton.LeftButton, pos=widget_point(room.viewer, 600, 505))
    qtbot.keyClick(room.viewer, Qt.Key.Key_Escape)
    assert room.viewer.tool == "polygon"
    qtbot.keyClick(room.viewer, Qt.Key.Key_Escape)
    assert room.viewer.tool == "look"
    assert untouched.session.project.samples == ()


def test_the_press_print_shows_what_its_greys_allow(workspace):
    room = workspace.rooms["evidence"]
    assert room.greys.isHidden()
    room.choose_photo("f3")
    assert not room.greys.isHidden()
    assert room.greys.ranked[0].scheme == "first livery"
    assert "neither hue nor strength" in room.greys._words.text()
    assert "Black and white" in room.cast_panel.words.text()
    before = [fit.chi_squared for fit in room.greys.ranked]
    room.greys.emulsion.setCurrentIndex(2)
    assert [fit.chi_squared for fit in room.greys.ranked] != before


def test_a_photo_said_to_be_coloured_in_gives_no_colours(workspace):
    room, session = workspace.rooms["evidence"], workspace.session
    fresh = session.cut("hull").targets.fresh
    assert "sheltered" in fresh.source
    room.describe_photo(session.project.photo("f1").model_copy(update={"tones": "colourised"}))
    assert all(s.lab[1:] == (0.0, 0.0) for s in session.project.samples if s.photo == "f1")
    changed = session.cut("hull").targets.fresh
    assert changed is None or "sheltered" not in changed.source
    session.undo()
    assert session.cut("hull").targets.fresh == fresh


def test_a_date_that_is_none_is_refused_and_nothing_changes(workspace):
    room, session = workspace.rooms["evidence"], workspace.session
    before = session.project
    room.describe_photo(before.photo("f1").model_copy(update={"date": "last summer"}))
    assert session.project is before
    assert "no date of a photo" in workspace.advice._text.text()


def test_clipped_pixels_are_striped_and_left_out_ones_dotted(workspace):
    room = workspace.rooms["evidence"]
    plain = room.viewer.grab().toImage()
    room.clipped.setChecked(True)
    assert room.viewer.show_clipped
    room.clipped.setChecked(False)
    assert room.viewer.grab().toImage() == plain
    sample = next(s for s in workspace.session.project.samples if s.photo == "f1")
    room.samples.looked_at.emit(sample)
    assert room.viewer._left_out is not None
    room.viewer.set_tool("look")
    assert room.viewer._left_out is None


def test_a_second_feature_is_named_and_located(workspace):
    room, session = workspace.rooms["evidence"], workspace.session
    room.features._start_another()
    room.features.text.setPlainText("The patched funnel")
    room.features.text.editing_finished.emit()
    assert [feature.words for feature in session.project.features][1] == "The patched funnel"
    session.choose_zone("funnel")
    room.features.place.click()
    assert room.viewer.tool == "feature"
    room.viewer.placed.emit("feature", 836.0, 340.0, 8.0)
    feature = session.project.features[1]
    assert (feature.zone, feature.photo, feature.x) == ("funnel", "f1", 836.0)
    assert room.viewer.tool == "look"


def test_what_would_help_is_said_for_the_chosen_zone(workspace):
    room = workspace.rooms["evidence"]
    workspace.session.choose_zone("funnel")
    assert room.samples._hint.text().startswith("Funnel, surer:")


def test_a_known_length_gives_the_scale(workspace, qtbot, monkeypatch):
    workspace.open_room("wear")
    room = workspace.rooms["wear"]
    asked = []
    monkeypatch.setattr(
        "lean_sepia.ui.rooms.wear_room.QInputDialog.getDouble",
        lambda *given: asked.append(given) or (12_000.0, True),
    )
    room.length.click()
    assert room.viewer.tool == "length"
    room.viewer.length_drawn.emit(100.0, 600.0, 500.0, 900.0)
    assert room.mm.value() == pytest.approx(24.0)
    assert room.viewer.mm_per_px == pytest.approx(24.0)
    assert room.viewer.tool == "look"
    room.set_length((5, 5), (5, 5), 100)
    assert "known length" in workspace.advice._text.text()
    assert room.mm.value() == pytest.approx(24.0)


def test_an_area_is_traced_snapped_and_divided_into_tones(workspace, qtbot):
    room, session = workspace.rooms["evidence"], workspace.session
    session.choose_zone("hull")
    assert room.shares.isHidden()
    room.viewer.set_tool("area")
    assert not room.shares.isHidden()
    for x, y in ((480, 600), (1200, 600), (1200, 660), (480, 660), (480, 600)):
        qtbot.mouseClick(room.viewer, Qt.MouseButton.LeftButton, pos=widget_point(room.viewer, x, y))
    region = session.project.regions[-1]
    assert (region.zone, region.photo) == ("hull", "f1")
    assert {tone.name for tone in region.tones} == {"faded", "sheltered"}
    assert 0.5 < sum(tone.share for tone in region.tones) <= 1
    assert "ΔE₀₀" in room.shares._words.text()
    assert room.viewer.tool == "look"
    session.undo()
    assert room.shares.isHidden()


def test_the_models_own_photo_is_no_target(workspace):
    session = workspace.session
    before = session.cut("hull").targets
    sample = next(s for s in session.project.samples if s.zone == "hull")
    session.edit(
        "x",
        lambda p: edits.put(
            p, "samples", sample.model_copy(update={"id": "own", "photo": "f4", "lab": (90.0, 0.0, 0.0)})
        ),
    )
    assert session.cut("hull").targets.fresh == before.fresh


def test_the_shelf_goes_out_in_every_form(workspace, tmp_path):
    workspace.open_shelf()
    page = workspace.rooms["shelf"]
    said = []
    workspace.session.refused.connect(said.append)
    for name in ("out.json", "out.csv", "out.txt", "out.gpl"):
        page.export_file(tmp_path / name)
        assert (tmp_path / name).stat().st_size > 500
    page.export_file(tmp_path / "nowhere" / "out.json")
    assert "cannot be written" in said[0]


def test_a_shelf_is_read_from_one_photo(workspace, tmp_path, shelf_paints, monkeypatch):
    import cv2

    from lean_sepia.demo.card_photo import Shot, photograph_card
    from lean_sepia.ui.card_dialog import CardDialog

    painted = [paint for paint in shelf_paints if paint.mixes][:6]
    photo = tmp_path / "card.png"
    cv2.imwrite(str(photo), photograph_card(painted, Shot(), 3)[..., ::-1])
    workspace.open_shelf()
    page = workspace.rooms["shelf"]
    before = len(workspace.session.shelf.records())

    def named(dialog):
        assert len(dialog.rows) == 6
        dialog.rows[0].name.setText("My white")
        dialog.rows[5].taken.setChecked(False)
        dialog.rows[1].finish.setCurrentIndex(dialog.rows[1].finish.findData("satin"))
        return 1

    monkeypatch.setattr(CardDialog, "exec", named)
    page.read_card_photo(photo, 62.0)
    records = workspace.session.shelf.records()
    assert len(records) == before + 5
    added = {record["id"]: record for record in records[before:]}
    assert added["my-white"]["knowledge"] == "two-constant"
    assert added["paint-2"]["finish"] == "satin"
    read = next(paint for paint in workspace.session.shelf.paints() if paint.id == "my-white")
    assert float(delta_e00(read.masstone_lab(), painted[0].masstone_lab())) < 3
    page.print_card(tmp_path / "card.pdf")
    assert (tmp_path / "card.pdf").read_bytes().startswith(b"%PDF")


def test_a_photo_without_a_card_is_refused(workspace, tmp_path):
    import cv2

    photo = tmp_path / "grey.png"
    cv2.imwrite(str(photo), np.full((200, 300, 3), 90, np.uint8))
    workspace.open_shelf()
    said = []
    workspace.session.jobs.failed.connect(said.append)
    workspace.rooms["shelf"].read_card_photo(photo, None)
    assert "corner marks" in said[0]
