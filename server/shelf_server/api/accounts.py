"""Signing in and out, with Django's own accounts and sessions."""

from django.contrib.auth import authenticate, login, logout
from django.contrib.auth.base_user import AbstractBaseUser
from django.contrib.auth.models import AnonymousUser
from django.core.exceptions import PermissionDenied
from django.http import HttpRequest, HttpResponse
from django.middleware.csrf import get_token
from ninja import Router
from ninja.security import django_auth
from ninja.utils import check_csrf

from shelf_server.api.account_schemas import SessionOut, SignIn
from shelf_server.api.preference_schemas import Style
from shelf_server.api.preferences import style_of
from shelf_server.api.problems import Problem, csrf_failure, problem
from shelf_server.designs.access import person_id
from shelf_server.designs.models import Preferences

router = Router(tags=["session"])


@router.get("", auth=None, response=SessionOut)
def who(request: HttpRequest) -> SessionOut:
    """Who is signed in. Sets the cookie with the token that every change needs."""
    get_token(request)
    return _session(request.user)


@router.post("", auth=None, response={200: SessionOut, 401: Problem, 403: Problem, 422: Problem, 429: Problem})
def sign_in(request: HttpRequest, body: SignIn) -> SessionOut | HttpResponse:
    """Sign in. The token is checked here as well, so that nobody can be signed in as somebody else unawares."""
    if check_csrf(request, sign_in):
        return csrf_failure(request, "the token is missing or wrong")
    try:
        user = authenticate(request, username=body.username.replace("\0", ""), password=body.password)
    except PermissionDenied:
        user = None
    if getattr(request, "axes_locked_out", False):
        return problem("locked-out", "Too many failed attempts; wait a quarter of an hour", 429)
    if user is None:
        return problem("sign-in", "This name and password do not go together", 401)
    login(request, user)
    return _session(user)


@router.delete("", auth=django_auth, response={200: SessionOut, 401: Problem, 403: Problem})
def sign_out(request: HttpRequest) -> SessionOut:
    """Sign out."""
    logout(request)
    return SessionOut(username=None, style=None)


def _session(user: AbstractBaseUser | AnonymousUser) -> SessionOut:
    if not user.is_authenticated:
        return SessionOut(username=None, style=None)
    kept = Preferences.objects.filter(user_id=person_id(user)).first()
    return SessionOut(username=user.get_username(), style=Style() if kept is None else style_of(kept))
