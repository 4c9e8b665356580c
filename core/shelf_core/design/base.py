"""What all parts of a document have in common."""

from typing import Any

from pydantic import BaseModel, ConfigDict


class Part(BaseModel):
    """A part of the document: strict types, unknown fields refused, never changed in place."""

    model_config = ConfigDict(
        defer_build=True, strict=True, extra="forbid", frozen=True, populate_by_name=True, allow_inf_nan=False
    )

    def plain(self) -> dict[str, Any]:
        """The part in canonical form: plain JSON values, without what only repeats a default."""
        return self.model_dump(mode="json", by_alias=True, exclude_defaults=True)

    def whole(self) -> dict[str, Any]:
        """The part as plain JSON values with every field, defaults included."""
        return self.model_dump(mode="json", by_alias=True)
