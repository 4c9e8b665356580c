"""What holds for every answer of the API, also where none of its operations was reached."""

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

from shelf_server.api.problems import problem
from shelf_server.api.rates import add_rate

Next = Callable[[HttpRequest], HttpResponse]
VERSIONED = "/api/v1/"
TITLES = {
    400: "The request cannot be read",
    403: "This is not allowed",
    404: "There is nothing at this address",
    405: "This address is not asked like that",
    413: "The request is too large",
    500: "This failed for a reason of our own; the server's log says more",
}


def api_answers(get_response: Next) -> Next:
    """Errors as problem details, HEAD and OPTIONS wherever there is GET, nothing kept by caches between, how much may be asked.

    `/api/v1/` is the address of this version; without a version it is the same, as it was before there was one.
    """

    def answer(request: HttpRequest) -> HttpResponse:
        if not request.path.startswith("/api/"):
            return get_response(request)
        is_versioned = request.path_info.startswith(VERSIONED)
        if is_versioned:
            request.path_info = f"/api/{request.path_info.removeprefix(VERSIONED)}"
        found = _asked(request, get_response)
        if is_versioned and found.has_header("Location"):
            found["Location"] = found["Location"].replace("/api/", VERSIONED, 1)
        add_rate(request, found)
        if found.status_code >= 400 and not found.get("Content-Type", "").startswith("application/problem+json"):
            found = _as_problem(found)
        if not found.has_header("Cache-Control"):
            found["Cache-Control"] = "no-store"
        return found

    return answer


def _asked(request: HttpRequest, get_response: Next) -> HttpResponse:
    if request.method == "OPTIONS":
        return _what_is_allowed(request, get_response)
    if request.method != "HEAD":
        return get_response(request)
    request.method = request.META["REQUEST_METHOD"] = "GET"
    found = get_response(request)
    request.method = request.META["REQUEST_METHOD"] = "HEAD"
    if not found.streaming:
        length = len(found.content)
        found.content = b""
        found["Content-Length"] = str(length)
    return found


def _what_is_allowed(request: HttpRequest, get_response: Next) -> HttpResponse:
    """An operation that knows no such method names those that it knows."""
    found = get_response(request)
    if found.status_code != 405:
        return found
    allowed = {method.strip() for method in found.get("Allow", "").split(",") if method.strip()}
    more = {"HEAD"} if "GET" in allowed else set()
    return HttpResponse(status=204, headers={"Allow": ", ".join(sorted({*allowed, *more, "OPTIONS"}))})


def _as_problem(found: HttpResponse) -> HttpResponse:
    status = found.status_code
    answer = problem("request", TITLES.get(status, "This cannot be answered"), status)
    for name in ("Allow", "Retry-After"):
        if found.has_header(name):
            answer[name] = found[name]
    return answer
