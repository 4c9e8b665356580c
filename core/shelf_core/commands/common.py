"""What commands share: reading a design, saying how far a forecast is, writing rows as they come."""

import csv
import difflib
import json
import sys
from argparse import ArgumentParser
from collections.abc import Iterable, Iterator, Sequence
from contextlib import contextmanager
from pathlib import Path
from typing import Any, Protocol, TypeVar

from shelf_core.commands.people import Cell, rows_for_people
from shelf_core.design.document import Design
from shelf_core.design.faults import DesignError, Fault
from shelf_core.engine.memory import Memory
from shelf_core.engine.watching import Watch, nobody
from shelf_core.forecast.forecast import Forecast, forecast
from shelf_core.formats.documents import read_document


class WithId(Protocol):
    """A part of a design that has an id."""

    @property
    def id(self) -> str:
        """What it is known by."""
        ...


Part = TypeVar("Part", bound=WithId)


def design_argument(parser: ArgumentParser, name: str = "design") -> None:
    """A design to be read."""
    parser.add_argument(name, help="a design document (JSON or YAML), or - for standard input")


def json_argument(parser: ArgumentParser, words: str = "print JSON") -> None:
    """Whether JSON is wanted."""
    parser.add_argument("--json", action="store_true", help=words)


def read(path: str, *, name_file: bool = False) -> Design:
    """The design in a file, or on standard input. Raises DesignError, whose lines `name_file` begins with it; OSError."""
    content = sys.stdin.buffer.read() if path == "-" else Path(path).read_bytes()
    try:
        return read_document(content)
    except DesignError as error:
        if not name_file:
            raise
        raise DesignError([Fault((path, *one.path), one.message) for one in error.faults]) from None


def forecast_of(path: str, memory: Memory | None = None, *, name_file: bool = False) -> Forecast:
    """The forecast of a design in a file; how far it is is said on a terminal only."""
    return computed(read(path, name_file=name_file), memory)


def computed(design: Design, memory: Memory | None = None) -> Forecast:
    """The forecast of a design, told as it goes. Raises DesignError for one that asks for more than is computed."""
    with progress(f"forecasting {design.name}") as watch:
        return forecast(design, memory, watch)


@contextmanager
def progress(words: str) -> Iterator[Watch]:
    """A watch that says on standard error how far something is, if a person can see it there."""
    if not sys.stderr.isatty():
        yield nobody
        return

    def watch(done: int, of: int) -> None:
        print(f"\r{words}: {100 * done // max(1, of)} %", end="", file=sys.stderr, flush=True)

    try:
        yield watch
    finally:
        print("\r\x1b[K", end="", file=sys.stderr, flush=True)


def write_rows(columns: Sequence[str], rows: Iterable[Sequence[Cell]], *, as_json: bool) -> None:
    """Rows as they come: CSV under a line of names, or one JSON object a line; a table for a person at a terminal."""
    if as_json:
        for row in rows:
            sys.stdout.write(json.dumps(dict(zip(columns, row, strict=True)), ensure_ascii=False) + "\n")
        return
    if sys.stdout.isatty():
        sys.stdout.writelines(f"{line}\n" for line in rows_for_people(columns, rows))
        return
    table = csv.writer(sys.stdout, lineterminator="\n")
    table.writerow(columns)
    table.writerows(rows)


def write_json(value: Any) -> None:
    """One JSON document, for people and programs."""
    sys.stdout.write(json.dumps(value, ensure_ascii=False, indent=2) + "\n")


def write_whole(content: bytes, out: str | None) -> None:
    """Write something to a file, whole or not at all; to standard output where no file is named."""
    if out is None:
        sys.stdout.write(content.decode())
        return
    part = Path(f"{out}.part")
    part.write_bytes(content)
    part.replace(out)


def named(option: str, wanted: str, known: Sequence[Part], what: str) -> Part:
    """The part of a design that an option names by its id. Raises DesignError that says which are written like it."""
    found = next((one for one in known if one.id == wanted), None)
    if found is None:
        ids = [one.id for one in known]
        like = difflib.get_close_matches(wanted, ids, n=2)
        meant = f"; did you mean {' or '.join(like)}?" if like else f" ({', '.join(ids) or 'none'})"
        raise refuse(option, f'expected the id of a {what} of this design, got "{wanted}"{meant}')
    return found


def refuse(path: str, message: str) -> DesignError:
    """A fault of what was asked, at a name of the command line."""
    return DesignError([Fault((path,), message)])
