"""A project is foreign input: nothing in it runs, nothing is read unseen, and what is lost is said."""

import os
import sqlite3
import stat

import pytest

from lean_sepia.document.edits.zones import add_zone
from lean_sepia.document.keeping.place import JOURNAL, free_name
from lean_sepia.document.model import Project
from lean_sepia.document.store import ProjectStore
from lean_sepia.errors import InUseError, ProjectFileError, SaveError
from lean_sepia.files.sqlite import reason


@pytest.fixture
def project():
    return add_zone(Project(title="Tug"), "Hull")[0]


@pytest.fixture
def place(tmp_path, project):
    store = ProjectStore.create(tmp_path / "a.sepia", project)
    store.add_photo("ab" * 32, "image/png", "a.png", b"picture")
    store.save(add_zone(project, "Deck")[0], "Add zone Deck")
    store.close()
    return tmp_path / "a.sepia"


def tampered(place, *statements):
    db = sqlite3.connect(place)
    for statement in statements:
        db.execute(statement)
    db.commit()
    db.close()


@pytest.mark.parametrize(
    "statement",
    [
        "CREATE TRIGGER t AFTER INSERT ON revision BEGIN DELETE FROM photo; END",
        "CREATE VIEW v AS SELECT * FROM revision",
        "CREATE VIRTUAL TABLE f USING fts5(x)",
        "CREATE TABLE other (x)",
        "CREATE INDEX i ON revision (length(document))",
        "ALTER TABLE photo ADD COLUMN extra TEXT",
    ],
)
def test_what_no_project_has_is_not_opened(place, statement):
    tampered(place, statement)
    with pytest.raises(ProjectFileError, match="what no project of this program has"):
        ProjectStore.open(place)
    assert [file.name for file in place.parent.iterdir()] == ["a.sepia"]


def test_a_view_in_place_of_a_table_is_not_read(place):
    tampered(place, "ALTER TABLE revision RENAME TO hidden", "CREATE VIEW revision AS SELECT * FROM hidden")
    with pytest.raises(ProjectFileError, match="what no project"):
        ProjectStore.open(place)


def test_a_missing_table_is_said(place):
    tampered(place, "DROP TABLE photo")
    with pytest.raises(ProjectFileError, match="no table photo"):
        ProjectStore.open(place)


@pytest.mark.parametrize(
    "value", ["CAST(document AS BLOB)", "zeroblob(1000000)", "'{}'", "'not json'", "CAST(x'ff00ff' AS TEXT)"]
)
def test_a_damaged_newest_revision_falls_back_and_says_so(place, project, value):
    tampered(place, f"UPDATE revision SET document = {value} WHERE id = 2")
    store = ProjectStore.open(place)
    loaded, note = store.load()
    assert loaded == project
    assert "passed over" in note
    store.close()


def test_photos_are_checked_before_they_are_used(place):
    tampered(place, "UPDATE photo SET bytes = 'text'")
    store = ProjectStore.open(place)
    with pytest.raises(ProjectFileError, match="does not hold"):
        store.photo("ab" * 32)
    store.close()


def test_revisions_without_a_date_are_left_out(place):
    tampered(place, "UPDATE revision SET saved_at = 'yesterday', label = x'00ff' WHERE id = 1")
    store = ProjectStore.open(place)
    assert [revision.id for revision in store.revisions()] == [2]
    store.close()


def test_reading_ends(place, monkeypatch):
    monkeypatch.setattr("lean_sepia.files.sqlite._MOST_SECONDS", -1.0)
    monkeypatch.setattr("lean_sepia.files.sqlite._STEPS_BETWEEN_LOOKS", 1)
    with pytest.raises(ProjectFileError, match="takes too long"):
        ProjectStore.open(place)


@pytest.mark.parametrize(
    "make", [lambda place: place.mkdir(), os.mkfifo, lambda place: place.symlink_to("/dev/zero")]
)
def test_only_files_are_opened(tmp_path, make):
    make(tmp_path / "a.sepia")
    with pytest.raises(ProjectFileError, match="cannot be opened"):
        ProjectStore.open(tmp_path / "a.sepia")


def test_the_second_reads_or_takes_a_copy(place, project):
    first = ProjectStore.open(place)
    with pytest.raises(InUseError):
        ProjectStore.open(place)
    second = ProjectStore.open(place, reading=True)
    assert second.load()[0] == first.load()[0]
    with pytest.raises(SaveError, match="only be read"):
        second.save(project, "no")
    second.save_copy(place.with_name("b.sepia"))
    second.close()
    first.save(project, "yes")
    first.close()
    assert sorted(file.name for file in place.parent.iterdir()) == ["a.sepia", "b.sepia"]


def test_a_replaced_file_is_not_written_into(place, project):
    store = ProjectStore.open(place)
    other = place.with_name("other.sepia")
    ProjectStore.create(other, Project(title="Other")).close()
    other.replace(place)
    with pytest.raises(SaveError, match="replaced") as caught:
        store.save(project, "mine")
    assert caught.value.lost
    store.move_to(place.with_name("kept.sepia"), project.model_copy(update={"title": "Mine"}), "mine")
    assert store.path.name == "kept.sepia"
    assert store.photo("ab" * 32) == b"picture"
    store.save(project, "goes on")
    store.close()
    again = ProjectStore.open(place)
    assert again.load()[0].title == "Other"
    again.close()


def test_a_deleted_file_is_noticed_before_it_is_saved(place, project):
    store = ProjectStore.open(place)
    place.unlink()
    with pytest.raises(SaveError, match="no longer there"):
        store.save(project, "mine")
    with pytest.raises(SaveError, match="no longer there"):
        store.add_photo("cd" * 32, "image/png", "b.png", b"x")
    store.move_to(place, project, "mine")
    store.close()
    again = ProjectStore.open(place)
    assert again.load()[0] == project
    again.close()


def test_a_full_disk_is_called_full(place, project):
    store = ProjectStore.open(place)
    pages = store._db._db.execute("PRAGMA page_count").fetchone()[0]
    store._db._db.execute(f"PRAGMA max_page_count = {pages}")
    with pytest.raises(SaveError, match="the disk is full"):
        store.add_photo("cd" * 32, "image/png", "b.png", bytes(200_000))
    big = project.model_copy(update={"title": "x" * 900, "features": ()})
    saves = (
        store.save(big.model_copy(update={"title": f"{number} " + "x" * 900}), "big") for number in range(400)
    )
    with pytest.raises(SaveError, match="the disk is full"):
        list(saves)
    store.close()


def test_a_locked_file_is_called_locked(place, project):
    store = ProjectStore.open(place)
    other = sqlite3.connect(place, isolation_level=None)
    other.execute("BEGIN EXCLUSIVE")
    with pytest.raises(SaveError, match="another program holds it locked"):
        store.save(project, "mine")
    other.execute("COMMIT")
    other.close()
    store.save(project, "mine")
    store.close()


def test_every_reason_is_in_words():
    assert reason(OSError(28, "No space left on device")) == "No space left on device"
    assert "too long" in reason(type("E", (Exception,), {"sqlite_errorname": "SQLITE_CANTOPEN"})())
    assert reason(sqlite3.DatabaseError("odd")) == "odd"


def test_names_too_long_for_a_journal(tmp_path, project):
    name = "n" * (255 - len(JOURNAL) - len(".sepia") + 1) + ".sepia"
    with pytest.raises(ProjectFileError, match="too long"):
        ProjectStore.create(tmp_path / name, project)
    ProjectStore.create(tmp_path / "a.sepia", project).close()
    (tmp_path / "a.sepia").rename(tmp_path / name)
    store = ProjectStore.open(tmp_path / name)
    assert "too long" in store.reading_because
    assert store.load()[0] == project
    with pytest.raises(SaveError, match="too long"):
        store.save(project, "no")
    store.close()
    assert [file.name for file in tmp_path.iterdir()] == [name]


def test_a_folder_that_cannot_be_written_is_noticed_at_opening(place, monkeypatch):
    monkeypatch.setattr("os.access", lambda path, _mode: not os.fspath(path).endswith(place.parent.name))
    store = ProjectStore.open(place)
    assert "folder" in store.reading_because
    store.close()
    place.chmod(stat.S_IRUSR)
    monkeypatch.setattr("os.access", lambda path, _mode: not os.fspath(path).endswith("a.sepia"))
    store = ProjectStore.open(place)
    assert "write-protected" in store.reading_because
    store.close()


@pytest.mark.parametrize("target", ["", ".", "folder", "missing/x.sepia", "a.sepia", "n" * 300])
def test_copies_that_cannot_be_written_leave_nothing(place, target, monkeypatch):
    monkeypatch.chdir(place.parent)
    (place.parent / "folder").mkdir()
    store = ProjectStore.open(place)
    with pytest.raises(ProjectFileError, match="cannot be written"):
        store.save_copy(target)
    store.close()
    assert sorted(file.name for file in place.parent.iterdir()) == ["a.sepia", "folder"]


def test_a_project_that_cannot_be_made_leaves_nothing(tmp_path, project, monkeypatch):
    monkeypatch.setattr(
        ProjectStore, "save", lambda *_a, **_k: (_ for _ in ()).throw(SaveError("the disk is full"))
    )
    with pytest.raises(ProjectFileError, match="the disk is full"):
        ProjectStore.create(tmp_path / "a.sepia", project)
    assert list(tmp_path.iterdir()) == []


def test_a_half_written_revision_is_put_right_also_for_a_reader(place, project):
    """A hot journal, as a kill leaves it: a reader that may write first puts it right."""
    journal = place.with_name(place.name + JOURNAL)
    journal.write_bytes(b"")
    store = ProjectStore.open(place, reading=True)
    assert [zone.name for zone in store.load()[0].zones] == ["Hull", "Deck"]
    store.close()


def test_names_that_are_taken_get_a_number(tmp_path):
    (tmp_path / "a.sepia").touch()
    assert free_name(tmp_path / "a.sepia").name == "a 2.sepia"
    assert free_name(tmp_path / "b.sepia").name == "b.sepia"
