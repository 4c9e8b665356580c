"""The one page of the front end. Its addresses are the front end's own, so each of them gets the same page."""

from collections.abc import Callable

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.http.response import HttpResponseBase
from django.views.decorators.csrf import ensure_csrf_cookie
from django.views.decorators.http import require_safe

POLICY = "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; font-src 'self'; frame-ancestors 'none'"
"""Nothing comes from elsewhere; styles in line are how the component library works."""


@require_safe
@ensure_csrf_cookie
def page(_request: HttpRequest) -> HttpResponse:
    """The built index.html."""
    file = settings.WEB_BUILD / "index.html"
    if not file.exists():
        return HttpResponse("The front end has not been built: run ./shelf demo.", status=503, content_type="text/plain")
    return HttpResponse(file.read_bytes())


def same_policy(get_response: Callable[[HttpRequest], HttpResponseBase]) -> Callable[[HttpRequest], HttpResponseBase]:
    """Every page has the same policy, whether it is asked for by its own address or is the answer to another."""

    def answer(request: HttpRequest) -> HttpResponseBase:
        found = get_response(request)
        if found.get("Content-Type", "").startswith("text/html"):
            found["Content-Security-Policy"] = POLICY
            found["Cache-Control"] = "no-cache"
            found["X-Frame-Options"] = "DENY"
            del found["Access-Control-Allow-Origin"]
        return found

    return answer
