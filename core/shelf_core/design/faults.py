"""What is wrong with a document: each fault names its place, what was expected and what came."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

Path = tuple[str | int, ...]


@dataclass(frozen=True)
class Fault:
    """One fault: the place as keys and list positions, and what is wrong there in words."""

    path: Path
    message: str

    @property
    def place(self) -> str:
        """The path as text, such as `routes[0].copies[1].ladder`; `design` for the document itself."""
        text = ""
        for part in self.path:
            text += f"[{part}]" if isinstance(part, int) else f".{part}" if text else str(part)
        return text or "design"

    def __str__(self) -> str:
        return f"{self.place}: {self.message}"


class DesignError(Exception):
    """The document cannot be used; `faults` says why, in the order of the document."""

    def __init__(self, faults: Sequence[Fault]) -> None:
        self.faults = tuple(faults)
        super().__init__("\n".join(map(str, self.faults)))


def fault(*path: str | int, message: str) -> Fault:
    """A fault at a path given as separate arguments."""
    return Fault(path, message)


def shown(value: Any) -> str:
    """A value as it is quoted in a message: short, and as it would stand in the document."""
    text = f'"{value}"' if isinstance(value, str) else _json_word(value)
    return text if len(text) <= 80 else text[:77] + "..."


def expected(what: str, got: Any) -> ValueError:
    """The error a validator raises: `expected WHAT, got VALUE`."""
    return ValueError(f"expected {what}, got {shown(got)}")


def message_of(error: Any) -> str:
    """What one error of pydantic says, in our words: what was expected and what came."""
    kind, got = error["type"], error["input"]
    if kind == "extra_forbidden":
        return "unknown field"
    if kind == "missing":
        return "expected this field, got nothing"
    if kind == "value_error":
        return str(error["ctx"]["error"])
    if kind in ("union_tag_invalid", "union_tag_not_found"):
        known = error["ctx"].get("expected_tags")
        return f"expected one of {known}, got {shown(error['ctx']['tag'])}" if known else "expected this field, got nothing"
    if kind == "literal_error":
        return f"expected {error['ctx']['expected']}, got {shown(got)}"
    text = error["msg"]
    for word in ("Input should be ", "Value should "):
        text = text.removeprefix(word)
    return f"expected {_plain(text)}, got {shown(got)}"


def _plain(text: str) -> str:
    names = {"a valid string": "a text", "a valid number": "a number", "a valid integer": "a whole number"}
    names |= {"a valid list": "a list", "a valid boolean": "true or false", "a finite number": "a finite number"}
    if text.startswith("a valid dictionary"):
        return "an object"
    return names.get(text, text)


def _json_word(value: Any) -> str:
    if value is None:
        return "null"
    if isinstance(value, bool):
        return "true" if value else "false"
    if isinstance(value, dict):
        return "an object" if value else "an empty object"
    if isinstance(value, (list, tuple)):
        return "a list" if value else "an empty list"
    return str(value)
