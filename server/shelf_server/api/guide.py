"""The API as a page to read, made from its schema: docs/api.md."""

import json
from collections.abc import Iterator
from typing import Any

WIDTH = 116
MOST_LINES = 40
METHODS = ("get", "post", "put", "delete")
HEAD = """# The API

Every operation, made from the schema that the server serves at `/api/openapi.json`: what it takes, and an example with what
it is answered. The examples are about the demo design; a test asks all of them and compares. Lists in answers are shortened
to an entry or two, texts are cut, and of an answer that is long all the same only the beginning stands here.
[scripts.md](scripts.md) says how to begin: tokens, keys of creation, revisions, what refusals look like.

Types are those of the schema; `Design` is the document, whose schema is at `/api/schemas/design`.
"""
TITLES = {
    "session": "Signing in and out",
    "tokens": "Tokens for scripts",
    "designs": "Designs and their documents",
    "edits": "Editing",
    "variants": "Variants",
    "forecast": "Forecast",
    "reasons": "Reasons, cost, what is not known",
    "files": "Files to take away",
    "calendars": "Calendars",
    "bringing": "Files that are brought",
    "tables": "Tables that are read",
    "starting": "Starting points",
}


def guide_text(schema: dict[str, Any]) -> str:
    """The page for a schema (OpenAPI 3.1) with examples."""
    by_tag: dict[str, list[str]] = {}
    for path, operations in schema["paths"].items():
        for method in METHODS:
            if method in operations:
                part = "\n".join(_operation(method, path, operations[method]))
                by_tag.setdefault(operations[method]["tags"][0], []).append(part)
    sections = [f"## {TITLES.get(tag, tag.capitalize())}\n\n" + "\n".join(parts) for tag, parts in by_tag.items()]
    return "\n".join([HEAD, *sections])


def _operation(method: str, path: str, operation: dict[str, Any]) -> Iterator[str]:
    yield f"### `{method.upper()} {path}`\n"
    yield f"{operation['description']}\n"
    rows = [_parameter(one) for one in operation.get("parameters", [])]
    if rows:
        yield "| parameter | in | type | what it is | example |\n| --- | --- | --- | --- | --- |"
        yield "\n".join(rows) + "\n"
    if "requestBody" in operation:
        (content,) = operation["requestBody"]["content"].values()
        yield f"Takes {_type(content['schema'])}:\n"
        yield from _fence("json", pretty(content["example"]))
    for status, answer in operation["responses"].items():
        if int(status) < 400:
            yield from _answer(int(status), answer)
    refusals = sorted(int(status) for status in operation["responses"] if int(status) >= 400)
    yield f"Refused with {', '.join(map(str, refusals))}.\n"


def _answer(status: int, answer: dict[str, Any]) -> Iterator[str]:
    if not answer.get("content"):
        yield f"Answers {status}, with nothing.\n"
        return
    for media_type, content in answer["content"].items():
        is_json = media_type == "application/json"
        yield f"Answers {status}, {_type(content['schema']) if is_json else media_type}:\n"
        if "example" in content:
            example = content["example"]
            yield from _fence("json", _cut(pretty(example))) if is_json else _fence("text", str(example).rstrip())


def _cut(text: str) -> str:
    lines = text.split("\n")
    return text if len(lines) <= MOST_LINES else "\n".join([*lines[:MOST_LINES], "..."])


def _fence(language: str, text: str) -> Iterator[str]:
    yield f"```{language}\n{text}\n```\n"


def _parameter(one: dict[str, Any]) -> str:
    example = one.get("example")
    shown = "" if example is None else f"`{example if isinstance(example, str) else json.dumps(example)}`"
    needed = "" if one["required"] else ", may be left out"
    return f"| `{one['name']}` | {one['in']} | {_type(one['schema'])}{needed} | {one['description']} | {shown} |"


def _type(schema: dict[str, Any]) -> str:
    """A type in words."""
    if "$ref" in schema:
        return f"`{schema['$ref'].rsplit('/', 1)[-1]}`"
    if "enum" in schema:
        return " or ".join(f"`{one}`" for one in schema["enum"])
    if "anyOf" in schema:
        return " or ".join(_type(one) for one in schema["anyOf"] if one.get("type") != "null")
    if schema.get("type") == "array":
        return f"a list of {_type(schema['items'])}"
    return {"string": "text", "integer": "a whole number", "number": "a number"}.get(schema.get("type", ""), "an object")


def pretty(value: Any, indent: str = "") -> str:
    """JSON in which whatever fits on a line stands on one."""
    flat = json.dumps(value, ensure_ascii=False)
    if len(indent) + len(flat) <= WIDTH or not isinstance(value, (dict, list)) or not value:
        return flat
    inner = indent + "  "
    if isinstance(value, list):
        lines, ends = [f"{inner}{pretty(one, inner)}" for one in value], "[]"
    else:
        lines = [f"{inner}{json.dumps(name)}: {pretty(one, inner)}" for name, one in value.items()]
        ends = "{}"
    return f"{ends[0]}\n" + ",\n".join(lines) + f"\n{indent}{ends[1]}"
