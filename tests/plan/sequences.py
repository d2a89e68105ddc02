"""Plans written in one line a step, as the cases are: "base A flat @brush ~water [hull] +1d+02:00 %indoors"."""

from __future__ import annotations

import re
from datetime import datetime, timedelta

from lean_sepia.plan.plan_file import Plan, parse_plan

_MEDIA = {
    "A": "acrylic-water",
    "AA": "acrylic-alcohol",
    "L": "lacquer",
    "E": "enamel",
    "O": "oil",
    "P": "pigment",
}
START = datetime(2031, 3, 3, 19)


def record(number: int, text: str) -> dict[str, object]:
    """One step of a plan file."""
    kind, medium, finish, *options = text.split()
    step: dict[str, object] = {"id": f"s{number}", "kind": kind}
    if medium in _MEDIA:
        step["material"] = {"medium": _MEDIA[medium], "finish": "flat" if finish == "-" else finish}
    elif kind == "found":
        step["material"] = {"medium": "unknown", "finish": finish}
    for option in options:
        sign, rest = option[0], option[1:]
        if sign == "@":
            step["application"] = rest
        elif sign == "~":
            step["carrier"] = rest
        elif sign == "[":
            step["zones"] = rest.rstrip("]").split(",")
        elif sign == "%":
            step["place"] = rest
        elif sign == "+":
            match = re.fullmatch(r"(?:(\d+)d\+)?(\d+):(\d+)", rest)
            assert match, text
            days, hours, minutes = (int(part or 0) for part in match.groups())
            start = START + timedelta(days=days, hours=hours, minutes=minutes)
            step["start"], step["end"] = start.isoformat(), (start + timedelta(minutes=20)).isoformat()
        else:
            raise AssertionError(text)
    return step


def sequence(*lines: str, schools: dict[str, str] | None = None) -> Plan:
    """A plan from its lines."""
    steps = [record(number, text) for number, text in enumerate(lines, start=1)]
    return parse_plan({"steps": steps, "schools": schools or {}})
