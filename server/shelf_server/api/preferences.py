"""How a person likes to see things: kept for the person, not for the machine. Scripts neither read nor change it.

A report is written as its person likes it, whoever takes it away for them.
"""

from django.http import HttpRequest
from ninja import Router
from ninja.security import django_auth

from shelf_core.style import FigureStyle
from shelf_server.api.preference_schemas import GridColumn, PreferencesIn, PreferencesOut, Style
from shelf_server.api.problems import Problem
from shelf_server.designs.access import Person, person_id
from shelf_server.designs.models import Preferences

router = Router(tags=["preferences"], auth=django_auth)


@router.get("", response={200: PreferencesOut, 401: Problem})
def read_preferences(request: HttpRequest) -> PreferencesOut:
    """What you have chosen."""
    kept = Preferences.objects.filter(user_id=person_id(request.user)).first()
    if kept is None:
        return PreferencesOut(grid=[], style=Style())
    return PreferencesOut(grid=[GridColumn.model_validate(one) for one in kept.grid], style=style_of(kept))


@router.put("", response={200: PreferencesOut, 401: Problem, 403: Problem, 422: Problem})
def keep_preferences(request: HttpRequest, body: PreferencesIn) -> PreferencesOut:
    """Keep what you have chosen, in place of what you chose before."""
    Preferences.objects.update_or_create(
        user_id=person_id(request.user),
        defaults={"grid": [one.model_dump() for one in body.grid], **body.style.model_dump()},
    )
    return PreferencesOut(grid=body.grid, style=body.style)


def report_style(user: Person) -> FigureStyle:
    """How a report is written for a person."""
    kept = Preferences.objects.filter(user_id=person_id(user)).first()
    return FigureStyle(**({} if kept is None else style_of(kept).model_dump()))


def style_of(kept: Preferences) -> Style:
    """How figures are written for the person who chose it."""
    return Style.model_validate({"digits": kept.digits, "dates": kept.dates})
