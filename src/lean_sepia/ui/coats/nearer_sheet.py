"""The sheet *What would bring it nearer*: each change of a hand with its field before and after beside the target, done with one click."""

from __future__ import annotations

from lean_sepia.answers.nearer.change import Planned
from lean_sepia.answers.nearer.finish import solve
from lean_sepia.answers.nearer.offers import Found, offers_for
from lean_sepia.answers.nearer.outcome import Offer
from lean_sepia.answers.nearer.told import remarks
from lean_sepia.answers.stages import AWAY_WORDS, STAGES, last_compared
from lean_sepia.arrays import triple
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.language import N_, _, ngettext
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.panel import button, label
from lean_sepia.ui.kit.plots.offer_rows import OfferRow, OfferRows
from lean_sepia.ui.kit.sheet import Sheet
from lean_sepia.ui.shell.session import Session

_MOST_SHOWN, _TOLD_DE00, _NO_TIME_MIN = 6, 0.1, 0.5


@guarded
class NearerSheet(Sheet):
    """What would bring a zone nearer, and all that shares its cups; it is asked anew whenever the document or the zone changes."""

    def __init__(self, session: Session) -> None:
        super().__init__("", _("What would bring it nearer"))
        self._session = session
        self._planned: Planned | None = None
        self.offers: list[Offer] = []
        self._said = label("", "second", wrap=True)
        self.rows = OfferRows()
        self.rows.setAccessibleName(_("What would bring it nearer"))
        self._rest = label("", "second", wrap=True)
        self.add(self._said)
        self.add(self.rows)
        self.add(self._rest)
        self.body.addStretch(1)
        self.do, leave = button(_("Do this"), "main"), button(_("Leave it"))
        self.whole = button(
            _("Solve as a whole"), "",
            _("Bases, fades, filters and dust of all zones together, in whole drops and passes; what is done stays"),
        )  # fmt: skip
        self.do.clicked.connect(self.do_it)
        self.whole.clicked.connect(self.solve_whole)
        leave.clicked.connect(self.left)
        self.buttons([self.do, self.whole, leave])
        session.changed.connect(self.ask)
        session.zone_changed.connect(self.ask)
        session.shelf_changed.connect(self.ask)
        self.ask()

    def ask(self, *_why: object) -> None:
        """Ask anew for the chosen zone; until the answer is there the old one stays, dimmed."""
        session, zone = self._session, self._session.zone
        if not zone:
            self.leave()
            return
        name = session.project.zone(zone).name
        self.set_caption(_("{0}, and all that shares its cups").format(name))
        self.rows.setEnabled(False)
        self.do.setEnabled(False)
        self.whole.setEnabled(True)
        project, shelf = session.project, tuple(session.shelf.paints())

        def work(progress: object) -> tuple[Planned, Found]:
            planned = Planned.of(project, shelf, [zone])
            return planned, offers_for(planned, progress)  # type: ignore[arg-type]

        session.jobs.start("nearer", work, lambda answer: self._show(*answer))

    def _show(self, planned: Planned, found: Found) -> None:
        zone = planned.zones[0] if planned.zones else ""
        if zone != self._session.zone or planned.project is not self._session.project:
            return
        self._planned = planned
        self.offers = [offer for offer in found.offers if offer.sure and zone in offer.outcome.zones][
            :_MOST_SHOWN
        ]
        self.rows.setEnabled(True)
        self.rows.setVisible(bool(self.offers))
        self.rows.show_rows([self._row(offer, zone) for offer in self.offers])
        self.do.setEnabled(bool(self.offers))
        self._said.setText(self._now(zone))
        said = list(remarks(planned, found))
        if self.offers:
            said.append(_("Nothing else gains more than its own ±."))
        self._rest.setText(" ".join(said))

    def solve_whole(self) -> None:
        """Work out the finish of all zones together; the answer is one offer that is done with one click."""
        session = self._session
        self.rows.setEnabled(False)
        self.do.setEnabled(False)
        self.whole.setEnabled(False)
        project, shelf = session.project, tuple(session.shelf.paints())

        def work(progress: object) -> tuple[Planned, Offer | None]:
            return Planned.of(project, shelf), solve(project, shelf, progress=progress)  # type: ignore[arg-type]

        session.jobs.start("nearer", work, lambda answer: self._show_whole(*answer))

    def _show_whole(self, planned: Planned, offer: Offer | None) -> None:
        zone = self._session.zone
        self.whole.setEnabled(True)
        if planned.project is not self._session.project or not zone:
            return
        self._planned = planned
        self.offers = [offer] if offer is not None else []
        here = offer is not None and zone in offer.outcome.labs
        self.rows.setEnabled(True)
        self.rows.setVisible(here)
        self.rows.show_rows([self._row(offer, zone)] if offer is not None and here else [])
        self.do.setEnabled(offer is not None)
        if offer is None:
            self._said.setText(_("Solved as a whole it comes no nearer."))
            self._rest.setText("")
            return
        self._said.setText(_("All zones solved as a whole: {0:.1f} nearer on average.").format(offer.gain))
        each = [
            _("{0} {1:.1f} → {2:.1f}").format(planned.project.zone(name).short, before, after)
            for name, (before, after) in offer.outcome.zones.items()
        ]
        self._rest.setText(_(", ").join(each) + ("" if here else ". " + offer.words))

    def _now(self, zone: str) -> str:
        now = last_compared(self._session.cut(zone))
        if now is None or now.de00 is None:
            return ""
        said = [_("Now {0}.").format(_(AWAY_WORDS[now.stage]).format(now.de00))]
        if now.target.de00_90 is not None:
            said.append(_("That is known to ±{0:.1f}.").format(now.target.de00_90))
            if now.de00 <= now.target.de00_90:
                said.append(_("The miss lies inside it: what follows may mend nothing."))
        return " ".join(said)

    def _row(self, offer: Offer, zone: str) -> OfferRow:
        assert self._planned is not None
        targets, labs = self._planned.targets[zone], offer.outcome.labs[zone]
        stage = next(name for name in reversed(STAGES) if name in labs)
        now, after = labs[stage]
        left = float(delta_e00(after, targets[stage].lab))
        was, becomes = offer.outcome.zones[zone]
        return OfferRow(
            offer.words, triple(now), targets[stage].lab, triple(after), f"{left:.1f}",
            (*self._gains(offer, zone, was - becomes, stage), _cost(offer), *offer.outcome.harms),
        )  # fmt: skip

    def _gains(self, offer: Offer, zone: str, gain: float, shown: str) -> tuple[str, ...]:
        """What it brings over all stages, and which of the others it takes where."""
        assert self._planned is not None
        said = [_("on the whole {0:.1f} nearer").format(gain)]
        for stage, (now, after) in offer.outcome.labs[zone].items():
            target = self._planned.targets[zone][stage].lab
            before, then = float(delta_e00(now, target)), float(delta_e00(after, target))
            if stage != shown and abs(then - before) >= _TOLD_DE00:
                said.append(_(_STAGE[stage]).format(before, then))
        others = len(offer.outcome.zones) - 1
        if others:
            said.append(ngettext("with {0} other zone", "with {0} other zones", others).format(others))
        return ("; ".join(said),)

    def do_it(self) -> None:
        """Lay the chosen offer, as one edit that can be undone."""
        if not self.do.isEnabled() or not self.offers:
            return
        offer = self.offers[self.rows.current]
        self._session.edit(offer.words if offer.changes < 3 else _("Solve the finish as a whole"), offer.edit)


_STAGE = {
    "fresh": N_("fresh {0:.1f} → {1:.1f}"), "exposed": N_("faded {0:.1f} → {1:.1f}"), "seen": N_("as seen {0:.1f} → {1:.1f}"),
}  # fmt: skip


def _cost(offer: Offer) -> str:
    """What an offer costs: time at the bench, bottles to open."""
    said = []
    if abs(offer.outcome.minutes) < _NO_TIME_MIN:
        said.append(_("no more time"))
    elif offer.outcome.minutes > 0:
        said.append(_("{0:.0f} min more").format(offer.outcome.minutes))
    else:
        said.append(_("{0:.0f} min less").format(-offer.outcome.minutes))
    if offer.bottles:
        said.append(_("needs {0}").format(", ".join(offer.bottles)))
    return ", ".join(said)
