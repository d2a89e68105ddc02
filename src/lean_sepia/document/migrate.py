"""From the JSON of any document form so far to the present document."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from pydantic import ValidationError

from lean_sepia.document.check import broken_rule, plain_fault
from lean_sepia.document.model import FORMAT, Project
from lean_sepia.errors import NewerVersionError, ProjectFileError
from lean_sepia.files.gate import strict_json
from lean_sepia.language import _
from lean_sepia.plan.kinds import KINDS

_FORM_2_SCHOOLS = {
    "gloss before lettering": ("decals", {
        "gloss first": "gloss-first", "satin first": "gloss-first", "none, thin smooth paint": "smooth",
        "on matte, strong solutions": "on-matte"}),
    "primer": ("primer", {"as the prototype": "prototype", "black": "black", "white or grey": "white"}),
    "camouflage": ("camouflage", {"base first": "base-first", "reverse": "reverse"}),
    "light": ("light", {"post-shade": "post-shade", "pre-shade": "pre-shade", "none, the wash does it": "none"}),
    "chips": ("chips", {"before the wash": "before-wash", "after the wash": "after-wash", "built in": "resist"}),
    "varnish between layers": ("varnish", {
        "often": "often", "rarely": "rarely", "never over matte for pigment": "not-over-matte"}),
    "fade of red": ("red-lightener", {
        "decide from samples": "by-sample", "white": "white", "off-white leaning green": "greenish"}),
    "filter hue": ("filter-hue", {"related hues": "related", "opposite hues": "opposite"}),
    "amount": ("amount", {"as heavy as the photo": "as-photo", "subtle": "subtle", "taste": "taste"}),
    "fidelity": ("fidelity", {"one prototype": "one", "amalgam of sisters": "sisters", "what if": "what-if"}),
    "scale effect": ("scale-effect", {"none": "none", "haze law": "haze", "customary lightening": "customary"}),
}  # fmt: skip
_FORM_2_TITLES = {
    "primer": "Primer", "base": "Base colour", "fade": "Fade", "tone": "Light and shade", "filter": "Filter",
    "wash": "Wash", "chips": "Chips", "streaks": "Rust streaks", "matte-coat": "Matte coat", "satin-coat": "Satin coat",
    "gloss-coat": "Gloss coat", "marking": "Lettering", "dust": "Dust",
}  # fmt: skip
_DAY, _HALF = 1440.0, 720.0
_FORM_2_TIMES: dict[str, tuple[float, float, float, float | None]] = {
    "wash-model": (15, 120, 120, None), "primer": (20, 60, _DAY, None), "base": (30, 20, _HALF, None),
    "preshade": (30, 20, _HALF, None), "tone": (30, 20, _HALF, None), "camouflage": (45, 20, _HALF, None),
    "mask": (30, 0, 0, None), "unmask": (10, 0, 0, None), "marking": (40, 60, _HALF, None),
    "setting-solution": (10, 60, _HALF, None), "fade": (25, 20, 60, None), "filter": (15, 20, 360, 60),
    "wash": (25, 60, _DAY, _HALF), "pin-wash": (30, 60, _DAY, _HALF), "oil-dots": (40, 20, _DAY, _HALF),
    "chips": (40, 20, 60, None), "resist-chips": (30, 10, 30, None), "streaks": (30, 60, _DAY, _HALF),
    "powder": (20, 0, 60, None), "pastel": (20, 0, 60, None), "dust": (20, 0, 60, None), "soot": (15, 0, 60, None),
    "graphite": (10, 0, 0, None), "gloss-coat": (15, 30, _HALF, None), "satin-coat": (15, 30, _HALF, None),
    "matte-coat": (15, 30, _DAY, None), "assemble": (30, 0, 60, None),
}  # fmt: skip


def _features_from_signature(data: dict[str, Any]) -> dict[str, Any]:
    """Form 1 had one signature as a text; form 2 has features, each with words and a place."""
    words = str(data.pop("signature", "")).strip()
    return {**data, "format": 2, "features": [{"id": "g1", "words": words}] if words else []}


def _derived_from_coats(data: dict[str, Any]) -> dict[str, Any]:
    """Form 2 copied a coat's medium, finish, tool, title and usual times into its step; form 3 derives them."""
    coats = [_form_3_coat(dict(coat)) for coat in data.get("coats", ())]
    laid_in = {coat["step"] for coat in coats}
    shorts = {zone["id"]: zone.get("short", "") for zone in data.get("zones", ())}
    zones_of = {
        step: [shorts.get(coat["zone"], "") for coat in coats if coat["step"] == step] for step in laid_in
    }
    steps = [_form_3_step(dict(step), zones_of.get(step["id"])) for step in data.get("steps", ())]
    schools = {}
    for question, choice in data.get("schools", {}).items():
        code, choices = _FORM_2_SCHOOLS.get(question, ("", {}))
        if choice in choices:
            schools[code] = choices[choice]
    return {**data, "format": 3, "coats": coats, "steps": steps, "schools": schools}


def _form_3_coat(coat: dict[str, Any]) -> dict[str, Any]:
    coat["tool"] = coat.pop("application", "airbrush")
    if coat.get("name") in (_FORM_2_TITLES.get(coat["kind"]), coat["kind"]):
        coat["name"] = ""
    if coat.get("lab") is None:
        coat.pop("finish", None)
    return coat


def _form_3_step(step: dict[str, Any], zones: list[str] | None) -> dict[str, Any]:
    step.pop("finish", None)
    step.pop("application", None)
    usual = _FORM_2_TIMES.get(step["kind"])
    for name, value in zip(
        ("hands_on_min", "touch_dry_min", "full_cure_min", "removable_until_min"), usual or (), strict=False
    ):
        if step.get(name) == value:
            step.pop(name, None)
    if step.get("place") == "indoors-extracted":
        step.pop("place")
    if zones is not None:
        step.pop("medium", None)
        title = _FORM_2_TITLES.get(step["kind"], "")
        if step.get("title") in (title, *(f"{title}, {zone}" for zone in zones)):
            step["title"] = ""
    return step


def _several_of_each(data: dict[str, Any]) -> dict[str, Any]:
    """Form 3 knew one stated colour of a zone and one cup a mix is made from; form 4 one for each target, and several cups."""
    zones = [dict(zone) for zone in data.get("zones", ())]
    for zone in zones:
        lab = zone.pop("stated", None)
        zone["stated"] = [{"target": "fresh", "lab": lab}] if lab is not None else []
    recipes = [dict(recipe) for recipe in data.get("recipes", ())]
    for recipe in recipes:
        basis, parts = recipe.pop("basis", None), recipe.pop("basis_parts", 0)
        recipe["cups"] = [[basis, parts]] if basis else []
    return {**data, "format": 4, "zones": zones, "recipes": recipes}


def _no_panels_yet(data: dict[str, Any]) -> dict[str, Any]:
    """Form 4 knew no panels; a zone without them is one."""
    return {**data, "format": 5}


def _no_wear_planned_yet(data: dict[str, Any]) -> dict[str, Any]:
    """Form 6 plans the wear of zones, tells how sure measured wear is, and may know no length; nothing of that is in form 5."""
    return {**data, "format": 6}


def _no_kinds_of_picture_yet(data: dict[str, Any]) -> dict[str, Any]:
    """Form 7 states what kind of picture a photo is, what it was developed like, and which anchors are guesses."""
    return {**data, "format": 7}


def _no_bench_log_yet(data: dict[str, Any]) -> dict[str, Any]:
    """Form 8 keeps when steps were done, where, what was accepted, which waits were logged; the order of before stays as it is."""
    steps = [{**step, "by_hand": True} for step in data.get("steps", ())]
    return {**data, "format": 8, "steps": steps}


def _is_print(kind: str) -> bool:
    return kind in KINDS and KINDS[kind].is_print


def _nothing_printed_yet(data: dict[str, Any]) -> dict[str, Any]:
    """Form 9 tells lettering that is printed from what is painted; what was a colour only hid its ground, as a decal on white does."""
    coats = [
        {**coat, "printed": "white"} if _is_print(coat["kind"]) and coat.get("lab") is not None else coat
        for coat in data.get("coats", ())
    ]
    return {**data, "format": 9, "coats": coats}


def _nothing_put_off_yet(data: dict[str, Any]) -> dict[str, Any]:
    """Form 10 keeps which remarks were put off."""
    return {**data, "format": 10}


def _nothing_said_of_sheltered_places(data: dict[str, Any]) -> dict[str, Any]:
    """Form 11 says of a zone whether what lies over all of it lies on its sheltered places too, and how the scale effect is reckoned."""
    return {**data, "format": 11}


_MIGRATIONS: dict[int, Callable[[dict[str, Any]], dict[str, Any]]] = {
    1: _features_from_signature,
    2: _derived_from_coats,
    3: _several_of_each,
    4: _no_panels_yet,
    5: _no_wear_planned_yet,
    6: _no_kinds_of_picture_yet,
    7: _no_bench_log_yet,
    8: _nothing_printed_yet,
    9: _nothing_put_off_yet,
    10: _nothing_said_of_sheltered_places,
}
"""From a document's format number to the function that makes the next one of it."""


def parse_document(text: str) -> Project:
    """A document from its JSON, brought to the present form and checked.

    Raises
    ------
    ProjectFileError
        It is damaged, or from a newer version.
    """
    try:
        data = strict_json(text)
        number = data["format"]
        if not isinstance(number, int) or isinstance(number, bool) or number < 1:
            raise TypeError("format")
    except (KeyError, TypeError, IndexError, ValueError):
        raise ProjectFileError(_("This revision of the project is damaged.")) from None
    if number > FORMAT:
        raise NewerVersionError(
            _(
                "The document was written by a newer version of the program (form {0}, this one reads {1}). Update the program; the file was not changed."
            ).format(number, FORMAT)
        )
    try:
        for form in range(number, FORMAT):
            data = _MIGRATIONS[form](data)
        project = Project.model_validate(data)
    except ValidationError as error:
        raise ProjectFileError(
            _("This revision of the project is damaged ({0}).").format(plain_fault(error))
        ) from None
    except (ArithmeticError, AttributeError, LookupError, TypeError, ValueError):
        raise ProjectFileError(_("This revision of the project is damaged.")) from None
    fault = broken_rule(project)
    if fault:
        raise ProjectFileError(_("This revision of the project is damaged: {0}.").format(fault))
    return project
