"""What a hand does while jobs run: everything that was done is in the document at the end."""

import threading

import numpy as np
import pytest
from PIL import Image
from PySide6.QtCore import QMimeData, QUrl
from PySide6.QtGui import QColor, QImage

from lean_sepia.document.edits.zones import add_zone
from lean_sepia.document.model import AnchorMark
from lean_sepia.document.store import ProjectStore
from lean_sepia.errors import BadInputError
from lean_sepia.ui.kit.job import Jobs
from lean_sepia.ui.photo.pictures import Pictures
from lean_sepia.ui.shell.settings import Settings
from lean_sepia.ui.shell.window import MainWindow


@pytest.fixture
def slow(qtbot, demo):
    """The untouched demo in a window whose jobs run in threads."""
    window = MainWindow(Settings(), remember=False)
    window.resize(1280, 800)
    window.show()
    assert window.open_project(demo.untouched)
    qtbot.waitUntil(lambda: "evidence" in window.workspace.rooms, timeout=20_000)
    qtbot.waitUntil(lambda: window.workspace.rooms["evidence"].seen is not None, timeout=30_000)
    yield window
    window.close()
    window.deleteLater()


@pytest.fixture
def gate(monkeypatch):
    """Reading photos waits until it is let go on."""
    from lean_sepia.ui.shell import adding_photos

    held, read = threading.Event(), adding_photos.read_photo
    monkeypatch.setattr(adding_photos, "read_photo", lambda path: (held.wait(20), read(path))[1])
    yield held
    held.set()


def picture_files(folder, count):
    for number in range(count):
        pixels = np.full((12, 16, 3), 10 + number, np.uint8)
        Image.fromarray(pixels).save(folder / f"roof-{number:02d}.png")
    return [str(folder / f"roof-{number:02d}.png") for number in range(count)]


def names(window):
    return [photo.name for photo in window.workspace.session.project.photos]


def done(qtbot, window):
    qtbot.waitUntil(lambda: not window.workspace.session.jobs.acting, timeout=60_000)


def test_photos_dropped_while_others_are_read_come_too(slow, gate, tmp_path, qtbot):
    files = picture_files(tmp_path, 5)
    slow.workspace.add_photos(files[:2])
    slow.workspace.add_photos([files[2], "/dev/null"])
    slow.workspace.add_photos(files[3:])
    gate.set()
    done(qtbot, slow)
    assert names(slow)[-5:] == [f"roof-{number:02d}.png" for number in range(5)]
    assert "/dev/null" in slow.workspace.advice._text.text()


def test_photos_appear_one_by_one(slow, tmp_path, qtbot):
    seen = []
    slow.workspace.session.changed.connect(lambda: seen.append(len(names(slow))))
    before = len(names(slow))
    slow.workspace.add_photos(picture_files(tmp_path, 6))
    done(qtbot, slow)
    assert seen == list(range(before + 1, before + 7))


def test_an_anchor_followed_by_another_photo_is_kept(slow, qtbot):
    room, session = slow.workspace.rooms["evidence"], slow.workspace.session
    room.edits.add_anchor(AnchorMark(id="new", x=1088, y=511, radius=5, lightness=65, name="Locker"))
    room.choose_photo("f2")
    done(qtbot, slow)
    assert [anchor.name for anchor in session.project.photo("f1").anchors] == ["Locker"]
    assert session.project.photo("f2").anchors == ()


def test_what_is_written_of_a_photo_during_a_fit_stays(slow, qtbot):
    room, session = slow.workspace.rooms["evidence"], slow.workspace.session
    room.edits.add_anchor(AnchorMark(id="new", x=1088, y=511, radius=5, lightness=65, name="Locker"))
    room.edits.describe_photo("f1", {"title": "My slide", "date": "1958"})
    room.edits.describe_photo("f1", {"like": "f2"})
    done(qtbot, slow)
    photo = session.project.photo("f1")
    assert (photo.title, photo.date, photo.like, len(photo.anchors)) == ("My slide", "1958", "f2", 1)


def test_what_is_written_last_of_a_photo_is_what_stays(slow, qtbot):
    room, session = slow.workspace.rooms["evidence"], slow.workspace.session
    room.edits.add_anchor(AnchorMark(id="new", x=1088, y=511, radius=5, lightness=65, name="Locker"))
    room.edits.describe_photo("f1", {"title": "First", "like": "f2"})
    room.edits.describe_photo("f1", {"title": "Last"})
    done(qtbot, slow)
    photo = session.project.photo("f1")
    assert (photo.title, photo.like, len(photo.anchors)) == ("Last", "f2", 1)


def test_a_guess_taken_and_left_out_quickly_is_out(slow, qtbot):
    room, session = slow.workspace.rooms["evidence"], slow.workspace.session
    for _click in range(2):
        room.edits.toggle_usual("shadow")
    done(qtbot, slow)
    assert session.project.photo("f1").anchors == ()


def test_two_quick_traces_and_straightenings_are_both_done(slow, qtbot):
    room, session = slow.workspace.rooms["evidence"], slow.workspace.session
    first, second = session.project.zones[:2]
    photos = len(session.project.photos)
    session.choose_zone(first.id)
    room.edits.trace_area([(500, 580), (700, 580), (700, 640), (500, 640)], False)
    session.choose_zone(second.id)
    room.edits.trace_area([(600, 420), (700, 420), (700, 470), (600, 470)], False)
    for right in (700, 760):
        room.edits.straighten([(500, 400), (right, 400), (right, 640), (500, 640)], 100.0, 80.0)
    done(qtbot, slow)
    assert {region.zone for region in session.project.regions} == {first.id, second.id}
    assert len(session.project.photos) == photos + 2


def test_closing_waits_for_what_is_in_flight(slow, qtbot, demo):
    room = slow.workspace.rooms["evidence"]
    room.edits.add_anchor(AnchorMark(id="new", x=1088, y=511, radius=5, lightness=65, name="Locker"))
    assert slow.close()
    store = ProjectStore.open(demo.untouched, reading=True)
    assert [anchor.name for anchor in store.load()[0].photo("f1").anchors] == ["Locker"]
    store.close()


@pytest.mark.parametrize("answer", [2, 1])
def test_closing_asks_where_it_takes_long(slow, gate, tmp_path, monkeypatch, answer):
    asked = []
    monkeypatch.setattr("lean_sepia.ui.shell.keeping._PATIENCE_MS", 50)
    monkeypatch.setattr(
        "lean_sepia.ui.shell.keeping.choose", lambda *question: (asked.append(question[3:]), answer)[1]
    )
    slow.workspace.add_photos(picture_files(tmp_path, 1))
    closed = slow.close()
    assert asked == [("Wait for it", "Leave without it", "Stay here")]
    assert closed == (answer == 1)
    gate.set()
    monkeypatch.setattr("lean_sepia.ui.shell.keeping._PATIENCE_MS", 20_000)


def test_what_was_typed_and_not_confirmed_is_kept(window, workspace, demo):
    room = workspace.rooms["evidence"]
    room.features._start_another()
    room.features.text.setFocus()
    room.features.text.setPlainText("A dent in the funnel")
    workspace.activateWindow()
    room.features.text.setFocus()
    window.close()
    store = ProjectStore.open(demo.worked, reading=True)
    kept = [feature.words for feature in store.load()[0].features]
    store.close()
    assert "A dent in the funnel" in kept


@pytest.fixture
def jobs(qtbot):
    answer = Jobs()
    yield answer
    answer.close()
    answer.deleteLater()


def test_acts_about_one_thing_take_turns_and_about_others_do_not_wait(jobs, qtbot):
    told, held = [], threading.Event()
    jobs.act("a", lambda: lambda _p: held.wait(10) and 1, told.append)
    jobs.act("a", lambda: lambda _p: 2, told.append)
    jobs.act("b", lambda: lambda _p: 3, told.append)
    qtbot.waitUntil(lambda: told == [3])
    assert jobs.acting
    held.set()
    with qtbot.waitSignal(jobs.acts_done):
        pass
    assert told == [3, True, 2] or told == [3, 1, 2]
    assert not jobs.acting


def test_an_act_that_fails_is_told_and_the_next_is_done(jobs, qtbot, mistakes):
    told, failed = [], []
    jobs.failed.connect(failed.append)

    def refuse(_progress):
        raise BadInputError("no")

    def broken():
        raise ZeroDivisionError("oh")

    jobs.act("a", lambda: refuse, told.append)
    jobs.act("a", broken, told.append)
    jobs.act("a", lambda: None, told.append)
    jobs.act("a", lambda: lambda _p: 1 / 0, told.append)
    jobs.act("a", lambda: lambda _p: "last", told.append)
    qtbot.waitUntil(lambda: not jobs.acting)
    assert told == ["last"]
    assert failed[0] == "no"
    assert any("ZeroDivisionError" in words for words in failed)
    mistakes.clear()


def test_an_act_is_asked_anew_where_its_answer_came_too_late(jobs, qtbot):
    asked, told = [], []

    def prepare():
        asked.append(1)
        return lambda _p: len(asked)

    jobs.act("a", prepare, lambda answer: (told.append(answer), answer < 3)[1])
    qtbot.waitUntil(lambda: not jobs.acting)
    assert told == [1, 2, 3]


def test_an_act_that_is_cancelled_gives_up_what_waits_behind_it(jobs, qtbot):
    told, begun = [], []
    reached = threading.Event()

    def long(progress):
        reached.set()
        for share in range(1000):
            progress(share / 1000)
            threading.Event().wait(0.002)

    jobs.act("photos", lambda: long, told.append, begun.append)
    jobs.act("photos", lambda: lambda _p: "second", told.append)
    assert reached.wait(5)
    begun[0].cancel()
    qtbot.waitUntil(lambda: not jobs.acting)
    assert told == []


def test_what_is_no_picture_makes_no_project(window, tmp_path, monkeypatch):
    monkeypatch.setattr("lean_sepia.ui.shell.keeping.user_folder", lambda: tmp_path / "mine")
    monkeypatch.setattr("lean_sepia.ui.shell.window.tell", lambda *_a: None)
    (tmp_path / "a.txt").write_text("no picture")
    window.starting.with_photos([str(tmp_path / "a.txt"), str(tmp_path / "missing.png")])
    assert window.workspace is None
    assert not (tmp_path / "mine").exists()
    assert "a.txt" in window.start_page.message.text()
    (good,) = picture_files(tmp_path, 1)
    window.starting.with_photos([str(tmp_path / "a.txt"), good])
    assert names(window) == ["roof-00.png"]
    assert window.workspace.session.project.title == "roof-00"
    assert [file.name for file in (tmp_path / "mine" / "projects").glob("[!.]*")] == ["roof-00.sepia"]


def test_a_damaged_photo_is_mended_by_adding_it_again(workspace, demo):
    session = workspace.session
    photo = session.project.photos[0]
    with session.store._db.changing() as db:
        db.execute("UPDATE photo SET bytes = x'00' WHERE sha256 = ?", (photo.sha256,))
    session.store._note_written()
    before = session.project
    workspace.add_photos([str(demo.photo("slide-1957.jpg"))])
    assert session.project is before
    assert "whole again" in workspace.advice._text.text()
    assert session.store.photo(photo.sha256) == demo.photo("slide-1957.jpg").read_bytes()


def test_dropped_pictures_that_are_no_files(workspace):
    image = QImage(40, 30, QImage.Format.Format_RGB888)
    image.fill(QColor(120, 90, 60))
    mime = QMimeData()
    mime.setUrls([QUrl("https://example.invalid/a.png")])
    mime.setImageData(image)
    assert workspace.photos.add_from(mime)
    added = workspace.session.project.photos[-1]
    assert (added.width, added.height) == (40, 30)
    assert tuple(workspace.session.pictures.picture(added).pixels[5, 5]) == (120, 90, 60)
    encoded = QMimeData()
    encoded.setData("image/png", workspace.session.pictures.bytes_of(added))
    assert workspace.photos.add_from(encoded)
    assert "already" in workspace.advice._text.text()


def test_nothing_is_made_of_a_zone_that_was_taken_away_meanwhile(slow, qtbot):
    room, session = slow.workspace.rooms["evidence"], slow.workspace.session
    session.edit("Add", lambda p: add_zone(p, "Mast")[0])
    session.choose_zone(session.project.zones[-1].id)
    room.edits.trace_area([(500, 580), (700, 580), (700, 640), (500, 640)], False)
    session.undo()
    done(qtbot, slow)
    assert session.project.regions == ()


def test_large_pictures_are_worked_on_beside_the_window(slow, qtbot, monkeypatch):
    """However large a picture is, the window's own thread neither encodes, decodes nor stores it."""
    from lean_sepia.ui.shell import adding_photos

    threads = {}

    def noted(name, really):
        def call(*given, **more):
            threads[name] = threading.get_ident()
            return really(*given, **more)

        return call

    monkeypatch.setattr(adding_photos, "_png_of", noted("encode", adding_photos._png_of))
    monkeypatch.setattr(adding_photos, "decode_picture", noted("decode", adding_photos.decode_picture))
    monkeypatch.setattr(ProjectStore, "add_photo", noted("store", ProjectStore.add_photo))
    image = QImage(400, 300, QImage.Format.Format_ARGB32)
    image.fill(QColor(120, 90, 60))
    mime = QMimeData()
    mime.setImageData(image)
    assert slow.workspace.photos.add_from(mime)
    done(qtbot, slow)
    assert set(threads) == {"encode", "decode", "store"}
    assert threading.get_ident() not in threads.values()


def test_no_more_pictures_are_kept_than_fit(workspace, monkeypatch):
    pictures, photos = Pictures(workspace.session.store), workspace.session.project.photos
    largest = max(3 * photo.width * photo.height for photo in photos)
    monkeypatch.setattr("lean_sepia.ui.photo.pictures._KEPT_BYTES", 2 * largest)
    for photo in photos:
        assert pictures.picture(photo).width == photo.width
    kept = [photo for photo in photos if pictures.has(photo)]
    assert photos[-1] in kept
    assert sum(pictures.picture(photo).pixels.nbytes for photo in kept) <= 2 * largest
    assert len(kept) < len(photos)
