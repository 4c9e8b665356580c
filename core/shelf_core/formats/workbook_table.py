"""The first sheets of a workbook (Office Open XML, ISO/IEC 29500) as tables: values only, within bounds of size and time."""

import io
import re
import zipfile
import zlib
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any

from openpyxl import load_workbook

from shelf_core.digits import grouped

LARGEST_WORKBOOK_BYTES = 16 * 2**20
LARGEST_UNPACKED_BYTES = 64 * 2**20
MOST_PARTS = 2_000
MOST_SHEETS = 20
MOST_CELLS, MOST_ROWS, MOST_TEXTS = 400_000, 60_000, 150_000
"""Reading so many takes two seconds at the most."""


@dataclass(frozen=True)
class Sheet:
    """A sheet as the text of a table: cells told apart by tabs, rows by line feeds. `read_as` says how a text file was read."""

    name: str
    text: str
    read_as: str = ""


def tables_of(content: bytes) -> list[Sheet]:
    """The tables of a file: the sheets of a workbook, or the one that a text is, in whatever letters it was written.

    Raises ValueError as `sheets_of` does, and for a file that is neither.
    """
    if content[:2] == b"PK":
        return sheets_of(content)
    text, read_as = text_of(content)
    return [Sheet("", text, read_as)]


def text_of(content: bytes) -> tuple[str, str]:
    """A text and the letters that it was written in: UTF-8, UTF-16 with or without its mark, else Windows-1252.

    Raises ValueError for what is no text.
    """
    if content[:2] in (b"\xff\xfe", b"\xfe\xff"):
        return content.decode("utf-16"), "UTF-16"
    try:
        found = content.decode("utf-8-sig")
        if "\0" not in found:
            return found, "UTF-8"
    except UnicodeDecodeError:
        pass
    for order, nothing in (("utf-16-le", content[1::2]), ("utf-16-be", content[::2])):
        if len(content) % 2 == 0 and nothing.count(0) * 2 > len(nothing):
            return content.decode(order, "replace"), "UTF-16"
    if b"\0" in content:
        raise ValueError("expected a table as text or a workbook, got another file")
    return content.decode("cp1252", "replace"), "Windows-1252"


def sheets_of(content: bytes) -> list[Sheet]:
    """The sheets of a workbook that hold anything. A formula counts as the value that was last computed for it.

    Raises ValueError for what is no workbook, for one that is too large, that unpacks to far more than it is, or that has too
    many sheets or cells.
    """
    _check_archive(content)
    try:
        book = load_workbook(io.BytesIO(content), read_only=True, data_only=True, keep_links=False)
    except Exception as error:
        # The library raises whatever its parsers raise; to whoever sent the file it is all the same.
        raise ValueError(f"expected a workbook (.xlsx), got a file that cannot be read: {_short(error)}") from None
    if len(book.sheetnames) > MOST_SHEETS:
        raise ValueError(f"expected at most {MOST_SHEETS} sheets, got {len(book.sheetnames)}")
    budget = _Budget()
    try:
        found = [Sheet(sheet.title, _text(sheet.iter_rows(values_only=True), budget)) for sheet in book.worksheets]
    except ValueError:
        raise
    except Exception as error:
        raise ValueError(f"expected a workbook (.xlsx), got a sheet that cannot be read: {_short(error)}") from None
    finally:
        book.close()
    return [sheet for sheet in found if sheet.text]


def _check_archive(content: bytes) -> None:
    """What the archive says of itself is checked before anything is unpacked, and unpacking stops at what it says."""
    if len(content) > LARGEST_WORKBOOK_BYTES:
        raise ValueError(f"expected a workbook of at most {grouped(LARGEST_WORKBOOK_BYTES)} bytes, got {grouped(len(content))}")
    try:
        with zipfile.ZipFile(io.BytesIO(content)) as archive:
            parts = archive.infolist()
            _check_parts(archive, parts)
    except (zipfile.BadZipFile, OSError, EOFError, zlib.error, NotImplementedError, RuntimeError):
        raise ValueError("expected a workbook (.xlsx), got another file") from None


def _check_parts(archive: zipfile.ZipFile, parts: list[zipfile.ZipInfo]) -> None:
    if len(parts) > MOST_PARTS:
        raise ValueError(f"expected a workbook of at most {grouped(MOST_PARTS)} parts, got {grouped(len(parts))}")
    unpacked = sum(part.file_size for part in parts)
    if unpacked > LARGEST_UNPACKED_BYTES:
        raise ValueError(
            f"expected a workbook that unpacks to at most {grouped(LARGEST_UNPACKED_BYTES)} bytes, got {grouped(unpacked)}"
        )
    if any(part.flag_bits & 1 for part in parts):
        raise ValueError("expected a workbook without a password, got an encrypted one")
    for part in parts:
        if part.filename.endswith((".xml", ".XML")):
            _check_content(archive, part)


def _check_content(archive: zipfile.ZipFile, part: zipfile.ZipInfo) -> None:
    """Rows, cells and texts are counted in the bytes: counting takes no time, reading them does."""
    rows = cells = texts = 0
    end = b""
    with archive.open(part) as stream:
        while block := stream.read(2**20):
            # What is cut by the end of a block is counted with the next one.
            whole = end + block
            rows += whole.count(b"<row") - end.count(b"<row")
            cells += whole.count(b"<c ") + whole.count(b"<c>") - end.count(b"<c ") - end.count(b"<c>")
            texts += whole.count(b"<si") - end.count(b"<si")
            far = max((int(found) for found in re.findall(rb'<row[^>]{0,40}? r="(\d{1,9})"', whole)), default=0)
            rows = max(rows, far)
            end = whole[-64:]
    for count, most, what in ((rows, MOST_ROWS, "rows"), (cells, MOST_CELLS, "cells"), (texts, MOST_TEXTS, "texts")):
        if count > most:
            raise ValueError(f"expected a workbook of at most {grouped(most)} {what} in a sheet, got {grouped(count)}")


class _Budget:
    """Counts cells over all sheets."""

    def __init__(self) -> None:
        self._left = MOST_CELLS

    def spend(self, cells: int) -> None:
        self._left -= cells
        if self._left < 0:
            raise ValueError(f"expected a workbook of at most {grouped(MOST_CELLS)} cells, got more")


def _text(rows: Iterator[tuple[Any, ...]], budget: _Budget) -> str:
    lines: list[str] = []
    for row in rows:
        budget.spend(max(1, len(row)))
        lines.append("\t".join(map(_cell, row)).rstrip("\t"))
    return "\n".join(lines).strip("\n")


def _cell(value: Any) -> str:
    if value is None:
        return ""
    if isinstance(value, datetime):
        return value.isoformat(timespec="minutes") if value.hour or value.minute else value.date().isoformat()
    if isinstance(value, date):
        return value.isoformat()
    if isinstance(value, float) and value.is_integer() and abs(value) < 1e15:
        return str(int(value))
    text = " ".join(str(value).split())
    return f'"{text.replace(chr(34), chr(34) * 2)}"' if text.startswith('"') else text


def _short(error: Exception) -> str:
    return str(error).splitlines()[0][:120] if str(error) else type(error).__name__
