"""Evidence: what kind of picture a photo is, guesses at black and white, photos developed alike, mixed light, the dated line."""

import numpy as np
import pytest
from PySide6.QtCore import Qt

from lean_sepia.answers.evidence import alike
from lean_sepia.document.edits.photos import describe_photo
from lean_sepia.document.model import AnchorMark, Photo, Project, Subject
from lean_sepia.photo.correction.usual_anchors import SHADOW_LIGHTNESS
from lean_sepia.ui.evidence.line.hung_photo import HungPhoto, thing_of
from lean_sepia.ui.evidence.line.years import Span, hung, liveries, said_date, span_of, years_shown


def grey(x=1088.0, y=511.0, lightness=65.0, **more):
    return AnchorMark(id="new", x=x, y=y, radius=5, lightness=lightness, name="Locker", **more)


def sampled_house(untouched):
    """The room and the session with one grey on the slide, and a sample of the house."""
    room, session = untouched.rooms["evidence"], untouched.session
    session.choose_zone("house")
    room.edits.add_anchor(grey())
    room.add_sample(640, 520, 12)
    return room, session, session.project.samples[0]


def stated(room, kind):
    box = room.development.kind
    box.choose(kind)
    box.activated.emit(box.currentIndex())


def test_a_stated_kind_narrows_every_range_and_undo_takes_it_back(untouched):
    room, session, before = sampled_house(untouched)
    assert session.project.photo("f1").kind == "unknown"
    assert "Not known: " in room.cast_panel.detail.text()
    stated(room, "developed")
    after = session.project.samples[0]
    assert session.project.photo("f1").kind == "developed"
    assert after.de00_90 < 0.7 * before.de00_90
    assert room.seen.cast.kind == "developed"
    assert room.development.kind.value == "developed"
    session.undo()
    assert session.project.samples[0] == before
    assert room.development.kind.value == "unknown"


def test_a_guess_is_told_and_goes_when_a_kind_is_stated(untouched, monkeypatch):
    room = untouched.rooms["evidence"]
    from lean_sepia.photo.correction.kind_guess import KindGuess

    object.__setattr__(
        room.seen.picture, "guess", KindGuess("print", "nothing in it is black or white, as on paper")
    )
    room.refresh()
    assert "Looks like a scan of a print" in room.cast_panel.detail.text()
    stated(room, "slide")
    assert "Looks like" not in room.cast_panel.detail.text()


def test_black_and_white_by_guess_are_anchors_that_can_be_left_out_again(untouched, qtbot):
    room, session = untouched.rooms["evidence"], untouched.session
    room.edits.add_anchor(grey())
    qtbot.mouseClick(room.development.shadow, Qt.MouseButton.LeftButton)
    (mark,) = [anchor for anchor in session.project.photo("f1").anchors if anchor.guess]
    assert (mark.group, mark.lightness) == ("shadow", SHADOW_LIGHTNESS)
    assert "a guess" in mark.name
    assert room.development.shadow.isChecked()
    assert room.seen.cast.known == 1  # a guess is not knowledge
    qtbot.mouseClick(room.development.shadow, Qt.MouseButton.LeftButton)
    assert not any(anchor.guess for anchor in session.project.photo("f1").anchors)
    assert not room.development.shadow.isChecked()


def test_anchors_of_a_photo_developed_alike_count_and_follow(untouched):
    room, session, alone = sampled_house(untouched)
    room.choose_photo("f2")
    for x, y, lab in ((1088.0, 511.0, (65.0, 0.0, 0.0)), (660.0, 424.0, (91.0, -0.4, 7.3))):
        room.edits.add_anchor(grey(x, y, lab[0], a=lab[1], b=lab[2]))
    room.edits.describe_photo("f2", {"like": "f1"})
    assert [photo.id for photo in alike(session.project, "f1")] == ["f2"]
    (helped,) = session.project.samples
    assert helped.photo == "f1"
    assert helped.de00_90 != alone.de00_90  # it was read anew, in the same edit
    room.choose_photo("f1")
    assert "Developed like" in room.cast_panel.detail.text()
    session.undo()
    assert session.project.samples[0] == alone


def test_photos_of_one_batch_are_found_however_they_name_each_other():
    def photo(name, like=""):
        return Photo(id=name, sha256=name * 8, name=name, title=name, width=1, height=1, like=like)

    project = Project(photos=(photo("a"), photo("b", "a"), photo("c", "b"), photo("d"), photo("e", "gone")))
    assert {one.id for one in project.developed_alike("a")} == {"b", "c"}
    assert project.developed_alike("d") == ()
    assert alike(project, "a") == ()  # none of them has an anchor
    assert describe_photo(project, photo("d", "c")).photo("d").like == "c"


def test_greys_that_disagree_offer_a_map_of_the_light(untouched, qtbot):
    room = untouched.rooms["evidence"]
    room.edits.add_anchor(grey())
    assert room.lights.isHidden()
    room.edits.add_anchor(grey(640.0, 520.0, 80.0))  # the cream house, stated to be grey
    assert not room.lights.isHidden()
    before = room.viewer.grab().toImage()
    room.lights.setChecked(True)
    assert room.viewer.grab().toImage() != before
    off = room.seen.lights.over(12, 8)
    assert off.shape == (8, 12, 2)
    assert np.ptp(off[..., 1]) > 2
    room.lights.setChecked(False)
    assert room.viewer.grab().toImage() == before


@pytest.mark.parametrize(
    ("update", "thing"),
    [
        ({"kind": "slide"}, "slide"), ({"process": "colour print"}, "print"), ({"process": "glass plate"}, "plate"),
        ({"process": "page of a magazine"}, "page"), ({"kind": "phone"}, "phone"), ({}, "file"),
        ({"tones": "black-and-white"}, "print"),
    ],
)  # fmt: skip
def test_photos_hang_as_the_things_they_are(update, thing):
    photo = Photo(id="f", sha256="abc", name="n", title="t", width=4, height=3).model_copy(update=update)
    assert thing_of(photo) == thing


def test_things_hang_apart_and_within_the_room():
    lefts = hung([10, 20, 500, 505, 990], 100, 1000)
    assert np.diff(lefts).min() >= 100
    assert lefts[0] >= -40
    assert lefts[-1] + 100 <= 1000
    assert hung([5] * 20, 100, 300) == [100 * number for number in range(20)]
    assert hung([], 100, 300) == []


def test_dates_are_said_and_spans_found():
    assert said_date("1957-09") == "September 1957"
    assert said_date("1957-09-14") == "14 September 1957"
    assert said_date("1956/1958") == "1956 to 1958"
    assert said_date("no date") == "no date"
    assert span_of("") is None
    assert span_of("nonsense") is None
    begin, end = span_of("1956/1958")
    assert (begin, round(end)) == (1956.0, 1959)


def test_the_line_shows_the_years_of_liveries_and_photos_and_no_more():
    def photo(name, date, **more):
        return Photo(id=name, sha256=name * 8, name=name, title=name, width=1, height=1, date=date, **more)

    spans = [Span("second livery", 1954.0, 1964.0)]
    assert years_shown([photo("a", "1957"), photo("b", "2026", of_model=True)], spans) == (1953, 1965)
    assert years_shown([photo("a", "1957")], []) == (1954, 1960)
    assert years_shown([], []) is None
    subject = Subject(id="m", name="Tordmule", livery="second livery", livery_from="1954", livery_to="1963")
    assert [span.name for span in liveries(Project(subjects=(subject,)))] == ["second livery"]


def test_a_photo_is_chosen_on_the_line_by_key(workspace, qtbot):
    room = workspace.rooms["evidence"]
    card = next(card for card in room.findChildren(HungPhoto) if card.photo.id == "f2")
    qtbot.keyPress(card, Qt.Key.Key_Return)
    assert room.seen.photo.id == "f2"
