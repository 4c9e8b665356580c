"""What all schemas of the API share."""

from typing import Annotated

from ninja import Schema
from pydantic import AfterValidator, ConfigDict

from shelf_core.design.values import check_line


class Strict(Schema):
    """A body that says nothing unknown."""

    model_config = ConfigDict(extra="forbid", strict=True)


Line = Annotated[str, AfterValidator(check_line)]

"""A text on one line, of what can be seen."""


class Health(Schema):
    """The application answers and reaches its database."""

    ready: bool
