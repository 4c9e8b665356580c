"""What the API says of accounts."""

from ninja import Schema
from pydantic import Field

from shelf_server.api.preference_schemas import Style
from shelf_server.api.schemas import Line, Strict


class SignIn(Strict):
    """A name and a password."""

    username: Line = Field(max_length=150)
    password: str = Field(max_length=1000)


class SessionOut(Schema):
    """Who is signed in, and how figures are written for that person; null when nobody is."""

    username: str | None
    style: Style | None
