"""Hostile texts for every importer, field and phrase: samples that are right, changed in many small ways."""

from __future__ import annotations

import json
import random
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path

import numpy as np

from fuzzing.part import Part

NASTY = (
    "nan", "-inf", "Infinity", "1e308", "1e-400", "-0", "²", "١٢", "9" * 5000, "1:" + "9" * 400, "0", "-1", "10" + "0" * 400,
    "1_000", "0x10", "\x00", "\ud800", "\u202e", "\ufeff", "<img src=/dev/zero>", "=1+1", "@SUM(A1)", "\t", "\r\n", '"', "'", "\\",
    "[" * 400, "{" * 400, " " * 1000, ",", ";", ":", "%", "null", "true", "[]", "{}", "2031-13-40", "9999-12-31T23:59:59",
    "2031-03-03T19:00+01:00", "0001-01-01", "é" * 50, "a" * 3000, "½", "−5", "1,5", ".", "..", "/dev/zero",
)  # fmt: skip


def mutated(rng: random.Random, text: str) -> str:
    """A text with one to four small changes."""
    for _change in range(rng.choice((1, 1, 1, 2, 3, 4))):
        at = rng.randrange(len(text) + 1)
        kind = rng.randrange(8)
        if kind == 0:
            text = text[:at] + rng.choice(NASTY) + text[at:]
        elif kind == 1:
            text = text[:at] + text[at + rng.randrange(1, 9) :]
        elif kind == 2:
            end = at + rng.randrange(1, 12)
            text = text[:end] + text[at:end] * rng.randrange(1, 4) + text[end:]
        elif kind == 3:
            text = text[:at] + chr(rng.choice((rng.randrange(128), rng.randrange(0x3000)))) + text[at + 1 :]
        elif kind == 4:
            text = text[:at]
        elif kind == 5:
            text = _number_changed(rng, text)
        elif kind == 6:
            words = text.split(" ")
            rng.shuffle(words)
            text = " ".join(words)
        else:
            other = rng.randrange(len(text) + 1)
            text = text[:at] + text[other : other + rng.randrange(20)] + text[at:]
    return text


def _number_changed(rng: random.Random, text: str) -> str:
    places = [place for place, letter in enumerate(text) if letter.isdigit()]
    if not places:
        return text + rng.choice(NASTY)
    start = rng.choice(places)
    end = start
    while end < len(text) and (text[end].isdigit() or text[end] == "."):
        end += 1
    return text[:start] + rng.choice(NASTY) + text[end:]


@dataclass(frozen=True)
class Target:
    """Something that reads a text, and samples of what it is meant to read."""

    name: str
    read: Callable[[str], object]
    samples: tuple[str, ...]
    weight: int


def phrase_targets() -> list[Target]:
    """What a person types: phrases, numbers, dates."""
    from lean_sepia.colour.written import is_colour, read_colour
    from lean_sepia.commands.given import (
        parse_anchors,
        parse_film,
        parse_lab_and_finish,
        parse_moment,
        parse_numbers,
        parse_parts,
    )
    from lean_sepia.document.dates import date_span
    from lean_sepia.files.gate import strict_json
    from lean_sepia.photo.correction.chart import as_it_lies
    from lean_sepia.plan.hours.evenings import parse_evenings
    from lean_sepia.recipe.phrases.mixture_text import read_mixture
    from lean_sepia.recipe.phrases.ratio import read_ratio, spoken
    from lean_sepia.recipe.phrases.spoken_mix import read_spoken_mix

    picture = np.random.default_rng(5).integers(0, 256, (160, 220, 3)).astype(np.uint8)
    names = {"deep-sea": "Deep sea", "chalk": "Chalk", "bottle-green": "Bottle green"}

    def ratio(text: str) -> None:
        for reading in read_ratio(text):
            shares = [share for _name, share in reading.shares]
            if reading.colour is None:
                continue
            assert all(0 <= share <= 1 for share in shares), shares
            assert abs(sum(shares) - 1) < 1e-6, shares
            if reading.colour > 0:
                spoken(min(reading.colour, 1.0), 5.0)

    def mixture(text: str) -> None:
        assert all(count >= 1 for _paint, count in read_mixture(text, names))

    def spoken_mix(text: str) -> None:
        found = read_spoken_mix(text, names, {"r1": "Base colour, Hull", "r2": "Road dust"}, "r1")
        assert found.parts or found.cups, found
        assert all(count >= 1 for _name, count in (*found.parts, *found.cups)), found
        assert found.thinner_share is None or 0 < found.thinner_share < 1, found

    def evenings(text: str) -> None:
        next(parse_evenings(text).windows(datetime(2031, 3, 3)), None)

    def json_text(text: str) -> None:
        try:
            strict_json(text)
        except ValueError:
            return

    return [
        Target("ratio", ratio, ("1:20", "20:1 thinner to paint", "95 % thinner", "a third of the cup", "3 drops in 5 ml",
                                "2:1 then 10:1 alcohol", "70/20/10", "10:1 alcohol", "base + 2 dollops of fog grey", "30 % mud 70 % sand", "a few drops in a jar"), 8),
        Target("mixture", mixture, ("8 Deep sea, 1 chalk", "deep-sea=8 chalk=1", "8 deep-sea + 2 chalk", "Deep sea"), 8),
        Target("spoken mix", spoken_mix, ("3 chalk + 1 deep sea", "base + 2 dollops of chalk + a brush-load of deep sea",
                                          "70/20/10 deep sea, chalk, bottle green", "from the road dust cup", "2:1:10 chalk, deep sea, alcohol",
                                          "40 % chalk 40 % deep sea 20 % bottle green", "half chalk half deep sea"), 8),
        Target("colour as written", lambda text: read_colour(text) if is_colour(text) else None, ("#4f7a6c", "45, -13, -6", "rgb 1 2 3"), 4),
        Target("evenings", evenings, ("mon-fri 19:00-21:30,sat 10:00-16:00", "daily 20:00-01:00"), 5),
        Target("date", date_span, ("1957", "1957-09", "1956/1958", "1956-01-31/1957"), 5),
        Target("parts", parse_parts, ("deep-sea=8,chalk=1",), 3),
        Target("colour", lambda text: parse_lab_and_finish(text, "--over"), ("45.8,-13.9,-6.1,satin", "50,0,0"), 3),
        Target("film", parse_film, ("deep-sea=8,chalk=1;2;0.6",), 3),
        Target("moment", parse_moment, ("2031-03-03T19:00", "2031-03-03"), 3),
        Target("anchor", lambda text: parse_anchors((text,), (text,)), ("100,200,12,50", "1,2,3,50,0,0"), 2),
        Target("chart", lambda text: as_it_lies(picture, parse_numbers(text, "--chart", (8,))), ("10,10,200,10,200,150,10,150",), 1),
        Target("json", json_text, ('{"a": [1, 2.5e3, "x"], "b": {"c": null}}',), 4),
    ]  # fmt: skip


def file_targets(folder: Path) -> list[Target]:
    """What comes in as a file."""
    from lean_sepia.demo.shelf import demo_shelf
    from lean_sepia.document.migrate import parse_document
    from lean_sepia.plan.hours.evenings import parse_evenings
    from lean_sepia.plan.plan_file import read_plan
    from lean_sepia.plan.rules.table import check_plan
    from lean_sepia.plan.schedule.build import build_schedule
    from lean_sepia.shelf.card_shelf import read_names
    from lean_sepia.shelf.card_swatches import read_mixtures
    from lean_sepia.shelf.content import ShelfContent
    from lean_sepia.shelf.shelf_file import read_shelf, write_shelf
    from lean_sepia.shelf.swatch_file import read_swatches

    folder.mkdir(parents=True, exist_ok=True)
    small = ShelfContent(demo_shelf().records[:3])
    shelves = []
    for suffix in (".json", ".csv", ".txt", ".gpl"):
        write_shelf(folder / f"sample{suffix}", small)
        shelves.append((folder / f"sample{suffix}").read_text(encoding="utf-8"))

    def of(read: Callable[[Path], object]) -> Callable[[str], object]:
        def with_file(text: str) -> object:
            place = folder / "given"
            place.write_bytes(text.encode("utf-8", "surrogatepass"))
            return read(place)

        return with_file

    def plan(place: Path) -> None:
        plan = read_plan(place)
        check_plan(plan.steps, plan.schools, plan.drying)
        build_schedule(plan.steps, datetime(2031, 3, 3, 19), parse_evenings("daily 19:00-21:30"), plan.drying)

    steps = {"steps": [
        {"id": "a", "kind": "primer", "material": {"medium": "acrylic-water"}, "zones": ["hull"], "hands_on_min": 20},
        {"id": "b", "kind": "base", "material": {"medium": "enamel", "finish": "satin"}, "zones": "all", "after": ["a"],
         "start": "2031-03-03T19:00", "end": "2031-03-03T19:30", "full_cure_min": 720.5},
    ]}  # fmt: skip
    swatches = {"swatches": [
        {"parts": [{"paint": "deep-sea", "parts": 8}], "lab": [45, -13, -6], "over": [90, 0, 0], "coats": 2},
        {"parts": [{"paint": "chalk", "parts": 1}], "R": [0.5] * 31},
    ]}  # fmt: skip
    names = "field,id,name,line,medium,finish\n1,chalk,Chalk,,acrylic-water,flat\n2,sea,Sea,x,enamel,gloss\n"
    mixtures = 'field,parts\n1,"8 Deep sea, 1 Chalk"\n2,Chalk\n'
    return [
        Target("shelf", of(lambda place: read_shelf(place).paints()), tuple(shelves), 3),
        Target("plan", of(plan), (json.dumps(steps),), 4),
        Target("swatches", of(read_swatches), (json.dumps(swatches),), 3),
        Target("names", of(read_names), (names,), 3),
        Target("mixtures", of(lambda place: read_mixtures(place, {"deep-sea": "Deep sea", "chalk": "Chalk"})), (mixtures,), 3),
        Target("document", parse_document, (small_document(),), 5),
    ]  # fmt: skip


def small_document() -> str:
    """A document with a little of everything, as JSON."""
    from lean_sepia.demo.shelf import demo_shelf
    from lean_sepia.document.edits.coats import Marks, lay_primer, lay_varnish, lay_wear, pin_base
    from lean_sepia.document.edits.mixes import Manner, Mix
    from lean_sepia.document.edits.zones import add_zone, name_feature, state_target
    from lean_sepia.document.model import Project

    paints = demo_shelf().paints()
    project, _hull = add_zone(Project(title="Tender"), "Hull")
    project, _deck = add_zone(project, "Deck")
    project = state_target(project, "z1", (45.0, -16.0, -4.0))
    project = lay_primer(
        project, "z1", Mix.of(paints, [("red-primer", 1)]), Manner(passes=2, thinner_share=0.5)
    )
    project = pin_base(
        project,
        "z1",
        Mix.of(paints, [("deep-sea", 7), ("kingfisher", 2)]),
        Manner(passes=3, thinner_share=0.6),
    )
    project = lay_wear(project, "z1", [Marks("chips", "Rust chips", (33.0, 15.0, 12.0), 0.02)])
    project = lay_varnish(project, ["z1", "z2"], "matte-coat")
    return (
        name_feature(project, "A dent")
        .model_copy(update={"plan_start": "2031-03-03T19:00"})
        .model_dump_json()
    )


def run(part: Part) -> None:
    """Read changed samples until the time is over."""
    targets = [*phrase_targets(), *file_targets(part.folder / f"texts-{part.seed}")]
    drawn = [target for target in targets for _copy in range(target.weight)]
    while part.going:
        target = part.rng.choice(drawn)
        text = mutated(part.rng, part.rng.choice(target.samples))
        part.look(
            target.name,
            lambda target=target, text=text: target.read(text),
            text.encode("utf-8", "surrogatepass"),
        )
