"""Versions of the design document: older ones are brought up to the newest, step by step; newer ones are refused."""

from collections.abc import Callable, Mapping
from typing import Any

from shelf_core.design.faults import DesignError, fault, shown
from shelf_core.design.version_steps import with_locks_of_targets

FORMAT = "rested-shelf-design"
NEWEST = 2
Plain = dict[str, Any]
Step = Callable[[Plain], Plain]

STEPS: Mapping[int, Step] = {1: with_locks_of_targets}
"""By version how a document of it becomes one of the next: a pure function of plain values, kept for good. Fields that are
only added, with a default that means what their absence meant before, need no new version. A change that is not raises
NEWEST, gets a step here, and a document of the version before it in tests/core/versions."""


def of_any_version(value: Any) -> Any:
    """A document of an older version that names it as one of the newest; anything else as it is.

    Raises DesignError as `brought_up` does.
    """
    if isinstance(value, dict) and type(value.get("version")) is int and value["version"] != NEWEST:
        return brought_up({"format": FORMAT, **value})
    return value


def brought_up(value: Plain, newest: int = NEWEST, steps: Mapping[int, Step] = STEPS) -> Plain:
    """A document of any known version as one of the newest.

    Raises DesignError for another format, for what is no version, and for a version that this program does not know.
    """
    if value.get("format") != FORMAT:
        raise DesignError([fault("format", message=f'expected "{FORMAT}", got {shown(value.get("format"))}')])
    version, known = value.get("version"), "1" if newest == 1 else f"a version from 1 to {newest}"
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise DesignError([fault("version", message=f"expected {known}, got {shown(version)}")])
    if version > newest:
        message = f"expected {known}, got {version}: this document was written by a newer program"
        raise DesignError([fault("version", message=message)])
    for older in range(version, newest):
        value = {**steps[older](value), "version": older + 1}
    return value
