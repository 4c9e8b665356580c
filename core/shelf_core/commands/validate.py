"""`validate`: whether a design is sound and can be computed, as it must be to be saved."""

import importlib
import json
import sys
from argparse import ArgumentParser, Namespace
from pathlib import Path

from shelf_core.design.faults import DesignError
from shelf_core.digits import grouped
from shelf_core.formats.digest import digest
from shelf_core.formats.documents import read_document


def arguments(parser: ArgumentParser) -> None:
    """A design, and how much is asked of it."""
    parser.add_argument("design", help="a design document (JSON or YAML), or - for standard input")
    parser.add_argument("--findings", action="store_true", help="say which rules never act, and other slips")
    parser.add_argument("--nights", action="store_true", help="with --findings: follow all nights and say what they show, too")
    parser.add_argument("--strict", action="store_true", help="with --findings: exit with 1 if there are any")
    parser.add_argument("--json", action="store_true", help="print JSON")


def run(chosen: Namespace) -> int:
    """Say what there is to say; 2 for a design that is not sound or cannot be computed, 1 for findings not to be."""
    content = sys.stdin.buffer.read() if chosen.design == "-" else Path(chosen.design).read_bytes()
    try:
        design = read_document(content)
        # A forecast takes numpy and more; what is not even sound is refused without waiting for that.
        result = importlib.import_module("shelf_core.commands.common").computed(design)
    except DesignError as error:
        if chosen.json:
            faults = [{"path": one.place, "message": one.message} for one in error.faults]
            print(json.dumps({"sound": False, "faults": faults}, ensure_ascii=False, indent=2))
        else:
            print(error, file=sys.stderr)
        return 2
    found = []
    if chosen.findings:
        found = importlib.import_module("shelf_core.commands.finding").found_in(result, nights=chosen.nights)
    if chosen.json:
        answer = {"sound": True, "digest": digest(design), "findings": found}
        print(json.dumps(answer, ensure_ascii=False, indent=2))
    else:
        print(f"{design.name} is sound: {grouped(len(design.workloads))} workloads, {grouped(len(design.targets))} targets.")
        for one in found:
            print(f"{one['place']}: {one['sentence']} {one['way_out']}")
    return 1 if found and chosen.strict else 0
