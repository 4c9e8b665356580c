"""How often anybody may ask: so many requests in each minute, for a page, a script and whoever has not signed in.

It is counted in the database, so that it is the same however many processes answer.
"""

import math
import time
from typing import NamedTuple

from django.conf import settings
from django.db import connection
from django.http import HttpRequest, HttpResponse
from ninja.throttling import BaseThrottle

from shelf_server.designs.models import RequestCount, Token

WINDOW_SECONDS = 60
COUNT = """
    INSERT INTO designs_requestcount AS counted (who, minute, times) VALUES (%s, %s, 1)
    ON CONFLICT (who, minute) DO UPDATE SET times = counted.times + 1 RETURNING times
"""


class EachMinute(BaseThrottle):
    """Counts the requests of this minute. SHELF_RATES in the settings says how many are too many for whom."""

    def allow_request(self, request: HttpRequest) -> bool:
        """Whether there is room for one more, which is counted then. The request learns what there is room for."""
        kind, who = self._asking(request)
        most = settings.SHELF_RATES[kind]
        times = count(f"{kind}:{who}", int(time.time()) // WINDOW_SECONDS)
        request.rate = Rate(most, max(0, most - times), math.ceil(self.wait()))  # type: ignore[attr-defined]
        return times <= most

    def wait(self) -> float:
        """Seconds until the next minute begins."""
        return WINDOW_SECONDS - time.time() % WINDOW_SECONDS

    def _asking(self, request: HttpRequest) -> tuple[str, str]:
        token = getattr(request, "auth", None)
        if isinstance(token, Token):
            return "script", str(token.pk)
        if request.user.is_authenticated:
            return "page", str(request.user.pk)
        return "nobody", str(request.META.get("REMOTE_ADDR"))


class Rate(NamedTuple):
    """How many requests a minute somebody may make, how many are left, and in how many seconds the next minute begins."""

    limit: int
    remaining: int
    reset: int


def add_rate(request: HttpRequest, answer: HttpResponse) -> None:
    """Say in an answer what its asker has room for, by the IETF's draft on RateLimit header fields (from memory)."""
    rate: Rate | None = getattr(request, "rate", None)
    if rate is not None:
        answer["RateLimit-Policy"] = f'"minute";q={rate.limit};w={WINDOW_SECONDS}'
        answer["RateLimit"] = f'"minute";r={rate.remaining};t={rate.reset}'


def count(who: str, minute: int) -> int:
    """Count one more, and say the how manieth of this minute it is. One statement, but for the first of a minute."""
    with connection.cursor() as cursor:
        cursor.execute(COUNT, [who, minute])
        times: int = cursor.fetchone()[0]
    if times == 1:
        # Of everybody: who asks once and never again would leave a row for good.
        RequestCount.objects.filter(minute__lt=minute - 1).delete()
    return times
