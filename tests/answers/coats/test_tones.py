"""Several tones on one surface, shares as traced, and what a model looks like already."""

import pytest

from lean_sepia.answers.coats.draft import usual_draft
from lean_sepia.answers.coats.laying import laid
from lean_sepia.answers.coats.mixing import LayQuestion
from lean_sepia.answers.coats.tones import pairs_of, stir, stirred_in, traced_shares
from lean_sepia.answers.strata import strata_of
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.document.edits.coats import lay, pin_base
from lean_sepia.document.edits.items import put
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.document.edits.zones import NewZone, add_zones, group_zones, state_target
from lean_sepia.document.model import Project, Region, Tone
from lean_sepia.errors import SepiaError


@pytest.fixture
def two(shelf_paints):
    project, (sand, green) = add_zones(Project(title="Bus"), [NewZone("Sand", 30.0), NewZone("Green", 30.0)])
    project = pin_base(project, sand, Mix.of(shelf_paints, [("sand", 1)]), Manner(5))
    project = pin_base(project, green, Mix.of(shelf_paints, [("moss", 1)]), Manner(5))
    return group_zones(project, "Side", {sand: 0.7, green: 0.3}), sand, green


def contrast(project, one, other):
    return float(delta_e00(strata_of(project, one).fresh, strata_of(project, other).fresh))


def test_a_filter_and_dust_over_both_leave_less_contrast_than_was_painted(two, shelf_paints):
    project, sand, green = two
    project, _coat = lay(
        project,
        [sand, green],
        "dust",
        Mix.of(shelf_paints, [("pigment-quay-dust", 1)]),
        Manner(area_share=0.4),
    )
    cuts = {zone: strata_of(project, zone) for zone in (sand, green)}
    (pair,) = pairs_of(project, project.surfaces[0].id, cuts)
    assert pair.painted.de00 == pytest.approx(contrast(project, sand, green))
    assert pair.left.de00 < 0.8 * pair.painted.de00
    assert pair.photo is None
    assert pair.painted.lighter < 0


@pytest.mark.parametrize("share", [0.8, 0.6, 0.4])
def test_stirring_reaches_the_contrast_that_is_wanted_as_the_strata_show_it(two, share):
    project, sand, green = two
    wanted = share * contrast(project, sand, green)
    found = stir(project, green, sand, wanted)
    assert found.contrast.de00 == pytest.approx(wanted, abs=0.12 * contrast(project, sand, green))
    after = stirred_in(project, green, sand, wanted)
    assert contrast(after, green, sand) == pytest.approx(found.contrast.de00, abs=0.05)
    recipe = after.recipe(next(c.recipe for c in after.coats_of(green) if c.kind == "base"))
    assert recipe.cups[0][0] == next(c.recipe for c in after.coats_of(sand) if c.kind == "base")


def test_stirring_cannot_widen_and_needs_two_mixes(two):
    project, sand, green = two
    with pytest.raises(SepiaError, match="already"):
        stir(project, green, sand, 200.0)
    project, (bare,) = add_zones(project, [NewZone("Bare")])
    with pytest.raises(SepiaError, match="need a mix"):
        stir(project, bare, sand, 3.0)


def test_shares_are_taken_from_a_region_that_was_divided(two, worked):
    project, sand, green = two
    with pytest.raises(SepiaError, match="divided into colours"):
        traced_shares(project, [sand, green])
    project = project.model_copy(update={"photos": worked.photos[:1]})
    tones = (
        Tone(name="a", lab=(70.0, 4.0, 20.0), share=0.55), Tone(name="b", lab=(41.0, -6.0, 14.0), share=0.35),
        Tone(name="c", lab=(43.0, -7.0, 15.0), share=0.10),
    )  # fmt: skip
    region = Region(
        id="w1",
        zone=sand,
        photo=worked.photos[0].id,
        corners=((0, 0), (9, 0), (9, 9)),
        seen=(60.0, 0.0, 18.0),
        tones=tones,
    )
    project = put(project, "regions", region)
    with pytest.raises(SepiaError, match="has no target"):
        traced_shares(project, [sand, green])
    project = state_target(state_target(project, sand, (71.0, 4.0, 21.0)), green, (42.0, -6.0, 14.0))
    assert traced_shares(project, [sand, green]) == pytest.approx({sand: 0.55, green: 0.45})


def test_what_is_there_is_sampled_from_a_photo_of_the_model(worked, shelf_paints):
    of_model = next(photo for photo in worked.photos if photo.of_model)
    taken = worked.samples[0].model_copy(
        update={"id": "mine", "photo": of_model.id, "zone": "gear", "lab": (44.0, 3.0, 9.0)}
    )
    project = put(worked, "samples", taken)
    question = LayQuestion(project, ("gear",), usual_draft("found"), tuple(shelf_paints))
    found = laid(question)
    assert found.project.coat(found.coat).lab == (44.0, 3.0, 9.0)
    with pytest.raises(SepiaError, match="photo of the model"):
        laid(LayQuestion(worked, ("gear",), usual_draft("found"), tuple(shelf_paints)))
