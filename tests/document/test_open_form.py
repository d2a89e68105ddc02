"""The document as open JSON: exact both ways, by a schema that is made from the model."""

import hashlib
import json

import jsonschema
import pytest

from lean_sepia.document.open_form import open_text, parse_open, schema
from lean_sepia.errors import BadInputError


@pytest.mark.parametrize("which", ["worked", "bus"])
def test_a_document_comes_back_exactly_and_agrees_with_the_schema(which, request):
    project = request.getfixturevalue(which)
    text = open_text(project)
    assert parse_open(text) == project
    jsonschema.validate(json.loads(text), schema())


def test_the_schema_in_docs_is_that_of_the_model():
    from scripts.project_schema import PAGE, page

    assert PAGE.read_text(encoding="utf-8") == page(), "run python -m scripts.project_schema"
    jsonschema.Draft202012Validator.check_schema(schema())


def test_the_sequence_of_every_zone_is_told_and_must_agree(worked):
    told = json.loads(open_text(worked))
    zone = next(zone for zone, coats in told["sequences"].items() if len(coats) > 1)
    assert told["sequences"][zone] == [coat.id for coat in worked.coats_of(zone)]
    told["sequences"][zone].reverse()
    with pytest.raises(BadInputError, match="lie otherwise"):
        parse_open(json.dumps(told))
    del told["sequences"]
    assert parse_open(json.dumps(told)) == worked


@pytest.mark.parametrize(
    ("change", "words"),
    [
        (lambda told: told.pop("form"), "form"),
        (lambda told: told.update(format=999), "newer"),
        (lambda told: told.update(colour=1), "colour"),
        (lambda told: told["steps"][0].update(serves=["nobody"]), "nobody"),
        (lambda told: told.update(zones=7), "zones"),
    ],
)
def test_what_is_none_is_told_in_one_sentence(change, words, worked):
    told = json.loads(open_text(worked))
    change(told)
    with pytest.raises(BadInputError, match=words) as refused:
        parse_open(json.dumps(told))
    assert "\n" not in str(refused.value)


def test_a_project_goes_out_and_comes_back_with_its_photos(demo, call, tmp_path):
    from lean_sepia.document.store import ProjectStore

    code, text, _ = call("project", "show", demo.worked, "--photos", tmp_path / "photos", "--json")
    assert code == 0
    file, again = tmp_path / "whole.json", tmp_path / "again.sepia"
    file.write_text(text, encoding="utf-8")
    assert call("project", "write", file, "--photos", tmp_path / "photos", "--out", again)[0] == 0
    assert call("project", "show", again, "--json")[1] == text
    store = ProjectStore.open(again, reading=True)
    project, warning = store.load()
    assert warning is None
    assert project.photos
    for photo in project.photos:
        assert hashlib.sha256(store.photo(photo.sha256)).hexdigest() == photo.sha256
    store.close()

    code, _, err = call("project", "write", file, "--out", again)
    assert code == 2
    assert "exists" in err
    one = next((tmp_path / "photos").iterdir())
    one.write_bytes(b"another")
    code, _, err = call(
        "project", "write", file, "--photos", tmp_path / "photos", "--out", tmp_path / "third.sepia"
    )
    assert code == 2
    assert one.name in err
    assert not (tmp_path / "third.sepia").exists()
    one.unlink()
    code, _, err = call(
        "project", "write", file, "--photos", tmp_path / "photos", "--out", tmp_path / "third.sepia"
    )
    assert code == 2
    assert one.name in err
    assert not (tmp_path / "third.sepia").exists()
