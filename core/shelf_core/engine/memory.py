"""What was computed before, by all that it depends on: bounded in bytes, safe to share between threads."""

import threading
from collections.abc import Callable, Container, Hashable, Iterable
from dataclasses import fields, is_dataclass
from functools import cache
from typing import Any, TypeVar

import numpy as np

MOST_BYTES = 256 * 2**20
T = TypeVar("T")
_MISSING: Any = object()
SMALLEST = 200
"""Bytes that anything takes at least: its key, its place in a table."""


class Memory:
    """Results by key, which together take at most `most_bytes`, not counting what a running forecast still holds.

    There are two generations. What is asked for goes to the young one, whatever its age; when that is
    full it becomes the old one, and what nobody has asked for in the meantime is forgotten whole. A result may hold on to
    others (a holding to the points that lie in it): a forecast asks for all of them, so they stay and go together.
    """

    def __init__(self, most_bytes: int = MOST_BYTES) -> None:
        # A little is left for what results compute of themselves later.
        self._most = most_bytes * 2 // 5
        self._young: dict[Hashable, Any] = {}
        self._old: dict[Hashable, Any] = {}
        self._bytes = 0
        self._counted: set[int] = set()
        self._lock = threading.Lock()

    def get(self, key: Hashable, compute: Callable[[], T]) -> T:
        """The result for a key, computed if it is not there. Two threads may compute the same; the results are equal."""
        found: T = self._asked_for(key)
        if found is not _MISSING:
            return found
        result = compute()
        with self._lock:
            self._keep(key, result)
        return result

    def kept(self, key: Hashable) -> Any:
        """The result for a key, None where there is none."""
        found = self._asked_for(key)
        return None if found is _MISSING else found

    def clear(self) -> None:
        """Forget everything, as after running out of memory."""
        with self._lock:
            self._young, self._old, self._bytes = {}, {}, 0
            self._counted.clear()

    def weight(self) -> int:
        """The bytes of all that is kept, each array counted once."""
        with self._lock:
            return bytes_of_all([*self._young.values(), *self._old.values()])

    def _asked_for(self, key: Hashable) -> Any:
        with self._lock:
            if key in self._young or key not in self._old:
                return self._young.get(key, _MISSING)
            result = self._old[key]
            self._keep(key, result)
            return result

    def _keep(self, key: Hashable, result: Any) -> None:
        self._young[key] = result
        # Results that it holds on to have been counted when they were kept.
        self._bytes += bytes_of_all([result], self._counted)
        self._counted.add(id(result))
        if self._bytes > self._most:
            # Counted one by one, what results share is counted more than once; counted together it may still fit.
            self._bytes = bytes_of_all(self._young.values())
        if self._bytes > self._most:
            self._old, self._young, self._bytes = self._young, {}, 0
            self._counted.clear()


def bytes_of_all(values: Any, counted: Container[int] = frozenset()) -> int:
    """About how much memory values take: their arrays, each once, and something for everything else.

    What has been `counted`, by its identity, is left out with all that it holds.
    """
    seen: set[int] = set()
    total, left = 0, list(values)
    while left:
        value = left.pop()
        if id(value) in seen or id(value) in counted:
            continue
        seen.add(id(value))
        if isinstance(value, np.ndarray):
            total += value.nbytes + SMALLEST
        elif isinstance(value, (str, bytes)):
            total += len(value) + SMALLEST
        else:
            total += SMALLEST
            left += _parts(value)
    return total


def _parts(value: Any) -> Iterable[Any]:
    if isinstance(value, dict):
        return value.values()
    if isinstance(value, (list, tuple)):
        return value
    kind: Any = type(value)
    return [getattr(value, name) for name in _names_of_fields(kind)]


@cache
def _names_of_fields(kind: type) -> tuple[str, ...]:
    return tuple(field.name for field in fields(kind)) if is_dataclass(kind) else ()
