"""The first sheets of a workbook (Office Open XML, ISO/IEC 29500) as tables: values only, within bounds of size and time."""

import io
import zipfile
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any

from openpyxl import load_workbook

LARGEST_WORKBOOK_BYTES = 16 * 2**20
LARGEST_UNPACKED_BYTES = 256 * 2**20
MOST_PARTS = 2_000
MOST_SHEETS = 20
MOST_CELLS = 2_000_000


@dataclass(frozen=True)
class Sheet:
    """A sheet as the text of a table: cells told apart by tabs, rows by line feeds."""

    name: str
    text: str


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
        raise ValueError(f"expected a workbook of at most {LARGEST_WORKBOOK_BYTES:,} bytes, got {len(content):,}")
    try:
        with zipfile.ZipFile(io.BytesIO(content)) as archive:
            parts = archive.infolist()
    except (zipfile.BadZipFile, ValueError, OSError):
        raise ValueError("expected a workbook (.xlsx), got another file") from None
    if len(parts) > MOST_PARTS:
        raise ValueError(f"expected a workbook of at most {MOST_PARTS:,} parts, got {len(parts):,}")
    unpacked = sum(part.file_size for part in parts)
    if unpacked > LARGEST_UNPACKED_BYTES:
        raise ValueError(f"expected a workbook that unpacks to at most {LARGEST_UNPACKED_BYTES:,} bytes, got {unpacked:,}")
    if any(part.flag_bits & 1 for part in parts):
        raise ValueError("expected a workbook without a password, got an encrypted one")


class _Budget:
    """Counts cells over all sheets."""

    def __init__(self) -> None:
        self._left = MOST_CELLS

    def spend(self, cells: int) -> None:
        self._left -= cells
        if self._left < 0:
            raise ValueError(f"expected a workbook of at most {MOST_CELLS:,} cells, got more")


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
