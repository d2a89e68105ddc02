"""The one gate for files: regular ones only, of a bounded size, read as text or bytes; written whole or not at all."""

from __future__ import annotations

import contextlib
import csv
import errno
import io
import json
import os
import re
import secrets
import stat
from collections.abc import Iterator, Sequence
from pathlib import Path
from typing import Any

from lean_sepia.errors import BadInputError
from lean_sepia.language import _

MOST_TEXT, MOST_PICTURE = 64 << 20, 1 << 30
"""The largest file that is read, in bytes: lists, plans and shelves; pictures."""
_MOST_DEEP, _LONGEST_NAME, _NEW_MODE = 60, 180, 0o666


def shown(path: str | Path) -> str:
    """A path as it can be written on a screen: what is no text in its name becomes a question mark."""
    text = os.fsdecode(path).encode("utf-8", "replace").decode()
    return "".join(letter if letter.isprintable() else "?" for letter in text)


def read_bytes(path: str | Path, what: str, error: type[BadInputError], most: int = MOST_TEXT) -> bytes:
    """What a regular file holds; `what` names it in messages, such as "The shelf".

    Raises
    ------
    error
        The file is missing, cannot be read, is a folder, device or pipe, or has more than `most` bytes.
    """
    if not os.fspath(path):
        raise error(_("{0} is missing: an empty text is no path. Name a file.").format(what))
    try:
        # A pipe without a writer would wait for ever; a device may never end.
        handle = os.open(path, os.O_RDONLY | os.O_CLOEXEC | os.O_NONBLOCK)
    except FileNotFoundError:
        raise error(_("There is no file {0}. Check the path.").format(shown(path))) from None
    except OSError as fault:
        raise error(
            _("{0} {1} cannot be read: {2}.").format(what, shown(path), fault.strerror or fault)
        ) from None
    except ValueError:
        raise error(_("{0} {1} has no name that a file can have.").format(what, shown(path))) from None
    try:
        with open(handle, "rb", buffering=0) as file:
            state = os.fstat(handle)
            if not stat.S_ISREG(state.st_mode):
                kind = _("a folder") if stat.S_ISDIR(state.st_mode) else _("a device or a pipe")
                raise error(_("{0} {1} is {2}, not a file. Choose a file.").format(what, shown(path), kind))
            data = file.read(min(state.st_size, most) + 1)
            while data and len(data) <= most and (more := file.read(most + 1 - len(data))):
                data += more
    except OSError as fault:
        raise error(
            _("{0} {1} cannot be read: {2}.").format(what, shown(path), fault.strerror or fault)
        ) from None
    if len(data) > most:
        words = _("{0} {1} is larger than {2} MB, more than is read. Choose a smaller one.")
        raise error(words.format(what, shown(path), most >> 20))
    return data


def read_text(path: str | Path, what: str, error: type[BadInputError]) -> str:
    """The text of a UTF-8 file, a byte-order mark left out; `what` names it in messages, such as "The shelf".

    Raises
    ------
    error
        As for `read_bytes`, or the file is not UTF-8 text.
    """
    data = read_bytes(path, what, error)
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError as fault:
        byte = fault.object[fault.start]
        raise error(
            _("{0} {1} is not UTF-8 text (byte {2} is {3:#04x}). Save it as UTF-8.").format(
                what, shown(path), fault.start, byte
            )
        ) from None


def read_json(path: str | Path, what: str, error: type[BadInputError]) -> Any:
    """What a JSON file holds; `what` names it in messages.

    Raises
    ------
    error
        The file is missing, is not UTF-8 text or not JSON.
    """
    return parse_json(read_text(path, what, error), path, what, error)


def parse_json(text: str, path: str | Path, what: str, error: type[BadInputError]) -> Any:
    """What a JSON text read from a file holds: finite numbers, whole characters, no deeper than a person would nest.

    Raises
    ------
    error
        The text is not JSON, or holds what no form here can mean.
    """
    try:
        return strict_json(text)
    except json.JSONDecodeError as fault:
        raise error(
            _("{0} {1} is not JSON: {2} in line {3}.").format(what, shown(path), fault.msg, fault.lineno)
        ) from None
    except ValueError as fault:
        raise error(_("{0} {1} cannot be used: {2}.").format(what, shown(path), fault)) from None


def strict_json(text: str) -> Any:
    """Parse JSON that is to be trusted no further than its form.

    Raises
    ------
    ValueError
        It is not JSON, or holds NaN, an infinity, a number of hundreds of digits, half a character or is nested too deep.
    """
    try:
        data = json.loads(text, parse_constant=_not_finite, parse_int=_whole, parse_float=_finite)
    except RecursionError:
        raise ValueError(_("it is nested too deep")) from None
    _check_depth_and_letters(data)
    return data


def _not_finite(name: str) -> float:
    raise ValueError(_("it holds {0}, which is not a finite number").format(name))


def _whole(digits: str) -> int:
    if len(digits) > 18:
        raise ValueError(_("it holds a number of {0} digits").format(len(digits)))
    return int(digits)


def _finite(digits: str) -> float:
    value = float(digits)
    if not abs(value) < 1e300:
        raise ValueError(_("it holds the number {0}, which is too large").format(digits[:20]))
    return value


def _check_depth_and_letters(data: Any) -> None:
    level = [data]
    for _depth in range(_MOST_DEEP):
        below: list[Any] = []
        for item in level:
            if isinstance(item, str):
                if not item.isascii() and any("\ud800" <= letter <= "\udfff" for letter in item):
                    raise ValueError(_("it holds half a character ({0})").format(shown(item)[:40]))
            elif isinstance(item, dict):
                below += item
                below += item.values()
            elif isinstance(item, list):
                below += item
        level = below
        if not level:
            return
    raise ValueError(_("it is nested too deep"))


def csv_rows(
    text: str, path: str | Path, what: str, needed: Sequence[str], error: type[BadInputError]
) -> Iterator[tuple[int, dict[str, str]]]:
    """Line number and cells of every row of a CSV text that is not blank; commas, semicolons or tabs between the cells.

    Raises
    ------
    error
        A needed column is missing, or a row has more cells than there are columns.
    """
    head = text.split("\n", 1)[0]
    delimiter = max(",;\t", key=head.count)
    reader = csv.DictReader(io.StringIO(text.replace("\0", "")), delimiter=delimiter, skipinitialspace=True)
    columns = [(name or "").strip() for name in _header(reader, path, what, error)]
    missing = [name for name in needed if name not in columns]
    if missing:
        raise error(
            _("{0} {1} lacks the column {2!r}. It needs {3}; found {4}.").format(
                what, path, missing[0], ", ".join(needed), ", ".join(columns) or "nothing"
            )
        )
    reader.fieldnames = columns
    for line, row in enumerate(_rows(reader, path, what, error), start=2):
        cells = {key: plain_cell((value or "").strip()) for key, value in row.items() if key is not None}
        if None in row:
            raise error(
                _("{0} {1}, line {2}: more values than columns. Put text with commas in quotes.").format(
                    what, path, line
                )
            )
        if any(cells.values()):
            yield line, cells


def _header(
    reader: csv.DictReader[str], path: str | Path, what: str, error: type[BadInputError]
) -> Sequence[str]:
    try:
        return reader.fieldnames or ()
    except csv.Error as fault:
        raise error(_("{0} {1}, line 1: {2}.").format(what, shown(path), fault)) from None


def _rows(
    reader: csv.DictReader[str], path: str | Path, what: str, error: type[BadInputError]
) -> Iterator[dict[str, str]]:
    try:
        yield from reader
    except csv.Error as fault:
        raise error(
            _("{0} {1}, line {2}: {3}.").format(what, shown(path), reader.line_num + 1, fault)
        ) from None


_RUNS = ("=", "+", "-", "@", "\t", "\r")


def safe_cell(value: object) -> object:
    """A cell of a table that no spreadsheet takes for a formula; `plain_cell` reads it back."""
    if not isinstance(value, str):
        return value
    bare = value.lstrip("'")
    return f"'{value}" if bare.startswith(_RUNS) and not _NUMBER.fullmatch(value) else value


def plain_cell(text: str) -> str:
    """A cell as it was before `safe_cell`."""
    return text[1:] if text.startswith("'") and text[1:].lstrip("'").startswith(_RUNS) else text


_NUMBER = re.compile(r"-?[0-9]+(\.[0-9]+)?(e[+-]?[0-9]+)?")


def one_line(text: str) -> str:
    """A name as one line of plain letters: what breaks a line or cannot be seen becomes a space."""
    return " ".join("".join(letter if letter.isprintable() else " " for letter in text).split())


def file_name(title: str, ending: str = "") -> str:
    """A title as the name of a file, `ending` added: one line, no folder, nothing hidden, not too long for a disk."""
    plain = one_line(title.replace("/", " ").replace("\\", " ")).strip(". ")
    while len(os.fsencode(plain)) > _LONGEST_NAME:
        plain = plain[:-1]
    return (plain.strip(". ") or _("Project")) + ending


def write_whole(path: str | Path, data: bytes) -> None:
    """Write a file beside its place, sync it, and rename: at any moment the old or the new one is there.

    The file beside has a name that nobody can foresee, is new, and follows no link; the mode is that of the file it replaces.

    Raises
    ------
    OSError
        The place cannot be written to, or is a link; nothing is left beside it.
    """
    target = Path(path)
    check_place(target)
    beside, handle = open_beside(target)
    try:
        with open(handle, "wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        beside.replace(target)
    except OSError:
        with contextlib.suppress(OSError):
            beside.unlink(missing_ok=True)
        raise


def write_export(path: str | Path, data: bytes, error: type[BadInputError]) -> None:
    """Write what leaves the program, as `write_whole` does.

    Raises
    ------
    error
        The place cannot be written to, with why in words.
    """
    try:
        write_whole(path, data)
    except (OSError, ValueError) as fault:
        words = _("{0} cannot be written: {1}. Choose another folder or name; nothing was written.")
        raise error(words.format(shown(path), getattr(fault, "strerror", None) or fault)) from None


def open_beside(target: Path) -> tuple[Path, int]:
    """A new, empty file beside a place, and its handle; with the mode and, where that is allowed, the owner of what is there.

    Raises
    ------
    OSError
        The folder cannot be written to.
    """
    while True:
        beside = target.with_name(f".{secrets.token_hex(12)}.part")
        try:
            handle = os.open(
                beside, os.O_RDWR | os.O_CREAT | os.O_EXCL | os.O_NOFOLLOW | os.O_CLOEXEC, _NEW_MODE
            )
        except FileExistsError:
            continue
        break
    with contextlib.suppress(OSError):
        old = os.stat(target, follow_symlinks=False)
        os.fchmod(handle, stat.S_IMODE(old.st_mode))
        if (old.st_uid, old.st_gid) != (os.geteuid(), os.getegid()):
            os.fchown(handle, old.st_uid, old.st_gid)
    return beside, handle


def check_place(target: Path) -> None:
    """Whether a file can be written at a place, as far as can be told before.

    Raises
    ------
    OSError
        It has no file name, a folder, device or pipe is there, or it is a link to somewhere else.
    """
    if not target.name or "\0" in str(target):
        raise OSError(errno.EINVAL, _("a file needs a name"))
    if target.is_symlink():
        words = _("it is a link that leads to {0}: name that file itself, or another one")
        raise OSError(errno.ELOOP, words.format(shown(os.path.realpath(target))))
    if target.is_dir():
        raise OSError(errno.EISDIR, _("a folder is there"))
    if target.exists() and not target.is_file():
        raise OSError(errno.EINVAL, _("a device or a pipe is there"))
