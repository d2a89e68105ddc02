"""The sheet on which the whole model is weathered with one slider, from clean to far too much."""

from __future__ import annotations

from lean_sepia.answers.wearing.whole_model import MOST, SUBTLE, Levels, levels_of, usual_level, weathered
from lean_sepia.document.model import Project
from lean_sepia.language import _
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.fields.flow import Flow
from lean_sepia.ui.kit.fields.wheel import Slider
from lean_sepia.ui.kit.panel import button, label, row
from lean_sepia.ui.kit.sheet import Sheet
from lean_sepia.ui.kit.swatch import Fields
from lean_sepia.ui.shell.session import Session

_STEP = 20  # of the slider to one level
_SAME = 0.5 / _STEP


@guarded
class WholeSheet(Sheet):
    """One slider for fades, filters, washes, marks and dust together; laying it is one edit."""

    def __init__(self, session: Session) -> None:
        super().__init__(_("the whole model"), _("How heavy"))
        self._session = session
        self.levels: Levels | None = None
        self._said = label("", "second", wrap=True)
        self.slider = Slider()
        self.slider.setRange(0, round(MOST * _STEP))
        self.slider.setPageStep(_STEP // 4)
        self.slider.setAccessibleName(_("How heavy the whole model is weathered"))
        self.slider.setValue(_STEP)
        self.slider.valueChanged.connect(lambda _value: self._show())
        self.add(
            label(
                _("Light kinds come first: fade, filter, wash, marks, dust. What people know it by stays."),
                "second",
                wrap=True,
            )
        )
        self.add(self.slider)
        self.add(
            row(
                label(_("clean"), "second"),
                None,
                label(_("as planned"), "second"),
                None,
                label(_("far too much"), "second"),
            )
        )
        self._add_places()
        self.do, leave = button(_("Lay it so"), "main"), button(_("Leave it"))
        self.do.clicked.connect(self.lay_it)
        leave.clicked.connect(self.left)
        self.buttons([self.do, leave])
        session.changed.connect(self.ask)
        self.ask()

    def _add_places(self) -> None:
        """The usual places of the slider, and each zone as planned and so."""
        self._stops = Flow()
        self._places = {
            name: button(words, "tool") for name, words in (("subtle", _("Subtle")), ("photo", _("As the photo")), ("taste", _("As planned")))
        }  # fmt: skip
        for name, place in self._places.items():
            place.clicked.connect(lambda _on=False, name=name: self.go_to(name))
            self._stops.addWidget(place)
        self.add(self._stops)
        self._fields = Fields(margin=10, height=64)
        self._zones = label("", "second", wrap=True)
        self._planned = Fields(margin=10, height=44)
        self.add(label(_("as planned, and so"), "caption"))
        self.add(self._planned)
        self.add(self._fields)
        self.add(self._zones)
        self.add(self._said)
        self.body.addStretch(1)

    @property
    def level(self) -> float:
        """The level the slider is at; 1 is as planned."""
        return self.slider.value() / _STEP

    def ask(self) -> None:
        """Work out all levels anew."""
        project = self._session.project
        self.do.setEnabled(False)
        self._session.jobs.start(
            "whole model",
            lambda progress: (project, levels_of(project, progress)),
            lambda found: self._answered(*found),
        )

    def _answered(self, project: Project, levels: Levels) -> None:
        if project is self._session.project:
            self.levels = levels
            self._places["photo"].setVisible(levels.as_photo is not None)
            self._show()

    def go_to(self, name: str) -> None:
        """Go to a usual place: subtle, as the photo, or as planned."""
        if self.levels is not None:
            level = {"subtle": SUBTLE, "photo": self.levels.as_photo or 1.0}.get(name, 1.0)
            self.slider.setValue(round(level * _STEP))

    def _show(self) -> None:
        levels = self.levels
        if levels is None:
            return
        here, planned, project = levels.at(self.level), levels.planned, self._session.project
        self.do.setEnabled(abs(self.level - 1) > _SAME)
        zones = [zone for zone in project.zones if zone.id in here.labs]
        self._fields.show_labs(
            [here.labs[zone.id] for zone in zones],
            _("Each zone as it would be seen"),
            [zone.short for zone in zones],
        )
        self._planned.show_labs(
            [planned.labs.get(zone.id) for zone in zones],
            _("Each zone as it is planned"),
            [zone.short for zone in zones],
        )
        self._zones.setText(_(" | ").join(zone.short for zone in zones))
        said = [_("{0:.1f} % worn in marks.").format(100 * here.worn)]
        if here.veiled:
            said.append(_("A veil on {0:.0f} %.").format(100 * here.veiled))
        if here.contrast is not None:
            said.append(_("{0:.0f} % of the contrast between tones is left.").format(100 * here.contrast))
        hours = (here.minutes - planned.minutes) / 60
        said.append(_("{0:.1f} hours at the bench in all, {1:+.1f}.").format(here.minutes / 60, hours))
        if here.missed is not None:
            said.append(_("{0:.1f} from what the photo shows, on average.").format(here.missed))
        if levels.too_much is not None and self.level >= levels.too_much - _SAME:
            said.append(_("Beyond the stop mark: tones run together, or more than a fifth is worn."))
        usual = usual_level(project, levels)
        said.append(_("Your way of working usually stops at {0:.0f} %.").format(100 * usual))
        self._said.setText(" ".join(said))

    def lay_it(self) -> None:
        """Lay it so heavily, as one edit."""
        level = self.level
        if self.do.isEnabled():
            self.slider.setValue(_STEP)
            self._session.edit(
                _("Weather the whole model to {0:.0f} %").format(100 * level), lambda p: weathered(p, level)
            )
