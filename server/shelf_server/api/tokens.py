"""Tokens for scripts. Only somebody who is signed in makes and takes back tokens: none of them makes another."""

from datetime import datetime
from typing import Any, Literal

from django.http import HttpRequest
from django.utils import timezone
from ninja import Router, Schema, Status
from ninja.security import django_auth
from pydantic import Field

from shelf_core.design.values import Text
from shelf_server.api.designs import design_id
from shelf_server.api.problems import Problem
from shelf_server.api.schemas import Strict
from shelf_server.designs.access import NoSuchDesign, person_id
from shelf_server.designs.models import Token
from shelf_server.designs.tokens import LONGEST_DAYS, make_token

router = Router(tags=["tokens"], auth=django_auth)

Role = Literal["calendar", "viewer", "editor", "owner"]
PROBLEMS = {401: Problem, 403: Problem, 422: Problem}


class TokenIn(Strict):
    """A token to be made: what it is for, how far it goes, and for how many days."""

    name: Text = Field(min_length=1, max_length=100)
    role: Role
    days: int = Field(ge=1, le=LONGEST_DAYS)


class TokenLine(Schema):
    """A token as it stands in the list. Its text is not known any more. `over` says that it expired."""

    id: int
    name: str
    role: Role
    created: datetime
    expires: datetime
    over: bool
    last_used: datetime | None


class TokenMade(TokenLine):
    """A new token with its text, which is shown this once."""

    token: str


@router.get("", response={200: list[TokenLine], 401: Problem})
def list_tokens(request: HttpRequest) -> list[TokenLine]:
    """The tokens of the person, those that have expired too, the newest first."""
    return [_line(one) for one in Token.objects.filter(user_id=person_id(request.user)).order_by("-created")]


@router.post("", response={201: TokenMade, **PROBLEMS})
def create_token(request: HttpRequest, body: TokenIn) -> Status[TokenMade]:
    """Make a token."""
    made, text = make_token(request.user, body.name, body.role, body.days)
    return Status(201, TokenMade(token=text, **_line(made).model_dump()))


@router.delete("/{int:id}", response={204: None, 401: Problem, 403: Problem, 404: Problem, 422: Problem})
def revoke_token(request: HttpRequest, id: int = design_id()) -> Status[None]:  # noqa: A002
    """Take a token back: from now on it is nobody's."""
    gone, _ = Token.objects.filter(user_id=person_id(request.user), pk=id).delete()
    if not gone:
        raise NoSuchDesign
    return Status(204, None)


def _line(one: Token) -> TokenLine:
    role: Any = one.role  # one of the choices, as the database holds
    return TokenLine(
        id=one.pk,
        name=one.name,
        role=role,
        created=one.created,
        expires=one.expires,
        over=one.expires < timezone.now(),
        last_used=one.last_used,
    )
