"""A project among ordinary hands: clocks that were wrong, links, files written over, numbers at their end."""

import hashlib
import os
import shutil
import sqlite3
import sys
import threading
from datetime import UTC, datetime, timedelta

import pytest

from lean_sepia.document.check import broken_rule
from lean_sepia.document.edits.photos import add_photo
from lean_sepia.document.edits.zones import add_zone
from lean_sepia.document.model import Coat, Photo, Project, Step, Surface
from lean_sepia.document.store import ProjectStore
from lean_sepia.errors import InUseError, ProjectFileError, SaveError

PICTURE = b"a picture"
SHA = hashlib.sha256(PICTURE).hexdigest()


@pytest.fixture
def project():
    project = add_zone(Project(title="Tug"), "Hull")[0]
    return add_photo(project, Photo(id="f1", sha256=SHA, name="a.png", title="a", width=3, height=2))


@pytest.fixture
def place(tmp_path, project):
    folder = tmp_path / "bench"
    folder.mkdir()
    store = ProjectStore.create(folder / "a.sepia", project)
    store.add_photo(SHA, "image/png", "a.png", PICTURE)
    store.close()
    return folder / "a.sepia"


def tampered(place, *statements):
    db = sqlite3.connect(place)
    for statement in statements:
        db.execute(*(statement if isinstance(statement, tuple) else (statement,)))
    db.commit()
    db.close()


def titled(project, title):
    return project.model_copy(update={"title": title})


def test_the_numbers_of_revisions_may_be_at_their_end(place, project):
    tampered(place, "UPDATE sqlite_sequence SET seq = 9223372036854775807 WHERE name = 'revision'")
    store = ProjectStore.open(place)
    store.save(titled(project, "Two"), "two")
    store.close()
    tampered(place, "UPDATE revision SET id = 9223372036854775807 WHERE label = 'two'")
    store = ProjectStore.open(place)
    for title in ("Three", "Four"):
        store.save(titled(project, title), title)
    assert [store.revision(revision.id).title for revision in store.revisions()] == [
        "Four",
        "Three",
        "Two",
        "Tug",
    ]
    assert max(revision.id for revision in store.revisions()) < 10
    store.close()


def revisions_at(place, project, moments):
    text = project.model_dump_json()
    insert = "INSERT INTO revision (saved_at, label, document) VALUES (?, 'old', ?)"
    tampered(place, *((insert, (moment.isoformat(timespec="milliseconds"), text)) for moment in moments))


def hours_kept(store):
    return {f"{revision.saved_at:%Y-%m-%d %H}" for revision in store.revisions() if revision.label == "old"}


@pytest.mark.parametrize("wrong", [datetime(2099, 1, 1, tzinfo=UTC), datetime(1970, 1, 1, tzinfo=UTC)])
def test_a_clock_that_was_wrong_once_prunes_nothing(place, project, wrong):
    now = datetime(2031, 3, 3, 12, 30, tzinfo=UTC)
    moments = [now - timedelta(hours=hours) for hours in range(300, 0, -1)]
    revisions_at(place, project, moments)
    store = ProjectStore.open(place)
    store.save(titled(project, "ahead"), "ahead", now=wrong)
    assert len(hours_kept(store)) == 300
    for number in range(250):
        store.save(titled(project, f"{number}"), "right again", now=now + timedelta(seconds=number))
    assert len(hours_kept(store)) == 300
    assert any(revision.saved_at == wrong for revision in store.revisions())
    store.close()


def test_a_month_away_from_the_bench_prunes_nothing(place, project):
    now = datetime(2031, 3, 3, 12, 30, tzinfo=UTC)
    revisions_at(place, project, [now - timedelta(days=90, minutes=minutes) for minutes in range(600, 0, -2)])
    store = ProjectStore.open(place)
    for number in range(210):
        store.save(titled(project, f"{number}"), "back", now=now + timedelta(seconds=number))
    assert len(hours_kept(store)) >= 10
    assert len(store.revisions()) < 230  # of each hour the last only
    store.close()


def test_stamps_at_the_end_of_time_are_left_out_and_harm_nothing(place, project):
    stamps = ("9999-12-31T23:59:59.999+00:00", "9999-12-31T23:59:59-23:00", "0001-01-01T00:00:00+23:00")
    tampered(
        place,
        *(
            (
                "INSERT INTO revision (saved_at, label, document) VALUES (?, 'odd', ?)",
                (s, project.model_dump_json()),
            )
            for s in stamps
        ),
    )
    store = ProjectStore.open(place)
    for revision in store.revisions():
        revision.saved_at.astimezone()
    store.save(titled(project, "Two"), "two")
    assert store.revisions()[0].label == "two"
    store.close()


def test_the_file_is_held_by_whichever_name(place, tmp_path):
    (tmp_path / "hard.sepia").hardlink_to(place)
    (tmp_path / "soft.sepia").symlink_to(place)
    first = ProjectStore.open(place)
    for name in ("hard.sepia", "soft.sepia"):
        with pytest.raises(InUseError):
            ProjectStore.open(tmp_path / name)
        reader = ProjectStore.open(tmp_path / name, reading=True)
        assert reader.load()[0].title == "Tug"
        reader.close()
    first.save(titled(first.load()[0], "Two"), "two")
    first.close()
    for name in ("hard.sepia", "soft.sepia"):
        second = ProjectStore.open(tmp_path / name)
        with pytest.raises(InUseError):
            ProjectStore.open(place)
        second.close()
    assert sorted(file.name for file in tmp_path.iterdir()) == ["bench", "hard.sepia", "soft.sepia"]
    assert [file.name for file in place.parent.iterdir()] == ["a.sepia"]


def test_a_copy_is_not_put_over_what_someone_works_on(place, project):
    other = place.with_name("b.sepia")
    theirs = ProjectStore.create(other, titled(project, "Theirs"))
    mine = ProjectStore.open(place)
    with pytest.raises(ProjectFileError, match="open elsewhere"):
        mine.save_copy(other)
    assert theirs.load()[0].title == "Theirs"
    theirs.close()
    mine.save_copy(other)
    mine.close()


@pytest.mark.parametrize("older", [False, True])
def test_a_file_written_over_in_place_is_noticed(place, project, tmp_path, older):
    """As a restored backup or a synchronised folder does: the same file, another content."""
    other = tmp_path / "other.sepia"
    if older:
        shutil.copy(place, other)
    else:
        ProjectStore.create(other, titled(project, "Other")).close()
    store = ProjectStore.open(place)
    store.save(titled(project, "Mine"), "mine")
    number = place.stat().st_ino
    place.write_bytes(other.read_bytes())
    assert place.stat().st_ino == number
    before = place.read_bytes()
    with pytest.raises(SaveError, match="replaced") as caught:
        store.save(titled(project, "Mine too"), "mine too")
    assert caught.value.lost
    assert place.read_bytes() == before
    store.move_to(place.with_name("kept.sepia"), titled(project, "Mine too"), "mine too")
    store.save(titled(project, "Mine three"), "mine three")
    assert place.read_bytes() == before
    assert store.load()[0].title == "Mine three"
    if older:
        assert store.photo(SHA) == PICTURE  # what the file still had of our photos came along
    store.close()


def test_a_file_that_was_only_touched_is_saved_into(place, project):
    store = ProjectStore.open(place)
    os.utime(place, (1, 1))
    os.chmod(place, 0o600)
    store.save(titled(project, "Mine"), "mine")
    assert store.load()[0].title == "Mine"
    store.close()


def test_a_damaged_photo_is_mended_by_adding_it_again(place, project):
    tampered(place, ("UPDATE photo SET bytes = ?", (b"a pictuXe",)))
    store = ProjectStore.open(place)
    store.add_photo(SHA, "image/png", "a.png", PICTURE)
    assert store.photo(SHA) == PICTURE
    store.close()


def test_photos_and_states_are_written_from_two_threads(place, project):
    """Neither takes what the other wrote for another's file."""
    store = ProjectStore.open(place)
    faults = []

    def add():
        try:
            for number in range(60):
                store.add_photo(f"{number:064d}", "image/png", "a.png", bytes(20_000))
        except SaveError as error:
            faults.append(error)

    thread = threading.Thread(target=add)
    thread.start()
    for number in range(60):
        store.save(titled(project, f"{number}"), "edit")
    thread.join()
    assert faults == []
    assert store.load()[0].title == "59"
    assert store.photo(f"{59:064d}") == bytes(20_000)
    store.close()


def _opcodes(call):
    """How many instructions of Python a call takes, whatever the machine."""
    count = 0

    def trace(frame, event, _argument):
        nonlocal count
        frame.f_trace_opcodes = True
        count += event == "opcode"
        return trace

    before = sys.gettrace()
    sys.settrace(trace)
    try:
        call()
    finally:
        sys.settrace(before)
    return count


def _many_surfaces(count):
    project = add_zone(Project(title="x"), "Hull")[0]
    zones = [
        project.zones[0].model_copy(update={"id": f"z{i}", "name": f"Z{i}", "surface": f"s{i}", "share": 1.0})
        for i in range(count)
    ]
    surfaces = [Surface(id=f"s{i}", name=f"S{i}") for i in range(count)]
    return project.model_copy(update={"zones": tuple(zones), "surfaces": tuple(surfaces)})


def _deep(count):
    project = add_zone(Project(title="x"), "Hull")[0]
    steps = [Step(id=f"t{i}", title="x", kind="scrape" if i else "base", zones=("z1",)) for i in range(count)]
    coats = [
        Coat(id=f"c{i}", zone="z1", step=f"t{i}", kind=step.kind, down_to=f"c{i - 1}" if i else None)
        for i, step in enumerate(steps)
    ]
    return project.model_copy(update={"steps": tuple(steps), "coats": tuple(coats)})


@pytest.mark.parametrize("many", [_many_surfaces, _deep])
def test_checks_grow_with_the_document_and_no_faster(many):
    small, large = many(150), many(600)
    assert broken_rule(small) is None
    few, lots = _opcodes(lambda: broken_rule(small)), _opcodes(lambda: broken_rule(large))
    assert lots < 5 * few


def test_looking_things_up_grows_with_the_document_and_no_faster():
    def all_of(project):
        return [(project.zone(z.id), project.coats_of(z.id)) for z in project.zones], [
            project.coat(c.id) for c in project.coats
        ]

    small, large = _many_surfaces(100), _many_surfaces(400)
    assert _opcodes(lambda: all_of(large)) < 5 * _opcodes(lambda: all_of(small))
    small, large = _deep(100), _deep(400)
    assert _opcodes(lambda: all_of(large)) < 5 * _opcodes(lambda: all_of(small))


def test_what_is_looked_up_is_that_of_the_document_as_it_is(project):
    many = _many_surfaces(60)
    changed = many.model_copy(
        update={"zones": (many.zones[0].model_copy(update={"name": "Other"}), *many.zones[1:])}
    )
    assert [p.zone("z0").name for p in (many, changed, many)] == ["Z0", "Other", "Z0"]
    deep = _deep(40)
    assert [coat.id for coat in deep.coats_of("z1")] == [f"c{i}" for i in range(40)]
    turned = deep.model_copy(update={"steps": (*deep.steps[1:2], deep.steps[0], *deep.steps[2:])})
    assert [coat.id for coat in turned.coats_of("z1")][:3] == ["c1", "c0", "c2"]
    assert deep.coats_of("nowhere") == ()
