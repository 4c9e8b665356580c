"""Proof: what a recovery plan comes to, and what a case of loss leaves. Duties on all days are a job (`duties`)."""

import re
from typing import TypeVar

from django.http import HttpRequest
from ninja import Router, Schema

from shelf_core.forecast.forecast import Forecast
from shelf_core.nights.tables import seconds_of
from shelf_core.proof.aftermath import Aftermath
from shelf_core.proof.arrived import LastArrivals
from shelf_core.proof.cases import as_it_is, world_after
from shelf_core.proof.losses import case_at
from shelf_core.proof.lying import Lying, lying_of
from shelf_core.proof.picture import CasePicture, PlanPicture, case_picture, plan_picture
from shelf_core.proof.plans import carry_out_plan
from shelf_server.api.answers import reference_of
from shelf_server.api.designs import READ_PROBLEMS, design_id
from shelf_server.api.edit_schemas import VerdictsOut
from shelf_server.api.verdicts import verdicts_of
from shelf_server.designs.models import Design
from shelf_server.designs.results import kept_with, opened, stored_forecast
from shelf_server.jobs.followed import known_nights

router = Router(tags=["proof"])
A_DATE = re.compile(r"\d{4}-\d{2}-\d{2}")
Part = TypeVar("Part")

_LAST_ARRIVALS = LastArrivals()
"""What this process followed last: an edit of a plan, a case or a rehearsal changes no transfer."""


class PlanOut(Schema):
    """A recovery plan as it would be carried out."""

    revision: int
    plan: PlanPicture


class CaseOut(Schema):
    """What a case of loss leaves."""

    revision: int
    case: CasePicture


@router.get("/designs/{int:id}/verdicts", response={200: VerdictsOut, **READ_PROBLEMS})
def read_verdicts(request: HttpRequest, id: int = design_id()) -> VerdictsOut:  # noqa: A002
    """Which duties hold on every day, at once: by the nights as far as they have been followed, without times of plans.

    The job `duties` has the last word: it follows what has not been followed, and judges plans at the ends of months.
    """
    row = opened(request.user, id, "viewer")
    return verdicts_of(reference_of(request.user, row.pk), row.pk, row.state, row.revision, stored_forecast(row))


@router.get("/designs/{int:id}/restore", response={200: PlanOut, **READ_PROBLEMS})
def read_restore(request: HttpRequest, plan: str, at: str, moment: str = "", id: int = design_id()) -> PlanOut:  # noqa: A002
    """What a recovery plan comes to when it is called for at a local time, to restore a moment: that time by default."""
    row = opened(request.user, id, "viewer")
    result = stored_forecast(row)
    chosen = _named(result.design.recovery_plans, plan, "recovery plan")
    called, asked = _instant(result, at), _instant(result, moment or at)
    if asked > called:
        raise ValueError(f"expected a moment at {at} or before, got {moment}")
    world = as_it_is(result, called, asked)

    def carried_out() -> PlanPicture:
        return plan_picture(result, plan, carry_out_plan(world, chosen, _lying(row, result, called)), called, asked)

    return PlanOut(revision=row.revision, plan=kept_with(row, ("restore", plan, called, asked), carried_out))


@router.get("/designs/{int:id}/losses", response={200: CaseOut, **READ_PROBLEMS})
def read_losses(request: HttpRequest, case: str, at: str, id: int = design_id()) -> CaseOut:  # noqa: A002
    """What a case of loss leaves when it comes at a local time: of every workload, on every target, and by its plan."""
    row = opened(request.user, id, "viewer")
    result = stored_forecast(row)
    chosen = _named(result.design.loss_cases, case, "case of loss")
    instant = _instant(result, at)

    def left() -> CasePicture:
        return case_picture(case_at(world_after(Aftermath(result, chosen), instant), _lying(row, result, instant)))

    return CaseOut(revision=row.revision, case=kept_with(row, ("losses", case, instant), left))


def _instant(result: Forecast, local: str) -> int:
    """A local time as an instant; a date alone is its end."""
    if A_DATE.fullmatch(local):
        return int(result.frame.midnights[result.place_of(local) + 1])
    seconds = int(seconds_of(result, local))
    frame = result.frame
    if not 0 <= seconds <= frame.end - frame.begin:
        first, last = result.day(0), result.day(frame.days - 1)
        raise ValueError(f"expected a local time from {first} to {last}, got {local}")
    return frame.begin + seconds


def _named(parts: list[Part], name: str, what: str) -> Part:
    found = next((one for one in parts if one.id == name), None)  # type: ignore[attr-defined]
    if found is None:
        known = ", ".join(one.id for one in parts) or "none"  # type: ignore[attr-defined]
        raise ValueError(f'expected the id of a {what} ({known}), got "{name}"')
    return found


def _lying(row: Design, result: Forecast, instant: int) -> dict[str, list[Lying]]:
    until = float(instant - result.frame.begin)

    def lying() -> dict[str, list[Lying]]:
        known = known_nights(row.pk, row.state, result)
        arrivals = known.arrivals if known.is_exact else None
        return lying_of(result, _LAST_ARRIVALS.of(result, until, known.quiet) if arrivals is None else arrivals)

    found: dict[str, list[Lying]] = kept_with(row, ("lying", instant), lying)
    return found
