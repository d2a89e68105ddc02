"""A paint as the solvers see it, and mixtures of paints."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import IntEnum
from functools import cached_property

import numpy as np
import numpy.typing as npt

from lean_sepia.arrays import FloatArray
from lean_sepia.colour.lab import lab_from_reflectance
from lean_sepia.language import N_
from lean_sepia.paint.handling.bodies import USES
from lean_sepia.paint.handling.keep import usual_keep
from lean_sepia.paint.kubelka_munk import layer, opaque_reflectance, ratio_of_opaque
from lean_sepia.paint.media import MEDIA
from lean_sepia.paint.saunderson import K1, K2, Surface

FINISH_WORDS = {"flat": N_("flat"), "satin": N_("satin"), "gloss": N_("gloss"), "metallic": N_("metallic")}
FINISHES = tuple(FINISH_WORDS)

_FINISHES_SAID = {
    "matt": "flat", "matte": "flat", "mat": "flat", "eggshell": "satin", "semi-gloss": "satin", "semigloss": "satin", "silk": "satin",
    "glossy": "gloss", "shiny": "gloss", "metal": "metallic",
}  # fmt: skip


def finish_said(text: str) -> str:
    """The finish that a text names, in the table's word or in everyday ones; the text itself where it names none."""
    wanted = " ".join(text.casefold().split())
    return _FINISHES_SAID.get(wanted, wanted if wanted in FINISHES else text)


_CLEAR_TRANSMITTANCE = 0.9


class Knowledge(IntEnum):
    """How well a paint is known, weakest first; a mixture is known as well as its weakest paint."""

    ONE_CONSTANT = 1
    TWO_CONSTANT = 2
    SPECTRAL = 3

    def __str__(self) -> str:
        return self.name.lower().replace("_", "-")


@dataclass(frozen=True, eq=False)
class Mixture:
    """What can be laid: K and S (..., 31) per film unit, and the surface it dries to."""

    K: FloatArray
    S: FloatArray
    surface: Surface


@dataclass(frozen=True, eq=False)
class Paint:
    """One paint: absorption K and scattering S (31,) per film unit, and its surface.

    `g` is the share of the surface reflection that reaches the eye; `notes` says what was assumed; `drops_per_ml` is the bottle's own figure, where it is known; `can` says that it comes from a spray can, `retired` that it is not to be used; `keep` is what the first varnish leaves of powder, where that was learnt; `remark` is what its owner noted; `use` and `body` are names of their tables; `empty` says that nothing usable is left in it; `thinner_share` is what it is sold with; `cover_said` that its owner said in how many coats it hides.
    """

    id: str
    name: str
    medium: str
    finish: str
    K: FloatArray
    S: FloatArray
    g: float
    knowledge: Knowledge
    line: str = ""
    k1: float = K1
    k2: float = K2
    notes: tuple[str, ...] = ()
    drops_per_ml: float | None = None
    can: bool = False
    retired: bool = False
    keep: float | None = None
    remark: str = ""
    use: str = "paint"
    body: str = "usual"
    empty: bool = False
    thinner_share: float = 0.0
    cover_said: bool = False

    @cached_property
    def surface(self) -> Surface:
        """The surface the paint dries to."""
        return Surface(self.g, self.k1, self.k2)

    @property
    def lies_as_film(self) -> bool:
        """Whether it lies as a film through which the ground may show: no metallic, no loose powder."""
        return self.finish != "metallic" and not MEDIA[self.medium].loose

    @property
    def mixes(self) -> bool:
        """Whether the paint may be part of a wet mixture: a film that does not come from a spray can, in use."""
        return self.lies_as_film and not self.can and not self.retired and not USES[self.use].alone

    @property
    def proposed(self) -> bool:
        """Whether the program stirs it into a mixture by itself: a coloured paint or ink of which something is left."""
        return self.mixes and USES[self.use].proposed and not self.empty and not self.clear

    @property
    def tints(self) -> bool:
        """Whether the program makes a filter or a wash of it: what it stirs, and ready washes, which are laid as they come."""
        return self.mixes and USES[self.use].tints and not self.empty and not self.clear

    @property
    def offered(self) -> bool:
        """Whether the program proposes it for marks and lettering: of a colour of its own, in use, and something is left of it."""
        return USES[self.use].offered and not (self.clear or self.retired or self.empty)

    @property
    def ready(self) -> bool:
        """Whether it is laid as it comes: a ready wash, or from a can."""
        return self.can or not USES[self.use].thinned

    def thinned_to(self, thinner_share: float) -> float:
        """The share of thinner that goes to it to make it as thin as is wanted, less what it is sold with; none to what is ready."""
        return 0.0 if self.ready else max(0.0, 1 - (1 - thinner_share) / (1 - self.thinner_share))

    @cached_property
    def clear(self) -> bool:
        """Whether it is a medium, such as a gloss medium or flat base: one film of it lets nearly all light through."""
        if self.body == "clear":
            return self.lies_as_film
        return self.lies_as_film and bool(layer(self.K, self.S, 1.0)[1].min() > _CLEAR_TRANSMITTANCE)

    def masstone_lab(self) -> FloatArray:
        """L*a*b* (3,) of the opaque paint at its own sheen."""
        return lab_from_reflectance(self.masstone_reflectance())

    def masstone_reflectance(self) -> FloatArray:
        """Measured reflectance (31,) of the opaque paint at its own sheen."""
        return self.surface.seen(opaque_reflectance(self.K, self.S))


@dataclass(frozen=True, eq=False)
class Palette:
    """Several paints as arrays, in a fixed order: K and S (n, 31), g, k1 and k2 (n,)."""

    paints: tuple[Paint, ...]
    K: FloatArray
    S: FloatArray
    g: FloatArray
    k1: FloatArray
    k2: FloatArray

    @classmethod
    def of(cls, paints: Sequence[Paint]) -> Palette:
        """Stack paints; at least one."""
        return cls(
            tuple(paints),
            np.stack([paint.K for paint in paints]),
            np.stack([paint.S for paint in paints]),
            *(np.array([getattr(paint, name) for paint in paints]) for name in ("g", "k1", "k2")),
        )

    @cached_property
    def one_surface(self) -> bool:
        """Whether all its paints have the same k1 and k2, as nearly always."""
        return bool(np.ptp(self.k1) == 0 and np.ptp(self.k2) == 0)

    def surface(self, shares: FloatArray) -> Surface:
        """The surface of mixtures by volume shares (..., n): the volume means of g, k1 and k2."""
        if self.one_surface:
            return Surface(shares @ self.g, self.k1[0], self.k2[0])
        return Surface(shares @ self.g, shares @ self.k1, shares @ self.k2)

    def mixture(self, shares: FloatArray) -> Mixture:
        """Mixtures by volume shares (..., n) that sum to 1.

        Additivity by volume: Duncan, Proc. Phys. Soc. 52 (1940). The surface of a mixture is the volume mean.
        """
        return Mixture(shares @ self.K, shares @ self.S, self.surface(shares))


def mixed(paints: Sequence[Paint], parts: npt.ArrayLike) -> Mixture:
    """One mixture of paints, parts (n,) by relative volume."""
    counts = np.asarray(parts, dtype=float)
    return Palette.of(paints).mixture(counts / counts.sum())


def mingled(paints: Sequence[Paint], parts: npt.ArrayLike) -> Mixture:
    """Loose powders mixed, parts (n,) by the area that their grains cover: grains lie beside one another and are seen as their mean."""
    shares = np.asarray(parts, dtype=float) / np.sum(parts)
    surface = Palette.of(paints).surface(shares)
    measured = shares @ np.stack([paint.masstone_reflectance() for paint in paints])
    K_to_S = ratio_of_opaque(np.clip(surface.inwards(measured), 1e-4, 1 - 1e-4))
    return Mixture(K_to_S, np.ones_like(K_to_S), surface)


def stirred(identity: str, name: str, paints: Sequence[Paint], parts: Sequence[float]) -> Paint:
    """A mixture as if it were one paint, of the medium and finish of its first; known as well as its weakest.

    Powders and pastels are mingled, not stirred: what a varnish leaves of them is their mean by area, where all are known.
    """
    loose = len(paints) > 1 and all(MEDIA[paint.medium].loose for paint in paints)
    made, first = (mingled if loose else mixed)(paints, parts), paints[0]
    g, k1, k2 = (float(value) for value in (made.surface.g, made.surface.k1, made.surface.k2))
    weakest = min(paint.knowledge for paint in paints)
    uses = {paint.use for paint in paints}
    shares = np.asarray(parts, dtype=float) / sum(parts)
    return Paint(
        identity, name, first.medium, first.finish, made.K, made.S, g, weakest, "", k1, k2, can=all(paint.can for paint in paints),
        use=uses.pop() if len(uses) == 1 else "paint", keep=_mean_keep(paints, shares) if loose or len(paints) == 1 else None, thinner_share=float(shares @ [paint.thinner_share for paint in paints]),
    )  # fmt: skip


def _mean_keep(paints: Sequence[Paint], shares: FloatArray) -> float | None:
    """What the first varnish leaves of powders mixed by area; None where nothing was learnt of any, so that the usual holds."""
    if all(paint.keep is None for paint in paints):
        return None
    kept = [usual_keep(float(p.masstone_lab()[0])) if p.keep is None else p.keep for p in paints]
    return float(shares @ kept)
