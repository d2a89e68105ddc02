"""What photos mean in the document: signature, sisters, disagreement, greys."""

import json

from lean_sepia.answers.advice import advice
from lean_sepia.answers.evidence import rank_project_schemes
from lean_sepia.answers.targets import targets_of
from lean_sepia.document.edits.items import put
from lean_sepia.document.edits.zones import add_zone, locate_feature, name_feature, remove_zone
from lean_sepia.document.migrate import parse_document
from lean_sepia.document.model import FORMAT, Project, Sample
from lean_sepia.photo.read import read_picture


def sample(identity, role, lab, photo="f1"):
    around = tuple((value - 1.0, value + 1.0) for value in lab)
    return Sample(
        id=identity, photo=photo, zone="hull", role=role, x=1, y=1, radius=2, lab=lab, lab_range90=around, de00_90=3.0,
        pixels=9, clipped_share=0.0,
    )  # fmt: skip


def test_a_document_of_the_first_form_keeps_its_signature():
    """Form 1 had one signature as a text."""
    old = {"format": 1, "title": "Tender", "signature": "The dented bow"}
    project = parse_document(json.dumps(old))
    assert project.format == FORMAT
    assert [feature.words for feature in project.features] == ["The dented bow"]
    assert project.signature == "The dented bow"
    assert parse_document(json.dumps({"format": 1, "title": "Bare", "signature": ""})).features == ()


def test_features_are_named_located_and_let_go():
    project, zone = add_zone(Project(), "Hull")
    project = name_feature(project, "  The dented   bow ")
    project = name_feature(project, "Rust under the scuppers")
    first, second = project.features
    assert first.words == "The dented bow"
    project = locate_feature(project, second.id, zone, None, 5.0, 6.0)
    assert project.features[1].zone == zone
    assert remove_zone(project, zone).features[1].zone is None
    assert name_feature(project, "", feature_id=first.id).features == (project.features[1],)
    assert name_feature(project, " ") == project


def test_sisters_are_named_where_they_are_blended(worked):
    both = worked.model_copy(
        update={
            "samples": tuple(
                sample(str(i), "sheltered", (45.0, -13.0, -6.0), photo=p) for i, p in enumerate(("f1", "f2"))
            )
        }
    )
    assert "Tordmule" not in targets_of(both, "hull").fresh.source
    blended = put(both, "photos", both.photo("f2").model_copy(update={"prototype": "the sister"}))
    assert targets_of(blended, "hull").fresh.source == "sheltered samples of 2 photos, Tordmule, the sister"


def test_photos_that_disagree_are_told(worked, cuts):
    apart = worked.model_copy(
        update={
            "samples": (
                sample("a", "sheltered", (45.0, -13.0, -6.0)),
                sample("b", "sheltered", (60.0, 5.0, 10.0), photo="f2"),
            )
        }
    )
    said = " ".join(one.text for one in advice(apart, cuts(apart)))
    assert "disagree more than their ranges allow" in said


def test_the_press_print_ranks_the_first_livery_first(worked, demo_master):
    photo = worked.photo("f3")
    pixels = read_picture(demo_master.photo("ortho-1951.png")).pixels
    ranked = rank_project_schemes(worked, photo, pixels, "ortho")
    assert ranked[0].scheme == "first livery"
    assert len(ranked) >= 6
    assert set(ranked[0].greys) >= {"hull", "house", "funnel", "boot"}
