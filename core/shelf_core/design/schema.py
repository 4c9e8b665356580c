"""The published schema of the design document: JSON Schema, draft 2020-12."""

from typing import Any

from pydantic.json_schema import GenerateJsonSchema

from shelf_core.design.document import Design
from shelf_core.design.meanings import describe_fields
from shelf_core.design.versions import FORMAT, NEWEST

SCHEMA_ID = f"urn:{FORMAT}:{NEWEST}"


SHORT_FORMS: tuple[tuple[str, str, dict[str, Any]], ...] = (
    ("Copy", "lock", {"$ref": "#/$defs/Lock"}),
    ("StepDown", "lock", {"$ref": "#/$defs/Lock"}),
    ("Target", "used_otherwise", {"type": ["string", "number"]}),
)
"""What a document may also say: one lock where there are none beside it, and a size for what is used and does not grow."""


def design_schema() -> dict[str, Any]:
    """The schema of the newest version of the document, of what may be written and of nothing else.

    It says which fields there are and what each may look like. What spans several parts (that a route's target exists, that
    a ladder's rungs differ) is checked when a document is read.
    """
    schema = Design.model_json_schema(by_alias=True, schema_generator=_Draft202012, mode="validation")
    # A document names its format and version, though a design in memory need not.
    schema["required"] = ["format", "version", *schema["required"]]
    for name in ("format", "version"):
        schema["properties"][name].pop("default")
    for part, field, short in SHORT_FORMS:
        _allow(schema["$defs"][part]["properties"][field], short)
    for part, said in {"Design": schema, **schema["$defs"]}.items():
        describe_fields(part, said)
    about = {
        "$schema": GenerateJsonSchema.schema_dialect,
        "$id": SCHEMA_ID,
        "title": "A retention design",
        "description": "Everything an architect decides, in one document.",
    }
    return {**about, **{name: value for name, value in schema.items() if name not in about}}


def _allow(field: dict[str, Any], short: dict[str, Any]) -> None:
    default = {"default": field.pop("default")} if "default" in field else {}
    long = {name: field.pop(name) for name in list(field) if name != "description"}
    field |= {"anyOf": [*long.pop("anyOf", [long]), short], **default}


class _Draft202012(GenerateJsonSchema):
    """Pydantic's schema without a generated title for every field, which only repeats the field's name."""

    def field_title_should_be_set(self, schema: Any) -> bool:  # noqa: ARG002 - pydantic asks of each field
        """No field gets a title."""
        return False
