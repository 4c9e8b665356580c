"""`schema`: the published schema of the design document."""

import json
import sys
from argparse import ArgumentParser, Namespace

from shelf_core.design.schema import design_schema


def arguments(_parser: ArgumentParser) -> None:
    """It takes nothing."""


def run(_chosen: Namespace) -> int:
    """Print the schema."""
    sys.stdout.write(json.dumps(design_schema(), ensure_ascii=False, indent=2) + "\n")
    return 0
