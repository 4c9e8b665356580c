"""How often anybody may ask: so many requests in each minute, for a page, a script and whoever has not signed in.

It is counted in the database, so that it is the same however many processes answer.
"""

import time

from django.conf import settings
from django.db.models import F
from django.http import HttpRequest
from ninja.throttling import BaseThrottle

from shelf_server.designs.models import RequestCount, Token

WINDOW_SECONDS = 60


class EachMinute(BaseThrottle):
    """Counts the requests of this minute. SHELF_RATES in the settings says how many are too many for whom."""

    def allow_request(self, request: HttpRequest) -> bool:
        """Whether there is room for one more, which is counted then."""
        kind, who = self._asking(request)
        return _is_within(f"{kind}:{who}", int(time.time()) // WINDOW_SECONDS, settings.SHELF_RATES[kind])

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


def _is_within(who: str, minute: int, most: int) -> bool:
    """Count one more, unless there have been so many already. One statement, but for the first of a minute."""
    if _counted(who, minute, most):
        return True
    _, is_first = RequestCount.objects.get_or_create(who=who, minute=minute)
    if is_first:
        # Of everybody: who asks once and never again would leave a row for good.
        RequestCount.objects.filter(minute__lt=minute - 1).delete()
        return True
    return _counted(who, minute, most)


def _counted(who: str, minute: int, most: int) -> bool:
    this_minute = RequestCount.objects.filter(who=who, minute=minute, times__lt=most)
    return bool(this_minute.update(times=F("times") + 1))
