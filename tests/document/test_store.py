"""Project files: autosave, revisions, and files that are none, damaged or from the future."""

import sqlite3
from datetime import UTC, datetime, timedelta

import pytest

from lean_sepia.document.edits.zones import add_zone
from lean_sepia.document.history import History
from lean_sepia.document.migrate import parse_document
from lean_sepia.document.model import Project
from lean_sepia.document.store import ProjectStore
from lean_sepia.errors import EditError, ProjectFileError


@pytest.fixture
def project():
    return add_zone(Project(title="Tug"), "Hull")[0]


def test_what_is_saved_comes_back(tmp_path, project):
    store = ProjectStore.create(tmp_path / "a.sepia", project)
    store.add_photo("ab" * 32, "image/png", "a.png", b"picture")
    store.add_photo("ab" * 32, "image/png", "again.png", b"picture")
    changed = add_zone(project, "Roof")[0]
    store.save(changed, "Add zone Roof")
    store.close()
    again = ProjectStore.open(tmp_path / "a.sepia")
    assert again.load() == (changed, None)
    assert again.photo("ab" * 32) == b"picture"
    assert [revision.label for revision in again.revisions()] == ["Add zone Roof", "New project"]
    assert again.revision(again.revisions()[1].id) == project
    with pytest.raises(ProjectFileError, match="does not hold"):
        again.photo("cd" * 32)
    again.close()
    assert [file.name for file in tmp_path.iterdir() if file.is_file()] == [
        "a.sepia"
    ]  # a single file, nothing beside it


def put_revisions(store, moments, project):
    """Write revisions with these stamps, as if they had been saved then."""
    rows = [(moment.isoformat(timespec="milliseconds"), project.model_dump_json()) for moment in moments]
    with store._db.changing() as db:
        db.executemany("INSERT INTO revision (saved_at, label, document) VALUES (?, 'old', ?)", rows)
    store._note_written()  # not by a stranger


def test_the_last_200_and_one_an_hour_for_30_days_are_kept(tmp_path, project):
    store = ProjectStore.create(tmp_path / "a.sepia", project)
    now = datetime(2031, 3, 3, 12, tzinfo=UTC)
    put_revisions(
        store,
        [
            now - timedelta(minutes=minutes) for minutes in range(60 * 24 * 40, 0, -30)
        ],  # two an hour for 40 days
        project,
    )
    store.save(project, "now", now=now)
    kept = store.revisions()
    old = list(kept[200:])
    assert len(old) == pytest.approx(30 * 24 - 100, abs=3)
    hours = [revision.saved_at.strftime("%d %H") for revision in old]
    assert len(set(hours)) == len(hours)
    assert min(revision.saved_at for revision in kept) >= now - timedelta(days=30)
    store.close()


def test_a_damaged_revision_is_passed_over(tmp_path, project):
    store = ProjectStore.create(tmp_path / "a.sepia", project)
    with store._db.changing() as db:
        db.execute(
            "INSERT INTO revision (saved_at, label, document) VALUES ('2031-01-01T00:00:00+00:00', 'x', '{broken')"
        )
    loaded, note = store.load()
    assert loaded == project
    assert "1 damaged" in note
    store.close()


def _file(tmp_path, content=b"", name="a.sepia"):
    path = tmp_path / name
    path.write_bytes(content)
    return path


def test_files_that_are_no_projects(tmp_path, project):
    for content in (b"", b"hello", b"\x89PNG\r\n"):
        with pytest.raises(ProjectFileError, match="not a Lean Sepia project"):
            ProjectStore.open(_file(tmp_path, content))
    with pytest.raises(ProjectFileError, match="cannot be opened"):
        ProjectStore.open(tmp_path / "missing.sepia")
    other = tmp_path / "other.sqlite"
    db = sqlite3.connect(other)
    db.execute("CREATE TABLE x (y)")
    db.commit()
    db.close()
    with pytest.raises(ProjectFileError, match="another program"):
        ProjectStore.open(other)


def test_newer_files_are_refused_and_left_alone(tmp_path, project):
    path = tmp_path / "a.sepia"
    ProjectStore.create(path, project).close()
    db = sqlite3.connect(path)
    db.execute("PRAGMA user_version = 99")
    db.commit()
    db.close()
    before = path.read_bytes()
    with pytest.raises(ProjectFileError, match="newer version"):
        ProjectStore.open(path)
    assert path.read_bytes() == before
    with pytest.raises(ProjectFileError, match="newer version"):
        parse_document('{"format": 99}')


def test_cut_files_are_refused(tmp_path, project):
    path = tmp_path / "a.sepia"
    store = ProjectStore.create(path, project)
    store.add_photo("ab" * 32, "image/png", "a.png", bytes(40_000))
    store.close()
    path.write_bytes(path.read_bytes()[:6000])
    with pytest.raises(ProjectFileError, match="damaged"):
        load_once(path)


def load_once(path):
    """Open and load as the window does, whatever happens."""
    opened = ProjectStore.open(path)
    try:
        return opened.load()
    finally:
        opened.close()


def test_copies_hold_everything(tmp_path, project):
    store = ProjectStore.create(tmp_path / "a.sepia", project)
    store.add_photo("ab" * 32, "image/png", "a.png", b"picture")
    store.save_copy(tmp_path / "b.sepia")
    store.close()
    copy = ProjectStore.open(tmp_path / "b.sepia")
    assert copy.load()[0] == project
    assert copy.photo("ab" * 32) == b"picture"
    copy.close()
    with pytest.raises(ProjectFileError, match="exists already"):
        ProjectStore.create(tmp_path / "b.sepia", project)


def test_documents_with_dangling_references_are_damaged(project):
    text = project.model_dump_json().replace('"subject":"m1"', '"subject":"nobody"')
    with pytest.raises(ProjectFileError, match="does not exist"):
        parse_document(text)


def test_undo_and_redo_are_exact(project):
    history = History(project)
    values = [project]
    for name in ("Roof", "Mast", "Deck"):
        history.push(f"Add {name}", add_zone(history.present, name)[0])
        values.append(history.present)
    for value in reversed(values[:-1]):
        assert history.undo()
        assert history.present == value
    assert not history.undo()
    assert history.redo_name == "Add Roof"
    for value in values[1:]:
        assert history.redo()
        assert history.present == value
    history.undo()
    history.push("Other", add_zone(history.present, "Bow")[0])
    assert not history.redo()


def test_an_edit_that_breaks_the_document_is_not_made(project):
    history = History(project)
    broken = project.model_copy(update={"subjects": ()})
    with pytest.raises(EditError, match="unchanged"):
        history.push("Break it", broken)
    assert history.present is project
    assert history.undo_name is None
    assert history.push("Nothing", project) is False
