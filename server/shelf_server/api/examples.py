"""Examples of every operation of the API, kept in examples.json beside this file: a request, and what it is answered.

The requests are written by hand, against the demo design. The answers are what the application said, lists shortened to two
entries and long texts cut; a test asks all of them again (`./shelf test tests/server/test_api_examples.py --write-examples`
writes them anew).
"""

import json
from functools import lru_cache
from pathlib import Path
from typing import Any

from pydantic import BaseModel, ConfigDict

EXAMPLES_FILE = Path(__file__).with_name("examples.json")
WORKBOOK = "$WORKBOOK"
"""Stands for a whole workbook in base64, which nobody would read."""
_PATH_VALUES = {"id": 1, "key": "7d1f0c52e6b94c0f8a1b5f1d2f3c4e5a"}


class Example(BaseModel):
    """One request and its answer.

    `call` is the method and the path as the schema has it, `path`, `query` and `headers` its parameters. `answer` is
    JSON, or the first lines of a text, or nothing.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)

    call: str
    path: dict[str, str] = {}
    query: dict[str, Any] = {}
    headers: dict[str, str] = {}
    body: Any = None
    status: int
    answer: Any = None


@lru_cache(maxsize=1)
def examples() -> list[Example]:
    """All of them, in the order of the file."""
    return [Example.model_validate(one) for one in json.loads(EXAMPLES_FILE.read_text())]


def add_examples(schema: dict[str, Any]) -> None:
    """Put each example where a schema (OpenAPI 3.1) has it: at the parameters, the body and the answer of its operation."""
    for one in examples():
        method, path = one.call.split(" ")
        operation = schema["paths"].get(path, {}).get(method.lower())
        if operation is None:
            continue
        known = {**_PATH_VALUES, **one.path, **one.query, **one.headers}
        for parameter in operation.get("parameters", []):
            if parameter["name"] in known:
                parameter["example"] = known[parameter["name"]]
        if one.body is not None:
            _only(operation["requestBody"])["example"] = _shown(one.body)
        answers = {int(status): answer for status, answer in operation["responses"].items()}
        if one.answer is not None and answers[one.status].get("content"):
            _only(answers[one.status])["example"] = one.answer


def _only(part: dict[str, Any]) -> dict[str, Any]:
    content: dict[str, dict[str, Any]] = part["content"]
    return next(iter(content.values()))


def _shown(body: Any) -> Any:
    if body == {"content": WORKBOOK}:
        return {"content": "UEsDBBQAAAAIAA..."}
    return body
