"""Writes what each command of the core prints of itself, and what shells complete, into the files that the commands read."""

import json

import shtab

from shelf_core.cli import HELPS
from shelf_core.commands.completion import KEPT, SHELLS
from shelf_core.commands.whole import PROGRAM, helps, whole_parser


def completions() -> dict[str, list[str]]:
    """The script of each shell, by lines, as the commands are now."""
    found = {shell: shtab.complete(whole_parser(), shell=shell).splitlines() for shell in SHELLS}
    # In a checkout the program is called with its place before it.
    found["bash"].append(f"complete -o filenames -F _shtab_{PROGRAM} ./{PROGRAM}")
    return found


if __name__ == "__main__":
    for file, kept in ((HELPS, helps()), (KEPT, completions())):
        file.write_text(json.dumps(kept, indent=1, ensure_ascii=False) + "\n", encoding="utf-8")
