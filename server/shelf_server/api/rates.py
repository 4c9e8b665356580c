"""How often anybody may ask: so many requests in each minute, for a page, a script and whoever has not signed in."""

import time

from django.conf import settings
from django.core.cache import cache
from django.http import HttpRequest
from ninja.throttling import BaseThrottle

from shelf_server.designs.models import Token

WINDOW_SECONDS = 60


class EachMinute(BaseThrottle):
    """Counts the requests of this minute. SHELF_RATES in the settings says how many are too many for whom."""

    def allow_request(self, request: HttpRequest) -> bool:
        """Whether there is room for one more."""
        kind, who = self._asking(request)
        key = f"rate:{kind}:{who}:{int(time.time()) // WINDOW_SECONDS}"
        return _counted(key) <= settings.SHELF_RATES[kind]

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


def _counted(key: str) -> int:
    """How often this was asked for, this time among them."""
    cache.add(key, 0, 2 * WINDOW_SECONDS)
    try:
        return int(cache.incr(key))
    except ValueError:  # the cache has made room in between: counting begins anew
        cache.set(key, 1, 2 * WINDOW_SECONDS)
        return 1
