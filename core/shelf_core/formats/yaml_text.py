"""YAML as far as it is JSON in other clothes: mappings with text keys, lists, texts, numbers, true, false, null.

What YAML has beyond that is refused rather than guessed at: aliases (a few of them can stand for more than fits in memory),
tags, keys that are no text. Numbers, booleans and null are those of YAML 1.2, so that NO is a text and 22:00 is no number.
"""

import re
from typing import Any

import yaml

from shelf_core.design.faults import DesignError, fault, shown
from shelf_core.digits import grouped

LARGEST_YAML_BYTES = 8 * 2**20
MOST_VALUES = 300_000
"""Values and keys of a document: reading so many takes two seconds."""
DEEPEST = 60
"""No sound document is nested deeper than a tenth of this."""

_BOOLEAN = re.compile(r"true|false")
_NULL = re.compile(r"null|~|")
_INTEGER = re.compile(r"[-+]?[0-9]+")
_NUMBER = re.compile(r"[-+]?(\.[0-9]+|[0-9]+(\.[0-9]*)?)([eE][-+]?[0-9]+)?")
_BREAKS = re.compile("[\x85\u2028\u2029\ufeff]")
_MAP, _LIST, _TEXT = (f"tag:yaml.org,2002:{name}" for name in ("map", "seq", "str"))


class _Refused(Exception):
    """What this reader does not take, at a mark of the text."""

    def __init__(self, message: str, mark: Any) -> None:
        super().__init__(f"{message} at line {mark.line + 1}, column {mark.column + 1}")


class _Writer(yaml.SafeDumper):
    """Indents lists below their keys, and never writes an alias."""

    def increase_indent(self, flow: bool = False, indentless: bool = False) -> None:  # noqa: ARG002, FBT001, FBT002 - its own
        super().increase_indent(flow, indentless=False)

    def ignore_aliases(self, data: Any) -> bool:  # noqa: ARG002 - asked of each value
        return True


def _text_of(writer: yaml.SafeDumper, text: str) -> yaml.ScalarNode:
    """Line breaks that only Unicode knows stand escaped in quotes: plain, they would be read as a space."""
    style = '"' if _BREAKS.search(text) or _NUMBER.fullmatch(text) else None
    return writer.represent_scalar(_TEXT, text, style=style)


_Writer.add_representer(str, _text_of)


def yaml_text(value: Any) -> str:
    """Plain values as YAML. A text that any reader could take for something else stands in quotes."""
    text: str = yaml.dump(value, Dumper=_Writer, sort_keys=False, allow_unicode=True, width=100, default_flow_style=False)
    return text


def plain_yaml(text: str | bytes) -> Any:
    """The plain values of one YAML document.

    Raises DesignError when the text is too large, not UTF-8, not YAML, uses what is not taken, names a key twice, or is
    nested too deep.
    """
    if len(text) > LARGEST_YAML_BYTES:
        raise DesignError(
            [fault(message=f"expected at most {grouped(LARGEST_YAML_BYTES)} bytes of YAML, got {grouped(len(text))}")]
        )
    try:
        if isinstance(text, bytes):
            text = text.decode("utf-8-sig")
        loader = yaml.CSafeLoader(text) if hasattr(yaml, "CSafeLoader") else yaml.SafeLoader(text)
        return _document(loader)
    except UnicodeDecodeError as error:
        raise DesignError([fault(message=f"expected UTF-8, got another byte at {error.start}")]) from None
    except _Refused as error:
        raise DesignError([fault(message=str(error))]) from None
    except yaml.MarkedYAMLError as error:
        mark = error.problem_mark or error.context_mark
        where = f" at line {mark.line + 1}, column {mark.column + 1}" if mark else ""
        raise DesignError([fault(message=f"expected YAML, got a fault{where}: {error.problem}")]) from None
    except (yaml.YAMLError, ValueError) as error:
        raise DesignError([fault(message=f"expected YAML: {error}")]) from None


def _document(loader: Any) -> Any:
    """The one document of a text, built from its events, so that nothing is built that is not taken."""
    loader.values_left = MOST_VALUES
    for expected_event in (yaml.StreamStartEvent, yaml.DocumentStartEvent):
        event = loader.get_event()
        if not isinstance(event, expected_event):
            raise _Refused("expected a document, got none", event.start_mark)
    value = _value(loader, loader.get_event(), 0)
    loader.get_event()
    event = loader.get_event()
    if not isinstance(event, yaml.StreamEndEvent):
        raise _Refused("expected one document, got another after it", event.start_mark)
    return value


def _value(loader: Any, event: Any, depth: int) -> Any:
    loader.values_left -= 1
    if loader.values_left < 0:
        raise _Refused(f"expected at most {grouped(MOST_VALUES)} values in YAML (JSON takes more), got more", event.start_mark)
    if depth > DEEPEST:
        raise _Refused("expected a document of moderate depth, got one nested too deep", event.start_mark)
    if isinstance(event, yaml.AliasEvent) or getattr(event, "anchor", None) is not None:
        raise _Refused("expected every value written out, got an anchor or alias", event.start_mark)
    tag = getattr(event, "tag", None)
    if isinstance(event, yaml.ScalarEvent) and tag in (None, "!", _TEXT):
        return event.value if tag or event.style else _plain_scalar(event)
    if isinstance(event, yaml.SequenceStartEvent) and tag in (None, "!", _LIST):
        return _list(loader, depth)
    if isinstance(event, yaml.MappingStartEvent) and tag in (None, "!", _MAP):
        return _mapping(loader, depth)
    raise _Refused(f"expected a plain value, got the tag {shown(tag)}", event.start_mark)


def _list(loader: Any, depth: int) -> list[Any]:
    found = []
    while not isinstance(event := loader.get_event(), yaml.SequenceEndEvent):
        found.append(_value(loader, event, depth + 1))
    return found


def _mapping(loader: Any, depth: int) -> dict[str, Any]:
    found: dict[str, Any] = {}
    while not isinstance(event := loader.get_event(), yaml.MappingEndEvent):
        key = _value(loader, event, depth + 1)
        if not isinstance(key, str):
            raise _Refused(f"expected a text as key, got {shown(key)}", event.start_mark)
        if key in found:
            raise _Refused(f"expected each key once, got {shown(key)} twice in one object", event.start_mark)
        found[key] = _value(loader, loader.get_event(), depth + 1)
    return found


def _plain_scalar(event: Any) -> Any:
    text = event.value
    if _NULL.fullmatch(text):
        return None
    if _BOOLEAN.fullmatch(text):
        return text == "true"
    if _INTEGER.fullmatch(text):
        return int(text)
    if _NUMBER.fullmatch(text):
        return float(text)
    return text
