"""Tokens for scripts: made, shown once, found again by their digest, taken back."""

import hashlib
import secrets
from datetime import datetime, timedelta

from django.contrib.auth import get_user_model
from django.utils import timezone
from django.utils.crypto import constant_time_compare

from shelf_server.designs.access import Person, person_id
from shelf_server.designs.models import Token

PREFIX = "shelf_"
LONGEST_DAYS = 366
MOST_TOKENS = 50
NOTED_EVERY = timedelta(minutes=5)
"""Its last use is noted no more often than this, so that reading does not become writing."""


def make_token(user: Person, name: str, role: str, days: int) -> tuple[Token, str]:
    """A new token of a person, and its text, which is not kept. Raises ValueError for too many."""
    if Token.objects.filter(user_id=person_id(user), expires__gt=timezone.now()).count() >= MOST_TOKENS:
        raise ValueError(f"expected at most {MOST_TOKENS} tokens at a time, got one more; take one back first")
    text = PREFIX + secrets.token_urlsafe(32)
    expires = timezone.now() + timedelta(days=days)
    made = Token.objects.create(
        user_id=person_id(user),
        name=name,
        role=role,
        digest=digest_of(text),
        expires=expires,
        made_under=get_user_model().objects.get(pk=person_id(user)).get_session_auth_hash(),
    )
    return made, text


def digest_of(text: str) -> str:
    """What is stored of a token. It is as random as its digest, so there is nothing to guess and no salt is needed."""
    return hashlib.sha256(text.encode()).hexdigest()


def find_token(text: str, now: datetime) -> Token | None:
    """The token that a text is, unless it has expired, or its person may no longer sign in or has another password."""
    if not text.startswith(PREFIX):
        return None
    rows = Token.objects.select_related("user").filter(digest=digest_of(text), expires__gt=now, user__is_active=True)
    found: Token | None = rows.first()
    if found is not None and not _is_of_the_same_password(found):
        return None
    if found is not None and (found.last_used is None or now - found.last_used > NOTED_EVERY):
        Token.objects.filter(pk=found.pk).update(last_used=now)
    return found


def _is_of_the_same_password(token: Token) -> bool:
    now = token.user.get_session_auth_hash()
    if token.made_under == "":
        Token.objects.filter(pk=token.pk).update(made_under=now)
        return True
    return constant_time_compare(token.made_under, now)
