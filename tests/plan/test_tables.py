"""The one table of kinds, of media and of tools: whole, walked, and asked by everything else."""

import ast
import re
from pathlib import Path

import pytest
from pydantic import ValidationError

import lean_sepia
from lean_sepia.answers.rooms.table import ROOMS
from lean_sepia.document.entities.mixed import PaintVersion
from lean_sepia.document.entities.planned import Step
from lean_sepia.document.model import Coat
from lean_sepia.errors import PlanError
from lean_sepia.paint.handling.carriers import CARRIERS
from lean_sepia.paint.media import MEDIA, media_mix
from lean_sepia.paint.tools import TOOLS
from lean_sepia.plan.care.cautions import cautions
from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.plan_file import parse_plan
from lean_sepia.plan.schools import SCHOOLS
from lean_sepia.plan.step import PlanStep
from lean_sepia.plan.waits.drying import removable_for

CONTRACT = [
    "wash-model",
    "found",
    "primer",
    "base",
    "preshade",
    "tone",
    "camouflage",
    "mask",
    "unmask",
    "resist",
    "remove-resist",
    "marking",
    "setting-solution",
    "fade",
    "filter",
    "wash",
    "pin-wash",
    "oil-dots",
    "blend",
    "chips",
    "streaks",
    "scrape",
    "powder",
    "wipe-back",
    "fix-powder",
    "pastel",
    "dust",
    "soot",
    "graphite",
    "gloss-coat",
    "satin-coat",
    "matte-coat",
    "touch-up",
    "test-piece",
    "fit-glass",
    "assemble",
    "other",
]


def test_every_kind_of_the_contract_is_there_and_two_more():
    assert set(KINDS) == {*CONTRACT, "bloom", "take-apart"}


@pytest.mark.parametrize("name", KINDS)
def test_a_kind_says_everything_that_is_asked_of_it(name):
    kind = KINDS[name]
    assert kind.title
    assert kind.room in ROOMS
    assert all(tool in TOOLS for tool in kind.tools)
    assert kind.medium is None or kind.medium in MEDIA
    assert (kind.covers in ("nothing", "resist", "unresist", "taken")) == (
        not (kind.painted or kind).tools
    ) or name == "found"
    assert (kind.finish is not None) == kind.is_varnish
    assert (kind.hands_on_min > 0) == (name != "found")
    step = PlanStep(id="s", kind=name, material={"medium": kind.medium} if kind.medium else None)
    assert step.hands_min == kind.hands_on_min
    assert PlanStep(id="s", kind=name, hands_on_min=7).hands_min == 7
    assert isinstance(cautions(step), tuple)
    assert Step(id="s", kind=name).kind == name
    assert Coat(id="c", zone="z", step="s", kind=name).kind == name


def test_every_paint_and_varnish_goes_on_wet():
    paints = {name for name, kind in KINDS.items() if kind.is_paint or kind.is_varnish}
    assert {name for name in paints if not KINDS[name].wet} == {"found"}


def test_a_step_keeps_how_long_it_can_be_taken_off_where_that_is_said():
    wash = {"id": "s", "kind": "wash", "material": {"medium": "oil"}}
    assert removable_for(PlanStep(**wash)) == 12 * 60
    assert removable_for(PlanStep(**wash, removable_until_min=7)) == 7
    assert removable_for(PlanStep(id="s", kind="gloss-coat", material={"medium": "acrylic-water"})) is None


@pytest.mark.parametrize("name", MEDIA)
def test_a_medium_says_everything_that_is_asked_of_it(name):
    medium = MEDIA[name]
    assert medium.words
    assert medium.carrier in CARRIERS
    assert medium.hides_coats > 0
    assert medium.loose == (name in ("pigment", "pastel"))
    assert media_mix(name, name) != medium.loose
    for other in MEDIA:
        assert media_mix(name, other) == media_mix(other, name)


def test_times_and_thickness_as_common_practice_has_them():
    """Practice: cures by medium, spreads and what arrives by tool; the figures of the definitions, no source."""
    cures = {name: medium.full_cure_min / 60 for name, medium in MEDIA.items()}
    assert cures == {
        "acrylic-water": 12, "acrylic-alcohol": 6, "lacquer": 2, "enamel": 24, "oil": 48, "pigment": 0, "pastel": 0,
    }  # fmt: skip
    assert {name: tool.spread for name, tool in TOOLS.items()} == {
        "airbrush": 1, "close": 0.5, "mist": 0.15, "spray-can": 1.3, "brush": 1.5, "glaze": 0.3, "flood": 1, "seam": 5,
        "sponge": 1, "drybrush": 1, "flick": 1,
    }  # fmt: skip
    assert {name: tool.arrives for name, tool in TOOLS.items()} == {
        "airbrush": 0.5, "close": 0.5, "mist": 0.5, "spray-can": 0.4, "brush": 0.9, "glaze": 0.9, "flood": 0.9, "seam": 0.9,
        "sponge": 0.7, "drybrush": 0.7, "flick": 0.3,
    }  # fmt: skip
    assert [tool for tool, one in TOOLS.items() if one.left_ml == 0] == ["spray-can"]


def test_the_medium_decides_what_is_loose():
    for name in ("powder", "pastel", "dust", "soot", "graphite"):
        assert KINDS[name].loose("pigment")
        assert KINDS[name].loose(None)
        assert not KINDS[name].loose("acrylic-water")
        assert KINDS[name].coat_covers("acrylic-water") == "film"
        assert KINDS[name].coat_covers("pigment") == ("spots" if name == "graphite" else "loose")
    assert not KINDS["chips"].loose("pigment")


def test_unknown_kinds_media_and_tools_fail_loudly():
    with pytest.raises(PlanError, match="'varnishing'; kinds are: wash-model"):
        parse_plan({"steps": [{"id": "a", "kind": "varnishing"}]})
    with pytest.raises(PlanError, match="medium"):
        parse_plan({"steps": [{"id": "a", "kind": "base", "material": {"medium": "gouache"}}]})
    with pytest.raises(PlanError, match="application"):
        parse_plan({"steps": [{"id": "a", "kind": "base", "application": "trowel"}]})
    for fields in ({"kind": "nothing"}, {"kind": "base", "tool": "trowel"}):
        with pytest.raises(ValidationError):
            Coat(id="c", zone="z", step="s", **fields)
    with pytest.raises(ValidationError):
        PaintVersion(
            id="p",
            shelf_id="p",
            name="p",
            medium="gouache",
            finish="flat",
            K=(1,) * 31,
            S=(1,) * 31,
            g=1,
            knowledge="spectral",
        )


def test_the_old_name_of_resists_is_read():
    assert parse_plan({"steps": [{"id": "a", "kind": "resist-chips"}]}).steps[0].kind == "resist"
    assert Step(id="s", kind="resist-chips").kind == "resist"


TABLES = {
    "plan/kinds.py",
    "plan/traits/kind.py",
    "plan/traits/said.py",
    "plan/names.py",
    "paint/media.py",
    "paint/handling/bodies.py",
    "document/migrate.py",
}
MEANT_THEMSELVES = 143
"""How often the rest of the program names a kind or a medium. It may fall; whoever raises it asks a trait instead."""


def _words_for_people(tree):
    """Docstrings, and what is handed to the catalogue of messages: no name of a kind, though it may be spelled alike."""
    for node in ast.walk(tree):
        if isinstance(node, ast.Module | ast.ClassDef | ast.FunctionDef) and ast.get_docstring(node):
            yield node.body[0].value
        if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id in ("_", "N_"):
            yield from node.args


def _named_in(path):
    tree = ast.parse(path.read_text(encoding="utf-8"))
    said = {id(node) for node in _words_for_people(tree)}
    names = {*KINDS, *MEDIA}
    return [
        (node.lineno, node.value)
        for node in ast.walk(tree)
        if isinstance(node, ast.Constant) and node.value in names and id(node) not in said
    ]


def test_kinds_and_media_are_named_only_where_one_is_meant_itself():
    """Everything else asks for traits. Roles, schools and rooms that are spelled like a kind count too: no exception to argue about."""
    root = Path(lean_sepia.__file__).parent
    found = {
        str(path.relative_to(root)): named
        for path in root.rglob("*.py")
        if str(path.relative_to(root)) not in TABLES and (named := _named_in(path))
    }
    count = sum(len(named) for named in found.values())
    assert count <= MEANT_THEMSELVES, {path: len(named) for path, named in found.items()}
    assert count > 50  # it counts at all


def test_nothing_else_lists_kinds_or_media():
    """No other file of the program names four kinds, or three media, in one list, set or table."""
    root = Path(lean_sepia.__file__).parent
    found = []
    for path in root.rglob("*.py"):
        if str(path.relative_to(root)) in TABLES or "demo" in path.parts:
            continue
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            if isinstance(node, ast.List | ast.Set | ast.Tuple | ast.Dict):
                items = node.keys if isinstance(node, ast.Dict) else node.elts
                words = {item.value for item in items if isinstance(item, ast.Constant)}
                if len(words & set(KINDS)) > 3 or len(words & set(MEDIA)) > 2:
                    found.append((str(path.relative_to(root)), node.lineno))
    assert found == []


def test_schools_are_coded_and_worded():
    assert set(SCHOOLS) >= {
        "decals",
        "primer",
        "camouflage",
        "light",
        "chips",
        "varnish",
        "red-lightener",
        "filter-hue",
        "amount",
    }
    for code, question in SCHOOLS.items():
        assert re.fullmatch(r"[a-z-]+", code)
        assert question.usual in question.choices
        assert len(question.choices) >= 2
