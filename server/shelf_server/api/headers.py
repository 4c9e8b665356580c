"""Headers that make requests safe to repeat: keys of creation, and the revision that a request is about (RFC 9110)."""

import hashlib
import json
import re
from typing import Any
from uuid import UUID

from ninja import Header

from shelf_server.designs.models import Design

KEY: Any = Header(None, alias="Idempotency-Key", min_length=1, max_length=200, pattern=r"^[\x21-\x7e]+$")  # type: ignore[type-arg]
"""A request that creates something, sent again with the same key, gives what it gave the first time."""

IF_MATCH: Any = Header(None, alias="If-Match", max_length=100)  # type: ignore[type-arg]

_ETAG = re.compile(r'(?:W/)?"(\d{1,19})-(\d{1,19})-([0-9a-f]{32})"')


class RevisionNotNamed(Exception):
    """A request that replaces something does not say what."""


class OtherRevision(Exception):
    """A request names a revision that is not one of this design."""


def etag_of(row: Design) -> str:
    """What stands for a revision of a design in the headers ETag, If-Match and If-None-Match."""
    return f'"{row.pk}-{row.revision}-{row.state.hex}"'


def seen_state(if_match: str | None, design_id: int) -> UUID:
    """The state that If-Match names. A compressed answer carries its ETag as a weak one, which is taken as well.

    Raises RevisionNotNamed, OtherRevision.
    """
    if if_match is None:
        raise RevisionNotNamed
    found = _ETAG.fullmatch(if_match.strip())
    if found is None or int(found[1]) != design_id:
        raise OtherRevision
    return UUID(found[3])


def request_digest(what: str, *said: Any) -> str:
    """What tells one request from another under the same key."""
    text = json.dumps([what, *said], sort_keys=True, separators=(",", ":"), default=str)
    return hashlib.sha256(text.encode()).hexdigest()
