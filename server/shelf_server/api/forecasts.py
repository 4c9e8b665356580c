"""What is asked of a design's forecast, and rules in words."""

from typing import Any

from django.http import HttpRequest
from ninja import Query, Router

from shelf_core.design.editing import with_changes
from shelf_core.design.faults import DesignError, fault
from shelf_core.design.ladders import Ladder
from shelf_core.design.patterns import Pattern, Window, rule_sentence, rule_text, window_times
from shelf_core.engine.schedule.runs import runs_of
from shelf_core.forecast.effects import effects
from shelf_core.forecast.forecast import Forecast
from shelf_core.forecast.months import MonthSheet, month_sheet
from shelf_core.forecast.points import points_page
from shelf_core.forecast.series import detail_series, series, split_series
from shelf_core.forecast.shelves import shelves_on
from shelf_core.forecast.spines import spines_on
from shelf_core.forecast.splits import By
from shelf_core.forecast.target_charts import detail_charts, split_chart
from shelf_core.forecast.unfree import cannot_be_freed
from shelf_core.proof.loss_findings import all_findings
from shelf_server.api.answers import ladder_reading, readings, reference_of, routes_reading, with_change
from shelf_server.api.checks import check_target
from shelf_server.api.designs import READ_PROBLEMS, design_id
from shelf_server.api.edit_schemas import Trial, TrialOut, VerdictsOut
from shelf_server.api.edits import changes_of
from shelf_server.api.point_schemas import PointsOfPage, PointsOut, ShelvesOut
from shelf_server.api.problems import Problem
from shelf_server.api.reading_schemas import Readings, RoutesOut, RuleOut, WindowOut
from shelf_server.api.reason_schemas import DetailOut
from shelf_server.api.series_schemas import DaysAsked, EffectsOut, FindingsOut, SeriesOut, SplitOut, UnfreeOut
from shelf_server.api.verdicts import verdicts_of
from shelf_server.designs.access import person_id
from shelf_server.designs.models import Design, Reference
from shelf_server.designs.results import document_of, forecast_of, opened, reference_forecast, stored_forecast

router = Router(tags=["forecast"])

MOST: Any = Query(600, ge=10, le=2000)  # type: ignore[type-arg]
"""How many days of a series are sent: peaks survive, and a chart of this width shows no more."""

POINTS_CHOSEN: Any = Query(...)  # type: ignore[type-arg]
DAYS_ASKED: Any = Query(...)  # type: ignore[type-arg]


@router.get("/designs/{int:id}/series", response={200: SeriesOut, **READ_PROBLEMS})
def read_series(request: HttpRequest, id: int = design_id(), most: int = MOST) -> SeriesOut:  # noqa: A002
    """Points and bytes of every target through time, and of the reference, thinned so that peaks survive."""
    row = opened(request.user, id, "viewer")
    reference = Reference.objects.filter(design=row, user_id=person_id(request.user)).first()
    before = series(reference_forecast(reference), most) if reference and reference.revision != row.revision else []
    return SeriesOut(revision=row.revision, targets=series(stored_forecast(row), most), reference=before)


@router.get("/designs/{int:id}/split", response={200: SplitOut, **READ_PROBLEMS})
def read_split(
    request: HttpRequest,
    target: str,
    by: By,
    days: DaysAsked = DAYS_ASKED,
    id: int = design_id(),  # noqa: A002
    most: int = MOST,
) -> SplitOut:
    """One target through time and on a day, told apart by route, copy, workload, kind, rung or state."""
    row = opened(request.user, id, "viewer")
    result = stored_forecast(row)
    check_target(result, target)
    split = split_series(result, target, by, most, days.on, days.first, days.last)
    return SplitOut(revision=row.revision, split=split, chart=split_chart(result.frame, split))


@router.get("/designs/{int:id}/detail", response={200: DetailOut, **READ_PROBLEMS})
def read_detail(
    request: HttpRequest,
    target: str,
    days: DaysAsked = DAYS_ASKED,
    id: int = design_id(),  # noqa: A002
    most: int = MOST,
) -> DetailOut:
    """One target through time, or through some of its days, with what is moved, what it stands for and what must stay."""
    row = opened(request.user, id, "viewer")
    result = stored_forecast(row)
    check_target(result, target)
    found = detail_series(result, target, most, days.first, days.last)
    return DetailOut(revision=row.revision, series=found, charts=detail_charts(result.frame, found))


@router.get("/designs/{int:id}/unfree", response={200: UnfreeOut, **READ_PROBLEMS})
def read_unfree(request: HttpRequest, target: str, on: str, id: int = design_id()) -> UnfreeOut:  # noqa: A002
    """What nobody can free on a target from a day on, if every rule were cut at its end: locked, or only billed."""
    row = opened(request.user, id, "viewer")
    result = stored_forecast(row)
    check_target(result, target)
    held, locked = cannot_be_freed(result, target, on), cannot_be_freed(result, target, on, by_locks_alone=True)
    first = result.place_of(on)
    return UnfreeOut(revision=row.revision, first=first, stored_bytes=held.tolist(), locked_bytes=locked.tolist())


@router.get("/designs/{int:id}/points", response={200: PointsOut, **READ_PROBLEMS})
def read_points(request: HttpRequest, on: str, chosen: PointsOfPage = POINTS_CHOSEN, id: int = design_id()) -> PointsOut:  # noqa: A002
    """The list of points at the end of a day, a page at a time."""
    row = opened(request.user, id, "viewer")
    page = points_page(stored_forecast(row), on, chosen.choice(), chosen.first, chosen.most)
    return PointsOut(on=on, revision=row.revision, total=page.total, rows=page.rows, rules=page.rules, runs=page.runs)


@router.get("/designs/{int:id}/shelves", response={200: ShelvesOut, **READ_PROBLEMS})
def read_shelves(request: HttpRequest, on: str, ladder: str | None = None, id: int = design_id()) -> ShelvesOut:  # noqa: A002
    """Every point that is there at the end of a day, with why; with `ladder` only those that it rules."""
    row = opened(request.user, id, "viewer")
    return ShelvesOut(on=on, revision=row.revision, shelves=spines_on(stored_forecast(row), on, ladder))


@router.get("/designs/{int:id}/readings", response={200: Readings, **READ_PROBLEMS}, by_alias=True)
def read_readings(request: HttpRequest, on: str, id: int = design_id()) -> Readings:  # noqa: A002
    """All rules of a design in words."""
    return readings(stored_forecast(opened(request.user, id, "viewer")), on)


@router.post("/designs/{int:id}/trial", response={200: TrialOut, 403: Problem, **READ_PROBLEMS}, by_alias=True)
def try_changes(request: HttpRequest, body: Trial, id: int = design_id()) -> TrialOut:  # noqa: A002
    """What changes come to, through the whole engine, without saving them."""
    row = opened(request.user, id, "viewer")
    result, ladder = _tried(row, body)
    return TrialOut(
        consequences=with_change(reference_of(request.user, row.pk), row.revision, result, body.on),
        reading=ladder_reading(ladder, result.design, shelves_on(result, body.on)) if ladder else None,
    )


@router.post("/designs/{int:id}/trial/shelves", response={200: ShelvesOut, 403: Problem, **READ_PROBLEMS})
def try_changes_on_shelves(request: HttpRequest, body: Trial, id: int = design_id()) -> ShelvesOut:  # noqa: A002
    """What changes leave on the shelves: of the copies that use the first ladder among them, of all where there is none."""
    row = opened(request.user, id, "viewer")
    result, ladder = _tried(row, body)
    return ShelvesOut(on=body.on, revision=row.revision, shelves=spines_on(result, body.on, ladder.id if ladder else None))


@router.post("/designs/{int:id}/trial/verdicts", response={200: VerdictsOut, 403: Problem, **READ_PROBLEMS})
def try_changes_on_duties(request: HttpRequest, body: Trial, id: int = design_id()) -> VerdictsOut:  # noqa: A002
    """Which duties changes break or mend, without saving them: as `verdicts` says it of the design as saved."""
    row = opened(request.user, id, "viewer")
    return verdicts_of(reference_of(request.user, row.pk), row.pk, None, row.revision, _tried(row, body)[0])


@router.post("/designs/{int:id}/effects", response={200: EffectsOut, 403: Problem, **READ_PROBLEMS})
def weigh_changes(request: HttpRequest, body: Trial, id: int = design_id()) -> EffectsOut:  # noqa: A002
    """What changes would come to for each copy, without saving them."""
    row = opened(request.user, id, "viewer")
    return EffectsOut(on=body.on, effects=effects(stored_forecast(row), _tried(row, body)[0], body.on))


@router.get("/designs/{int:id}/findings", response={200: FindingsOut, **READ_PROBLEMS})
def read_findings(request: HttpRequest, id: int = design_id()) -> FindingsOut:  # noqa: A002
    """Rules that never act and other slips, with the way out."""
    row = opened(request.user, id, "viewer")
    return FindingsOut(revision=row.revision, findings=all_findings(stored_forecast(row)))


@router.get("/designs/{int:id}/routes", response={200: RoutesOut, **READ_PROBLEMS})
def read_routes(request: HttpRequest, on: str, id: int = design_id()) -> RoutesOut:  # noqa: A002
    """All routes in words, and how their workloads are protected at the end of a day."""
    row = opened(request.user, id, "viewer")
    return routes_reading(stored_forecast(row), on, row.revision)


@router.get("/designs/{int:id}/cadences/{key}/month", response={200: MonthSheet, **READ_PROBLEMS})
def read_month(request: HttpRequest, key: str, month: str, id: int = design_id()) -> MonthSheet:  # noqa: A002
    """What a cadence takes on each day of a month such as 2027-03."""
    result = stored_forecast(opened(request.user, id, "viewer"))
    cadence = next((one for one in result.design.cadences if one.id == key), None)
    if cadence is None:
        raise DesignError([fault("cadences", message=f'expected the id of a cadence, got "{key}"')])
    return month_sheet(cadence, runs_of(cadence, result.frame), result.frame, month)


@router.post("/window", response={200: WindowOut, 401: Problem, 403: Problem, 422: Problem})
def say_window(request: HttpRequest, body: Window) -> WindowOut:
    """The times of day of a window."""
    return WindowOut(at=window_times(body))


@router.post("/rules", response={200: RuleOut, 401: Problem, 403: Problem, 422: Problem})
def say_rule(request: HttpRequest, body: Pattern) -> RuleOut:
    """The recurrence rule of a pattern, so that nobody has to write one."""
    text = rule_text(body)
    return RuleOut(rrule=text, sentence=rule_sentence(text))


def _tried(row: Design, trial: Trial) -> tuple[Forecast, Ladder | None]:
    """The forecast with the changes of a trial made, and the first ladder among them."""
    design = document_of(row)
    changes = changes_of(trial.changes, design)
    ladders = (one.value for one in changes if isinstance(one.value, Ladder))
    return forecast_of(with_changes(design, changes)), next(ladders, None)
