"""Every field of the document has a place on a page: its name is read or written there."""

import re
from functools import cache
from typing import Any

import pytest

from shelf_core.design.document import Design
from tests.designs import ROOT

BY_OTHERS = {"format", "version"}
"""What says how a document is written, not what it says."""


@cache
def pages() -> str:
    """All of the front end but what is generated."""
    files = sorted((ROOT / "web" / "src").rglob("*.ts*"))
    return "\n".join(file.read_text() for file in files if "generated" not in file.parts)


def fields() -> list[str]:
    schema: dict[str, Any] = Design.model_json_schema(by_alias=True)
    parts = {"Design": schema, **schema["$defs"]}
    return [f"{name}.{field}" for name, part in parts.items() for field in part.get("properties", {}) if field not in BY_OTHERS]


@pytest.mark.parametrize("field", fields())
def test_it_is_named_on_a_page(field: str) -> None:
    assert re.search(rf"\b{re.escape(field.split('.')[1])}\b", pages())


def test_a_field_without_a_place_would_be_found() -> None:
    assert not re.search(r"\bno_such_field_anywhere\b", pages())
    assert len(fields()) > 150
