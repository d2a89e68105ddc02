"""The rules as data. Common practice without a published source unless a rule says otherwise; docs/rules.md is made from this table."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from lean_sepia.language import N_
from lean_sepia.plan.rules import masks, powders, reaching, solvents, surfaces, times
from lean_sepia.plan.rules.finding import Case, Finding, Rule
from lean_sepia.plan.step import PlanStep
from lean_sepia.plan.waits.drying import USUAL, Drying

_VARNISHES, _FLAT, _MASK = ("satin-coat", "gloss-coat"), ("matte-coat",), ("mask",)
RULES: tuple[Rule, ...] = (
    Rule("solvent-attacks-base", ("stop", "warn", "note"),
         N_("A carrier softens or dissolves a film that lies open below it. White spirit or lacquer thinner over an open coat of enamel or oil stops; over glazes and spots of them it warns while they are younger than a night and is noted later; lacquer thinner and alcohol over acrylic warn. A mist is one step milder, spots seal nothing, an acrylic coat between ends it. One medium sprayed over itself is no case; brushed it warns, but water-borne acrylic does not. What nobody knows warns and asks for a hidden spot."),
         N_("Change the medium or seal what lies below."), solvents.solvent_attacks_base, needs=_VARNISHES),
    Rule("not-cured", ("stop",), N_("A dated step starts before what lies below it is ready: the wait of the pair decides."),
         N_("Wait longer."), times.not_cured, dated=True),
    Rule("mask-before-cure", ("stop",), N_("Tape on paint that has not cured. Liquid mask and putty need no more than touch-dry."),
         N_("Wait, or use liquid mask or putty, which pull less."), times.mask_before_cure, dated=True),
    Rule("too-late", ("stop", "warn"), N_("Blending, cleaning up or unmasking after the second clock has run out: oil dots warn after 12 hours and stop after 48, washes and streaks stop after 12, acrylic that is wiped back after 10 minutes; a liquid mask on for over a week warns."),
         N_("What has set can be glazed over, or taken off with the coat below it: try that on a spare part first."), times.too_late, dated=True),
    Rule("sealed-in", ("stop", "warn"), N_("Work on what lies under a later film: a stop where its solvent does nothing to that film, such as white spirit under acrylic; else a warning, since the film goes too."),
         N_("Do it before the film is laid."), reaching.sealed_in),
    Rule("overspray", ("warn", "note"), N_("A part sprayed beside one that is finished and not masked, on one model. From close by or as a mist it is noted; parts painted off the model are no case."),
         N_("Mask what is finished, or spray this part before."), reaching.overspray),
    Rule("painted-under-mask", ("warn",), N_("A full coat or a varnish on a zone that a mask covers meanwhile. Patterns are what masks are for."),
         N_("Take the mask off first, or paint before it is laid."), reaching.painted_under_mask),
    Rule("mask-left-on", ("stop", "warn"), N_("A mask that nobody takes off; with a varnish, a touch-up or assembly after it, a stop."),
         N_("Take it off as soon as the paint is touch-dry."), masks.mask_left_on, needs=("unmask", "remove-resist")),
    Rule("buried", ("warn",), N_("A base, second colour or primer over markings, chips, streaks, washes, dots or powder of the same zone with no mask between."),
         N_("Lay it before them, or mask them."), surfaces.buried, needs=_MASK),
    Rule("unsealed-under-wet", ("warn", "note"), N_("Something wet over powder, pastel, dust or soot that lies loose. Fixing and wiping back are meant; a mist is noted."),
         N_("Fix or seal it first, or do it last."), powders.unsealed_under_wet, needs=("matte-coat", "fix-powder")),
    Rule("powder-fades-under-varnish", ("warn", "note"), N_("A varnish over powder that nothing shut off before. Over fixed powder, or as a mist, it is noted."),
         N_("Lay the powder after it, or overdo it and test first."), powders.powder_fades_under_varnish),
    Rule("alcohol-through-varnish", ("warn", "note"), N_("Alcohol from a wet brush goes through a varnish and reaches powder under it; sprayed, it is noted."),
         N_("Use a wash on another carrier, or lay it before the powder."), solvents.alcohol_through_varnish),
    Rule("powder-hides-graphite", ("warn",), N_("Powder or dust after graphite on the same zone."), N_("Do the graphite after it."), powders.powder_hides_graphite),
    Rule("powder-on-gloss", ("warn",), N_("Loose powder on a gloss surface. Graphite is rubbed on and holds."),
         N_("Lay a matte coat first, airbrushed three hours before, from a can a day before."), powders.powder_on_gloss, needs=_FLAT),
    Rule("varnish-kills-metallic", ("warn", "note"), N_("A varnish over a metallic finish or graphite; gloss over a metallic finish is noted."),
         N_("Lay the metal after it, or mask it."), powders.varnish_kills_metallic),
    Rule("tape-on-powder", ("warn", "note"), N_("A mask on powder that lies loose; on fixed powder it is noted."),
         N_("Mask before the powder, or seal it first."), masks.tape_on_powder, needs=_FLAT),
    Rule("tape-on-marking", ("warn",), N_("A mask on markings that nothing seals."), N_("Lay a varnish over them first."),
         masks.tape_on_marking, needs=_VARNISHES),
    Rule("glass-not-masked", ("warn", "note"), N_("Clear parts that are fitted and then sprayed over; sprayed elsewhere on the model, it is noted."),
         N_("Mask the glass, or fit it after the last spray."), masks.glass_not_masked, needs=_MASK),
    Rule("dots-unblended", ("warn",), N_("Oil dots that are never drawn out, or not before something shuts them off."),
         N_("Draw them out with an almost dry brush within 12 hours."), surfaces.dots_unblended,
         silent=(("dots", ("streaks",)),), needs=("blend",)),
    Rule("wash-on-matte", ("warn", "note"), N_("A pin wash on a flat surface does not run (warned); a wash over all of it stains, which may be wanted (noted)."),
         N_("Lay a gloss or satin coat first."), surfaces.wash_on_matte, needs=_VARNISHES),
    Rule("decal-on-matte", ("note",), N_("A marking on a flat surface."),
         N_("A gloss or satin coat first keeps the air out; with strong setting solutions some do without."), surfaces.decal_on_matte,
         silent=(("decals", ("smooth", "on-matte")),), needs=_VARNISHES[::-1]),
    Rule("chips-after-wash", ("note",), N_("Chips after the wash stay brighter than those the wash tones."),
         N_("Some want that; others chip first."), surfaces.chips_after_wash, silent=(("chips", ("after-wash", "resist")),)),
    Rule("marking-hides-chips", ("note",), N_("A marking over chips."), N_("Lay it before the chips, or chip the lettering too."), surfaces.marking_hides_chips),
    Rule("over-final-varnish", ("note",), N_("A full coat of paint after the last varnish of its zone. Touch-ups and mists are no case."),
         N_("Lay it before, or varnish again."), surfaces.over_final_varnish, needs=("matte-coat", "satin-coat")),
    Rule("blind-shading", ("note",), N_("Light and shade laid while part of a pattern is masked."),
         N_("Try the tones beside each other on a test piece first."), surfaces.blind_shading, needs=("test-piece",)),
    Rule("mask-for-nothing", ("note",), N_("A mask while nothing is sprayed or painted, or one taken off that nobody put on."),
         N_("Leave it out, or add what it protects from."), masks.mask_for_nothing),
    Rule("many-films", ("note",), N_("More full films over one another than fine detail stands."),
         N_("Leave a coat out or lay thinner ones."), surfaces.many_films),
    Rule("spray-solvent-indoors", ("stop",), N_("Spraying alcohol, lacquer, enamel or oil, or any spray can, indoors without extraction. Safety: the product's data sheet and local rules decide."),
         N_("Extract to the outside and wear a respirator for organic vapour and particles, or spray outdoors; no flame or sparks. The product's safety data sheet decides."),
         solvents.spray_solvent_indoors, safety=True),
    Rule("spray-mist-indoors", ("note",), N_("Spraying water-borne paint indoors without extraction."),
         N_("Wear a particle filter and air the room; the product's safety data sheet decides."), solvents.spray_mist_indoors, safety=True),
)  # fmt: skip
BY_CODE = {rule.code: rule for rule in RULES}
_ORDER = {"stop": 0, "warn": 1, "note": 2}


def check_plan(
    steps: Sequence[PlanStep], schools: Mapping[str, str] | None = None, drying: Drying = USUAL
) -> list[Finding]:
    """All findings, the gravest first, then in the order of the steps."""
    case = Case.of(steps, schools, drying)
    findings = {finding: None for rule in RULES for finding in rule.findings(case)}
    place = case.order.place
    ranked = sorted(findings, key=lambda finding: (_ORDER[finding.severity], place[finding.step]))
    sitting = {step.id: step.sitting for step in steps if step.sitting}
    once: dict[tuple[str, str, str | None], Finding] = {}
    for finding in ranked:  # what is said of a sitting is said once
        after = finding.after and (sitting.get(finding.after) or finding.after)
        once.setdefault((finding.code, sitting.get(finding.step) or finding.step, after), finding)
    return list(once.values())
