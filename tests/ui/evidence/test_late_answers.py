"""What happens between a question and its answer: clicks, undo, a photo taken away."""

import pytest

from lean_sepia.document.edits.photos import remove_photo
from lean_sepia.document.model import AnchorMark
from lean_sepia.photo.sample import sample_disc
from lean_sepia.ui.kit.job import Jobs


@pytest.fixture
def held(untouched, monkeypatch):
    """Answers wait until they are let go, as from slow threads."""
    waiting = []
    started = Jobs.start

    def hold(self, kind, work, done, progress=None, *, keep=False):
        waiting.append(lambda: started(self, kind, work, done, progress, keep=keep))

    def let_go():
        while waiting:
            waiting.pop(0)()

    untouched.rooms["evidence"].viewer.grab()
    monkeypatch.setattr(Jobs, "start", hold)
    return let_go


def anchor(**changes):
    return AnchorMark(
        **({"id": "new", "x": 1088, "y": 511, "radius": 5, "lightness": 65, "name": "Locker"} | changes)
    )


def test_a_sample_between_an_anchor_and_its_correction_gets_the_new_one(untouched, held):
    room, session = untouched.rooms["evidence"], untouched.session
    pixels = room.seen.picture.pixels
    bare = sample_disc(pixels, room.seen.cast, 836, 372, 11)
    session.choose_zone("funnel")
    room.edits.add_anchor(anchor())
    room.add_sample(836, 372, 11)
    held()
    (sample,) = session.project.samples
    corrected = sample_disc(pixels, room.seen.cast, 836, 372, 11)
    assert sample.lab == pytest.approx(corrected.lab)
    assert sample.lab != pytest.approx(bare.lab, abs=1)
    assert len(session.project.photos[0].anchors) == 1


def test_two_anchors_set_at_once_both_stay(untouched, held):
    room, session = untouched.rooms["evidence"], untouched.session
    room.edits.add_anchor(anchor())
    room.edits.add_anchor(anchor(x=1100, y=515, name="Again"))
    held()
    assert [a.name for a in session.project.photos[0].anchors] == ["Locker", "Again"]


def test_a_photo_taken_away_meanwhile_is_gone_and_nothing_is_raised(untouched, held):
    room, session = untouched.rooms["evidence"], untouched.session
    photo = room.seen.photo.id
    session.choose_zone("funnel")
    room.add_sample(836, 372, 11)
    room.edits.add_anchor(anchor())
    session.edit("", lambda p: remove_photo(p, photo))
    held()
    assert photo not in [p.id for p in session.project.photos]
    assert not [s for s in session.project.samples if s.photo == photo]
    assert room.seen is None or room.seen.photo.id != photo


def test_an_anchor_undone_before_its_answer_leaves_a_true_sample(untouched, held):
    room, session = untouched.rooms["evidence"], untouched.session
    room.edits.add_anchor(anchor())
    held()
    session.undo()
    session.choose_zone("funnel")
    room.add_sample(836, 372, 11)
    held()
    (sample,) = session.project.samples
    now = session.project.photos[0]
    assert now.anchors == ()
    assert sample.de00_90 > 8  # without an anchor a colour can be 10 out
