"""The one table of forms of shelf files, in the order in which they are tried: CSV takes what no other form does."""

from __future__ import annotations

from pathlib import Path

from lean_sepia.shelf.forms import cgats, csv_form, gpl, json_form
from lean_sepia.shelf.forms.form import Form

FORMS: dict[str, Form] = {
    "json": json_form.FORM,
    "cgats": cgats.FORM,
    "gpl": gpl.FORM,
    "csv": csv_form.FORM,
}


def form_of(text: str) -> Form:
    """The form that a text with anything in it is read as."""
    return next(form for form in FORMS.values() if form.readable(text))


def form_for(path: str | Path) -> Form:
    """The form that a file is written in, by its ending; the first of the table where no form has it."""
    suffix = Path(path).suffix.lower()
    forms = list(FORMS.values())
    return next((form for form in forms if suffix in form.endings), forms[0])
