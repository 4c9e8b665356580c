"""`change`: a design with named edits made, as a pipeline makes them: all of them, or nothing is printed."""

import sys
from argparse import ArgumentParser, Namespace
from pathlib import Path

from shelf_core.commands.common import design_argument, read
from shelf_core.design.document import Design
from shelf_core.design.editing import with_changes
from shelf_core.design.edits.commands import changes_by, command_of
from shelf_core.design.faults import DesignError, Fault
from shelf_core.design.reading import plain_json
from shelf_core.formats.documents import document_text


def arguments(parser: ArgumentParser) -> None:
    """A design, and the edits one after another."""
    design_argument(parser)
    parser.add_argument(
        "edits",
        nargs="+",
        metavar="EDIT",
        help='a named edit as JSON, such as {"do": "move-copy", "route": "files", "copy": "away", "target": "cellar"}',
    )
    parser.add_argument("--to", choices=["json", "yaml"], default="json", help="the format of what is printed")
    parser.add_argument("--out", metavar="FILE", help="write here and not to standard output")


def run(chosen: Namespace) -> int:
    """Print the design as it is after all edits, each checked as it is made."""
    design = read(chosen.design)
    for number, text in enumerate(chosen.edits, 1):
        design = _changed(design, text, number)
    content = document_text(design, chosen.to)
    if chosen.out is None:
        sys.stdout.write(content)
        return 0
    part = Path(f"{chosen.out}.part")
    part.write_text(content)
    part.replace(chosen.out)
    return 0


def _changed(design: Design, text: str, number: int) -> Design:
    try:
        return with_changes(design, changes_by(design, command_of(plain_json(text))))
    except DesignError as error:
        raise DesignError([Fault((f"edit {number}", *one.path), one.message) for one in error.faults]) from None
