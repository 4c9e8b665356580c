"""What each field of requests and answers means: one meaning a name, but for those that are named with their schema.

Fields of a design's document have theirs in the core.
"""

from typing import Any

from shelf_core.design.meanings import describe_fields as describe_part
from shelf_core.design.meanings import meaning_of
from shelf_core.design.schema import design_schema
from shelf_server.api.design_fields import OF_DESIGNS
from shelf_server.api.field_names import OF_NAMES
from shelf_server.api.figure_fields import OF_FIGURES

SETTINGS = "Settings"
"""What a design says of itself, apart from its lists: the fields stand in the document itself."""
MEANINGS = {**OF_NAMES, **OF_FIGURES, **OF_DESIGNS}


def describe_fields(schema: dict[str, Any]) -> None:
    """Say what each field means; one whose name means nothing here is left as it is, and a test finds it."""
    parts = {"Design", *design_schema()["$defs"]}
    for name, said in schema["components"]["schemas"].items():
        if name in parts or name == SETTINGS:
            describe_part("Design" if name == SETTINGS else name, said)
        for field, value in said.get("properties", {}).items():
            meaning = MEANINGS.get(f"{name}.{field}") or MEANINGS.get(field) or meaning_of(name, field)
            if meaning is not None:
                value.setdefault("description", meaning)
