"""What each step from one version of the document to the next does, on plain values that may be unsound."""

from collections.abc import Iterator
from typing import Any

Plain = dict[str, Any]
LOCK_RANK = {"none": 0, "liftable": 1, "final": 2}
RENAMED_OF_TARGET = {"placement": "fill_order", "set_closes": "batch_closes"}


def with_locks_of_targets(value: Plain) -> Plain:
    """Version 1 as version 2: the lock of a target now bounds what locks there can do, and two fields have other names.

    In version 1 every lock held. So each target's `lock` is raised to what its copies and step-downs ask of it.
    """
    asked: dict[str, int] = {}
    for target, mode in _locks_asked(value):
        asked[target] = max(asked.get(target, 0), LOCK_RANK.get(mode, 0))
    targets = value.get("targets")
    if not isinstance(targets, list):
        return value
    return {**value, "targets": [_target(one, asked) if isinstance(one, dict) else one for one in targets]}


def renamed_fields_of_target(target: Plain) -> Plain:
    """A target of version 1 under the names of version 2."""
    return {RENAMED_OF_TARGET.get(name, name): held for name, held in target.items()}


def _target(target: Plain, asked: dict[str, int]) -> Plain:
    found = renamed_fields_of_target(target)
    name, now = target.get("id"), found.get("lock", "none")
    wanted = asked.get(name, 0) if isinstance(name, str) else 0
    if isinstance(now, str) and wanted > LOCK_RANK.get(now, wanted):
        found["lock"] = next(mode for mode, rank in LOCK_RANK.items() if rank == wanted)
    return found


def _locks_asked(value: Plain) -> Iterator[tuple[str, str]]:
    """Each lock of a document as the target it is meant for, and its mode."""
    for copy in (copy for route in _dicts(value.get("routes")) for copy in _dicts(route.get("copies"))):
        for part in (copy, *_dicts(copy.get("step_downs"))):
            locks = part.get("lock")
            for lock in [locks] if isinstance(locks, dict) else _dicts(locks):
                target, mode = part.get("target"), lock.get("mode", "liftable")
                if isinstance(target, str) and isinstance(mode, str):
                    yield target, mode


def _dicts(value: Any) -> list[Plain]:
    return [one for one in value if isinstance(one, dict)] if isinstance(value, list) else []
