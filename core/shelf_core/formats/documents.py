"""Designs as text: JSON to exchange, YAML to read and to review. Both say the same, in the same order."""

import json
from typing import Literal

from shelf_core.design.document import Design
from shelf_core.design.reading import design_of, plain_json

Language = Literal["json", "yaml"]


def document_text(design: Design, language: Language = "json") -> str:
    """The canonical text of a design: the same design gives the same bytes, whatever text it was read from."""
    if language == "yaml":
        from shelf_core.formats.yaml_text import yaml_text  # noqa: PLC0415 - JSON waits for no YAML

        return yaml_text(design.canonical())
    return json.dumps(design.canonical(), indent=2, ensure_ascii=False) + "\n"


def read_document(text: str | bytes, language: Language | None = None) -> Design:
    """The design of a text in JSON or YAML; a text that begins with a brace or bracket is JSON unless a language is named.

    Raises DesignError when the text is of neither, too large, nested too deep, or no sound design.
    """
    if language is None:
        language = "json" if _begins_like_json(text) else "yaml"
    if language == "json":
        return design_of(plain_json(text))
    from shelf_core.formats.yaml_text import plain_yaml  # noqa: PLC0415 - as above

    return design_of(plain_yaml(text))


def _begins_like_json(text: str | bytes) -> bool:
    start = text[:200] if isinstance(text, str) else text[:200].decode("utf-8-sig", "replace")
    return start.lstrip()[:1] in ("{", "[")
