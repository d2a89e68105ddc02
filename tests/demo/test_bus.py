"""The second subject: a found finish, no photo, carried to a card."""

import io

from pypdf import PdfReader

from lean_sepia.answers.advice import advice
from lean_sepia.answers.coats.showing import showings_of
from lean_sepia.answers.plan import answer, ask
from lean_sepia.answers.strata import strata_of
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.document.check import broken_rule
from lean_sepia.report.bench_card import bench_card


def test_it_has_no_photo_and_every_zone_has_what_is_there_already(bus):
    assert (bus.photos, bus.samples, bus.regions) == ((), (), ())
    assert broken_rule(bus) is None
    for zone in bus.zones:
        lowest = bus.coats_of(zone.id)[0]
        assert lowest.kind == "found"
        assert lowest.recipe is None
    assert {zone.name for zone in bus.zones if zone.surface} == {"Lower body", "Upper body"}


def test_stated_targets_are_met_within_what_was_stated(bus):
    for zone in bus.zones:
        cut = strata_of(bus, zone.id)
        for target, lab in ((cut.targets.fresh, cut.fresh), (cut.targets.seen, cut.seen)):
            if target is not None and lab is not None:
                assert target.stated
                assert float(delta_e00(target.lab, lab)) <= target.de00_90, zone.name


def test_nothing_stands_in_its_way(bus):
    cuts = {zone.id: strata_of(bus, zone.id) for zone in bus.zones}
    shown = {zone.id: showings_of(bus, zone.id) for zone in bus.zones}
    assert [one.room for one in advice(bus, cuts, shown)] == ["bench"]
    plan = answer(ask(bus))
    assert plan.schedule is not None
    assert not [finding for finding in plan.findings if finding.severity == "stop"]


def test_its_card_tells_mixes_manners_and_steps_and_leaves_out_what_is_there(bus):
    text = "".join(page.extract_text() for page in PdfReader(io.BytesIO(bench_card(bus))).pages)
    for words in (
        "Harbour bus no. 3",
        "Lower body",
        "Deep sea",
        "Service name",
        "Oil raw umber",
        "quay dust",
    ):
        assert words in text
    order = text[text.index("Order of work") :]
    assert "Found finish" not in order
    assert "Try white spirit" in order
