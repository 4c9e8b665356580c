"""Writes what each command of the core prints of itself into the file that `--help` reads."""

import json

from shelf_core.cli import HELPS
from shelf_core.commands.whole import helps


def text() -> str:
    """The file as the commands are now."""
    return json.dumps(helps(), indent=1, ensure_ascii=False) + "\n"


if __name__ == "__main__":
    HELPS.write_text(text(), encoding="utf-8")
