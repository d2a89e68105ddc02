"""What lies beside a project or a shelf: no journal from elsewhere has another file deleted."""

import os
import shutil
import sqlite3
from functools import partial

import pytest
from fuzzing.children import heard
from fuzzing.journals import hot_journal
from fuzzing.privileges import obey_permissions

from lean_sepia.document.edits.zones import add_zone
from lean_sepia.document.model import Project
from lean_sepia.document.store import ProjectStore
from lean_sepia.errors import ProjectFileError, SaveError, ShelfError
from lean_sepia.shelf.shelf import SHELF_NAME, Shelf


@pytest.fixture
def place(tmp_path):
    folder = tmp_path / "bench"
    folder.mkdir()
    ProjectStore.create(folder / "a.sepia", add_zone(Project(title="Tug"), "Hull")[0]).close()
    return folder / "a.sepia"


@pytest.fixture
def precious(tmp_path):
    file = tmp_path / "precious.txt"
    file.write_bytes(b"\0")
    return file


def test_sqlite_itself_would_delete_it(place, precious):
    """The attack is one: without the gate the file goes."""
    hot_journal(place, precious)
    db = sqlite3.connect(place)
    db.execute("SELECT count(*) FROM revision").fetchone()
    db.close()
    assert not precious.exists()


@pytest.mark.parametrize("reading", [False, True])
def test_a_journal_that_names_another_file_is_refused(place, precious, reading):
    journal = hot_journal(place, precious)
    before = journal.read_bytes(), place.read_bytes()
    with pytest.raises(ProjectFileError, match=r"another file deleted.*Move .*-journal away"):
        ProjectStore.open(place, reading=reading)
    assert precious.exists()
    assert (journal.read_bytes(), place.read_bytes()) == before
    assert sorted(file.name for file in place.parent.iterdir()) == ["a.sepia", "a.sepia-journal"]
    journal.unlink()
    ProjectStore.open(place).close()


def test_by_a_link_too(place, precious, tmp_path):
    hot_journal(place, precious)
    link = tmp_path / "link.sepia"
    link.symlink_to(place)
    with pytest.raises(ProjectFileError, match="deleted"):
        ProjectStore.open(link)
    assert precious.exists()


def test_and_while_it_is_open(place, precious):
    store = ProjectStore.open(place)
    project, _note = store.load()
    journal = hot_journal(place, precious)
    with pytest.raises(SaveError, match="deleted"):
        store.save(project, "again")
    with pytest.raises(ProjectFileError, match="deleted"):
        store.revisions()
    assert precious.exists()
    journal.unlink()
    store.save(project, "again")
    store.close()


def test_the_card_of_such_a_project(place, precious, call):
    hot_journal(place, precious)
    code, out, err = call("card", place, "--pdf", place.with_name("a.pdf"))
    assert (code, out) == (2, "")
    assert "deleted" in err
    assert err.count("\n") == 1
    assert precious.exists()
    assert not place.with_name("a.pdf").exists()


def test_a_shelf_with_one_is_not_opened(place, precious):
    shelf = place.with_name(SHELF_NAME)
    Shelf(shelf).close()
    journal = hot_journal(shelf, precious)
    with pytest.raises(ShelfError, match="deleted"):
        Shelf(shelf)
    assert precious.exists()
    journal.unlink()
    Shelf(shelf).close()


def test_a_journal_that_would_blow_the_file_up(place):
    size = place.stat().st_size
    hot_journal(place, None, pages_before=2**31 - 2)
    with pytest.raises(ProjectFileError, match="GB"):
        ProjectStore.open(place)
    assert place.stat().st_size == size


@pytest.mark.parametrize("ending", ["-journal", "-wal", "-shm"])
@pytest.mark.parametrize(
    "make",
    [os.mkfifo, os.mkdir, lambda place: os.symlink("/etc/passwd", place)],
    ids=["pipe", "folder", "link"],
)
def test_what_is_no_file_is_refused_and_left(place, ending, make):
    beside = place.with_name(place.name + ending)
    make(beside)
    with pytest.raises(ProjectFileError, match="no file"):
        ProjectStore.open(place)
    assert os.path.lexists(beside)


def test_what_a_crash_left_is_still_put_right(place):
    """A journal of our own: the half-written page is rolled back."""
    whole = place.read_bytes()
    hot_journal(place, None)
    spoilt = bytearray(whole)
    spoilt[200:300] = b"\xff" * 100
    place.write_bytes(spoilt)
    for reading in (True, False):
        store = ProjectStore.open(place, reading=reading)
        assert store.load()[0].title == "Tug"
        store.close()
    assert place.read_bytes()[200:300] == whole[200:300]


def test_a_copy_over_a_file_takes_its_journal_away(place):
    target = place.with_name("b.sepia")
    shutil.copy(place, target)
    hot_journal(target, None)  # rolled back into the copy it would put an old page there
    store = ProjectStore.open(place)
    project, _note = store.load()
    for title in ("Two", "Three"):
        store.save(project.model_copy(update={"title": title}), title)
    store.save_copy(target)
    store.close()
    assert sorted(file.name for file in place.parent.iterdir()) == ["a.sepia", "b.sepia"]
    copy = ProjectStore.open(target)
    assert copy.load()[0].title == "Three"
    copy.close()


def test_a_new_project_has_no_strangers_journal(place, precious):
    fresh = place.with_name("fresh.sepia")
    shutil.copy(hot_journal(place, precious), f"{fresh}-journal")
    ProjectStore.create(fresh, Project(title="Fresh")).close()
    assert precious.exists()
    assert not os.path.exists(f"{fresh}-journal")


def _open_hindered(place, tell):
    obey_permissions()
    for reading in (True, False):
        try:
            ProjectStore.open(place, reading=reading)
        except ProjectFileError as error:
            tell(str(error))


def test_a_reader_who_may_not_put_it_right_is_told_to_take_both_along(place):
    hot_journal(place, None)
    place.chmod(0o444)
    place.parent.chmod(0o555)
    try:
        said = heard(partial(_open_hindered, place))
    finally:
        place.parent.chmod(0o755)
    assert len(said) == 2
    assert all("together with the journal beside it" in words and "damaged" not in words for words in said)
    copies = place.parent / "mine"
    copies.mkdir()
    for file in (place, f"{place}-journal"):
        shutil.copy(file, copies)
    (copies / "a.sepia").chmod(0o644)
    store = ProjectStore.open(copies / "a.sepia")
    assert store.load()[0].title == "Tug"
    store.close()
