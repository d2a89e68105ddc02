"""A zone's stack as a patch that can be looked at: seeded, at true size, with the mean that the figures have."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass, replace
from itertools import product

import numpy as np

from lean_sepia.answers.predicting.coatings import coating_of, final_varnish, on_panels
from lean_sepia.answers.preview.texture import Frame, clouds, field_of, seams
from lean_sepia.answers.toning.panels import is_other_side
from lean_sepia.arrays import FloatArray, Image8, IntArray, triple
from lean_sepia.colour.lab import lab_from_xyz
from lean_sepia.colour.srgb import linear_from_xyz, screen_pixels
from lean_sepia.document.bounds import Lab
from lean_sepia.document.model import Coat, Project
from lean_sepia.paint.profile import RECESSES, RUNS, Place
from lean_sepia.paint.stack import Coating, Patch, Stack
from lean_sepia.recipe.fades.panels import panel_map

_BANDS = 16  # along a direction in which a coat runs out
_MOTTLE = 0.22  # by which the film of a sprayed or drawn-out coat varies (practice)
_UNEVEN_HAZE = 0.35  # how unevenly powder lies, as a planned veil of it is drawn (practice)


@dataclass(frozen=True, eq=False)
class PatchPicture:
    """A patch as it is shown, its mean colour, and whether the screen can show all of it.

    xyz : (height, breadth, 3) before it is brought to the screen
    """

    xyz: FloatArray
    mean: Lab
    all_shown: bool

    @property
    def pixels(self) -> Image8:
        """8-bit sRGB (height, breadth, 3)."""
        return screen_pixels(self.xyz)


def patch_picture(
    project: Project, zone_id: str, frame: Frame, hidden: Collection[str] = ()
) -> PatchPicture | None:
    """The finish of a zone as it would be seen; None where nothing lies there.

    hidden : coats that are looked through, by id
    """
    every = [coat for coat in project.coats_of(zone_id) if coat.on and coat.id not in hidden]
    varnish = final_varnish(every)
    whole, breaks = on_panels([(coat, coating_of(project, coat)) for coat in every])
    laid = [
        one for one in whole if not _is_soft(*one)
    ]  # powder is a haze over what lies there, with no edge of its own
    coats = [coat for coat, _coating in laid]
    xyz = np.zeros((frame.height * frame.breadth, 3))
    fields: dict[int, FloatArray] = {}
    mottle, exact = clouds(frame, "mottle").ravel(), np.zeros(3)
    for pixels, place in _regions(project, zone_id, frame, [coating for _coat, coating in laid], breaks):
        runs = [_run(laid, place, film) for film in (1.0, 1 - _MOTTLE, 1 + _MOTTLE)]
        stack = runs[0]
        if not stack.patches:
            return None
        given = _given_out(stack.patches, pixels, frame, coats, fields)
        exact += len(pixels) / len(xyz) * _mean_xyz(_run(whole, place, 1.0), varnish)
        for number, patch in enumerate(stack.patches):
            mine = given[number]
            if not len(mine):
                continue
            thin, thick = (
                run.xyz(varnish, run.patches[number]) if len(run.patches) == len(stack.patches) else None
                for run in runs[1:]
            )
            xyz[mine] = stack.xyz(varnish, patch)
            if thin is not None and thick is not None:
                cloud = np.clip(mottle[mine] / 2, -1, 1)
                xyz[mine] += ((cloud - cloud.mean()) / 2)[:, None] * (thick - thin)
        for (coat, coating), own in _hazes(whole, place, varnish):
            share = _haze(frame, coat)[pixels] * min(1.0, coating.at(place).share)
            xyz[pixels] += np.clip(share, 0, 1)[:, None] * (own - xyz[pixels])
    # Marks lie across the places of a zone, so their share is right in the whole but not in each: what that shifts is put right.
    xyz *= exact / np.maximum(xyz.mean(axis=0), 1e-9)
    shown = linear_from_xyz(xyz)
    fits = bool(shown.min() > -0.002 and shown.max() < 1.002)
    return PatchPicture(
        xyz.reshape(frame.height, frame.breadth, 3), triple(lab_from_xyz(xyz.mean(axis=0))), fits
    )


def _is_soft(coat: Coat, coating: Coating) -> bool:
    """Whether a coat lies as a haze: powder, not the shine of metal."""
    return coat.nature.is_powder and not coat.nature.metal and coating.covers in ("spots", "loose")


def _hazes(
    whole: Sequence[tuple[Coat, Coating]], place: Place, varnish: str | None
) -> list[tuple[tuple[Coat, Coating], FloatArray]]:
    """The coats that lie as a haze, each with its XYZ (3,) where it lies in the end."""
    stack, found = Stack(), []
    for coat, coating in whole:
        stack, patch = stack.lay_patch(coating.at(place))
        if patch is not None and _is_soft(coat, coating):
            found.append(((coat, coating), stack.xyz(varnish, patch)))
    return found


def _haze(frame: Frame, coat: Coat) -> FloatArray:
    """How much more or less of a haze lies at each pixel (n,), 1 in the mean."""
    cloud = np.exp(_UNEVEN_HAZE * np.clip(clouds(frame, coat.id).ravel(), -2.5, 2.5))
    return np.asarray(cloud / cloud.mean())


def _mean_xyz(stack: Stack, varnish: str | None) -> FloatArray:
    mean = stack.seen_xyz(varnish)
    assert mean is not None
    return mean


def _run(laid: Sequence[tuple[Coat, Coating]], place: Place, film: float) -> Stack:
    stack = Stack()
    for _coat, whole in laid:
        coating = whole.at(place)
        # What is opaque stays so; only films that let something through look uneven.
        stack = stack.lay(
            replace(coating, X=coating.X * film) if coating.covers in ("film", "tint") else coating
        )
    return stack


def _regions(
    project: Project, zone_id: str, frame: Frame, coatings: Sequence[Coating], breaks: Sequence[float]
) -> Sequence[tuple[IntArray, Place]]:
    """Pixels that lie at one place of the zone, and that place."""
    along = sorted({RUNS[coating.profile].along for coating in coatings if coating.profile})
    count = frame.height * frame.breadth
    if not along:
        return [(np.arange(count), {})]
    numbers, values = [], []
    for direction in along:
        ranked = _ranked(_direction(project, zone_id, frame, direction))
        if direction == "recess":
            edges = np.array([RECESSES])
            middle = [0.0, 1.0]
        elif direction == "panel":
            edges = np.unique(np.clip(breaks, 0, 1))
            middle = [*((low + high) / 2 for low, high in zip([0.0, *edges[:-1]], edges, strict=True)), 1.0]
        else:
            edges = np.arange(1, _BANDS) / _BANDS
            middle = [(band + 0.5) / _BANDS for band in range(_BANDS)]
        numbers.append(np.searchsorted(edges, ranked, side="right"))
        values.append(middle)
    found = []
    for chosen in product(*(range(len(middle)) for middle in values)):
        here = np.all([own == which for own, which in zip(numbers, chosen, strict=True)], axis=0)
        pixels = np.flatnonzero(here)
        if len(pixels):
            place = {
                name: values[i][which] for i, (name, which) in enumerate(zip(along, chosen, strict=True))
            }
            found.append((pixels, place))
    return found


def _ranked(field: FloatArray) -> FloatArray:
    """Which share of the area has lower values, for each pixel: every share of the patch is then as large as it should be."""
    order = np.argsort(field.ravel(), kind="stable")
    ranks = np.empty(field.size)
    ranks[order] = (np.arange(field.size) + 0.5) / field.size
    return ranks


def _direction(project: Project, zone_id: str, frame: Frame, direction: str) -> FloatArray:
    """A field that rises along a direction of the zone."""
    y, x = np.mgrid[: frame.height, : frame.breadth]
    if direction == "height":
        return np.asarray(-y - 0.001 * x, dtype=float)
    if direction == "edge":
        return np.minimum(np.minimum(x, frame.breadth - 1 - x), np.minimum(y, frame.height - 1 - y)) + 0.0
    if direction == "recess":
        return seams(frame)
    return _panel_order(project, zone_id, frame)


def _panel_order(project: Project, zone_id: str, frame: Frame) -> FloatArray:
    """Panels in the order in which coats on panels take them: the weakest fade first, those that have not faded last."""
    zone = project.zone(zone_id)
    panels = zone.panels
    if panels is None:
        return clouds(frame, "panels", 6.0)
    degrees = np.array(panels.degrees(mirrored=is_other_side(zone), replaced=panels.replaced))
    last = np.where(degrees == 0, panels.levels + 1, degrees)
    numbers = panel_map(panels.boxes, frame.breadth, frame.height)
    return np.asarray(last[numbers] + numbers / (2.0 * len(degrees)))


def _given_out(
    patches: Sequence[Patch],
    pixels: IntArray,
    frame: Frame,
    coats: Sequence[Coat],
    fields: dict[int, FloatArray],
) -> list[IntArray]:
    """The pixels of each patch: the topmost coat takes its share where its field is lowest, then the one below in each part."""
    found: list[IntArray] = [np.zeros(0, dtype=np.int64)] * len(patches)
    lines = [_line(patch) for patch in patches]

    def give(mine: IntArray, among: list[int], depth: int) -> None:
        if not len(mine) or not among:
            return
        if len(among) == 1:
            found[among[0]] = mine
            return
        tops = [lines[number][depth] if depth < len(lines[number]) else -1 for number in among]
        top = max(tops)
        on_top = [number for number, own in zip(among, tops, strict=True) if own == top]
        rest = [number for number in among if number not in on_top]
        if not rest:
            if top < 0:
                _evenly(mine, among, patches, found)
            else:
                give(mine, among, depth + 1)
            return
        share = sum(patches[number].share for number in on_top)
        whole = share + sum(patches[number].share for number in rest)
        count = round(len(mine) * share / whole) if whole > 0 else 0
        if top not in fields:
            fields[top] = _ranked(field_of(frame, coats[top]))
        if len(pixels) == len(fields[top]):
            order = np.argsort(fields[top][mine], kind="stable")
            covered, bare = mine[order[:count]], mine[order[count:]]
        else:
            inside = fields[top][mine] < share / whole
            covered, bare = mine[inside], mine[~inside]
        give(covered, on_top, depth + 1)
        give(bare, rest, depth)

    give(pixels, list(range(len(patches))), 0)
    return found


def _line(patch: Patch) -> list[int]:
    """The coats that lie in a patch, from the top down."""
    line: list[int] = []
    at: Patch | None = patch
    while at is not None:
        line.append(at.since)
        at = at.below
    return line


def _evenly(mine: IntArray, among: Sequence[int], patches: Sequence[Patch], found: list[IntArray]) -> None:
    """Patches of one history, such as those under and beside a resist: side by side."""
    shares = np.array([patches[number].share for number in among])
    ends = np.round(np.cumsum(shares) / max(shares.sum(), 1e-12) * len(mine)).astype(int)
    for number, start, end in zip(among, [0, *ends[:-1]], ends, strict=True):
        found[number] = mine[start:end]
