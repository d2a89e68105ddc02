"""`nearer`: where each miss comes from, what would bring it nearer, and an offer laid into a new file."""

import pytest

from lean_sepia.document.store import ProjectStore


def _project(path):
    store = ProjectStore.open(path, reading=True)
    project, _warning = store.load()
    store.close()
    return project


@pytest.fixture
def astray(demo, off_target):
    """The demo's file with fades that miss."""
    store = ProjectStore.open(demo.worked)
    store.save(off_target, "Astray")
    store.close()
    return demo.worked


def test_shares_and_rest_make_the_miss_and_offers_are_ranked(answer, demo, astray):
    found = answer("nearer", astray)
    assert {zone["id"] for zone in found["zones"]} == {zone.id for zone in _project(astray).zones}
    for zone in found["zones"]:
        for stage in zone["stages"]:
            parts = sum(part["share_de00"] for part in stage["parts"])
            assert parts + stage["rest_de00"] == pytest.approx(stage["de00"], abs=0.01)
    gains = [offer["gain"] for offer in found["offers"]]
    assert gains == sorted(gains, reverse=True)


def test_an_offer_that_is_applied_is_what_it_said(answer, demo, astray, tmp_path):
    out = tmp_path / "nearer.sepia"
    found = answer("nearer", astray, "--shelf", demo.shelf_file, "--apply", "1", "--out", out)
    again = answer("nearer", out)
    zones = {zone["id"]: zone["stages"] for zone in again["zones"]}
    for zone, change in found["offers"][0]["zones"].items():
        mean = sum(stage["de00"] for stage in zones[zone]) / len(zones[zone])
        assert mean == pytest.approx(change["after"], abs=0.05)
    before, after = _project(astray), _project(out)
    assert [photo.sha256 for photo in after.photos] == [photo.sha256 for photo in before.photos]


def test_one_zone_and_a_held_coat(answer, demo, astray):
    base = next(coat.id for coat in _project(astray).coats_of("hull") if coat.nature.is_base)
    found = answer("nearer", astray, "--zone", "hull", "--hold", base)
    assert [zone["id"] for zone in found["zones"]] == ["hull"]
    assert not any(offer["words"].startswith("Base colour, Hull") for offer in found["offers"])


def test_the_whole_is_one_of_the_offers_where_it_is_asked_for(answer, demo, astray):
    asked = "nearer", astray, "--shelf", demo.shelf_file, "--zone", "boot"
    plain, whole = answer(*asked), answer(*asked, "--jointly")
    assert len(whole["offers"]) == len(plain["offers"]) + 1
    gains = [offer["gain"] for offer in whole["offers"]]
    assert gains == sorted(gains, reverse=True)


@pytest.mark.parametrize(
    ("arguments", "said"),
    [
        (("--zone", "keel"), "no zone 'keel'"), (("--apply", "1"), "go together"), (("--hold", "c999"), "no coat 'c999'"),
        (("--apply", "99", "--out", "x.sepia"), "Number them from 1"),
    ],
)  # fmt: skip
def test_bad_input_gets_one_clear_line(call, astray, arguments, said):
    code, _out, err = call("nearer", astray, *arguments)
    assert code == 2
    assert said in err
    assert len(err.strip().splitlines()) == 1


def test_plain_words_name_each_coat_and_each_offer(call, astray):
    code, out, _err = call("nearer", astray)
    assert code == 0
    assert "ΔE00 from its target" in out
    assert "1. " in out
