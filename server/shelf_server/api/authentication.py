"""Who asks: a person with a session, or a script with a token of theirs."""

from typing import Any

from django.http import HttpRequest
from django.utils import timezone
from ninja.errors import AuthenticationError
from ninja.security import APIKeyQuery, HttpBearer

from shelf_server.designs.access import limited_to
from shelf_server.designs.models import Token
from shelf_server.designs.tokens import find_token


class TokenAuth(HttpBearer):
    """A token in the header `Authorization: Bearer ...`. One that only subscribes to calendars is not taken here."""

    def __call__(self, request: HttpRequest) -> Any:
        """The token, or nothing without such a header, so that a session is asked for next."""
        return super().__call__(request) if "Authorization" in request.headers else None

    def authenticate(self, request: HttpRequest, token: str) -> Token:
        """Let the token speak for its person. Raises AuthenticationError for one that is wrong, over or not for this."""
        found = find_token(token, timezone.now())
        if found is None or found.role == Token.Role.CALENDAR:
            raise AuthenticationError
        _speak_for(request, found, found.role)
        return found


class CalendarKey(APIKeyQuery):
    """A token in the address, as programs that subscribe to calendars need it; any of a person's will do."""

    param_name = "token"

    def authenticate(self, request: HttpRequest, key: str | None) -> Token | None:
        """Let the token speak for its person, who only reads."""
        found = find_token(key, timezone.now()) if key else None
        if key and found is None:
            raise AuthenticationError
        if found is not None:
            _speak_for(request, found, "viewer")
        return found


def _speak_for(request: HttpRequest, token: Token, role: str) -> None:
    request.user = limited_to(token.user, role)  # type: ignore[assignment]
