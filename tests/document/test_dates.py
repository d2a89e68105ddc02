"""Dates of photos against the years of a scheme."""

from datetime import date

import pytest

from lean_sepia.document.dates import date_span, verdict
from lean_sepia.errors import EditError


@pytest.mark.parametrize(
    ("text", "span"),
    [
        ("1957", (date(1957, 1, 1), date(1957, 12, 31))),
        ("1956-02", (date(1956, 2, 1), date(1956, 2, 29))),
        ("1957-9-14", (date(1957, 9, 14), date(1957, 9, 14))),
        ("1956/1958-03", (date(1956, 1, 1), date(1958, 3, 31))),
        ("  ", None),
    ],
)
def test_spans(text, span):
    assert date_span(text) == span


@pytest.mark.parametrize("text", ["yesterday", "1957-13", "57", "1958/1956", "0000", "1957-02-30", "9999"])
def test_what_is_no_date_is_refused(text):
    with pytest.raises(EditError):
        date_span(text)


@pytest.mark.parametrize(
    ("taken", "worn", "found"),
    [
        ("1957-09", ("1954", "1963"), "possible"),
        ("1951-06", ("1954", "1963"), "contradicted"),
        ("1970", ("1954", "1963"), "contradicted"),
        ("1950/1954", ("1954", "1963"), "unlikely"),
        ("1953/1956", ("1954", "1963"), "possible"),
        ("1957", ("", ""), "unknown"),
        ("", ("1954", "1963"), "unknown"),
        ("1980", ("1964", ""), "possible"),
    ],
)
def test_verdicts(taken, worn, found):
    assert verdict(taken, *worn) == found
