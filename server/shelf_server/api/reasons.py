"""Why a forecast is what it is, and what it costs."""

from collections.abc import Mapping
from typing import Any

from django.http import HttpRequest
from django.utils import timezone
from ninja import Query, Router

from shelf_core.arrays import Bytes
from shelf_core.cost.cartridges import CartridgeDays
from shelf_core.cost.charts import category_drawing, cost_drawing, months_drawing
from shelf_core.cost.cost import Cost, TargetCost
from shelf_core.cost.overview import overview
from shelf_core.cost.parts import PartOfCost, cost_by, dearest
from shelf_core.design.faults import DesignError
from shelf_core.forecast.charts import chart_of
from shelf_core.forecast.consequences import Consequence, consequences
from shelf_core.forecast.forecast import Forecast
from shelf_core.forecast.series import Series, series
from shelf_core.forecast.spines import spine_rows_on
from shelf_core.reasons.keeps import longest_keep
from shelf_core.reasons.packing import other_packing
from shelf_core.reasons.sums import explain
from shelf_server.api.checks import check_target
from shelf_server.api.designs import READ_PROBLEMS, design_id
from shelf_server.api.reason_schemas import (
    BesideOut,
    CategoryCost,
    CostOut,
    CostPartsOut,
    ExplainOut,
    LongestKeepOut,
    MonthOut,
    OtherPackingOut,
    OverviewOut,
    PartCost,
    TapesOn,
    TargetCostOut,
    TargetMonth,
)
from shelf_server.designs.access import person_id
from shelf_server.designs.models import Design, Reference
from shelf_server.designs.results import engine_memory, forecast_of, opened, reference_cost, stored_cost, stored_forecast

DAYS: Any = Query(..., min_length=1, max_length=40)  # type: ignore[type-arg]
router = Router(tags=["reasons"])
SHOWN_DAYS = 300
MOST_SHOWN = 9


@router.get("/designs/{int:id}/explanation", response={200: ExplainOut, **READ_PROBLEMS})
def read_explanation(
    request: HttpRequest,
    target: str,
    on: str,
    of_copy: str | None = None,
    id: int = design_id(),  # noqa: A002
) -> ExplainOut:
    """The sum behind the points of a target, or of one copy on it such as `files / house`."""
    row = opened(request.user, id, "viewer")
    result = stored_forecast(row)
    check_target(result, target)
    place = [one.id for one in result.design.targets].index(target)
    copies = sorted({f"{one.route} / {one.copy}" for one in result.holdings if one.target == place})
    return ExplainOut(revision=row.revision, copies=copies, explanation=explain(result, target, on, of_copy))


@router.get("/designs/{int:id}/longest-keep", response={200: LongestKeepOut, **READ_PROBLEMS})
def read_longest_keep(
    request: HttpRequest,
    target: str,
    ladder: str,
    rung: str,
    until: str,
    id: int = design_id(),  # noqa: A002
) -> LongestKeepOut:
    """The longest keep of one rule with which a target is not full by a date: a rung by its name, or `recent`, `recent 2`."""
    row = opened(request.user, id, "viewer")
    found = longest_keep(stored_forecast(row), target, ladder, rung, until, engine_memory())
    return LongestKeepOut(revision=row.revision, longest=found)


@router.get("/designs/{int:id}/other-packing", response={200: OtherPackingOut, **READ_PROBLEMS})
def read_other_packing(request: HttpRequest, target: str, on: str, id: int = design_id()) -> OtherPackingOut:  # noqa: A002
    """What a target would hold with its packing the other way."""
    row = opened(request.user, id, "viewer")
    result = stored_forecast(row)
    check_target(result, target)
    now, now_series = _one(result, target, on)
    other, other_series, refused = None, None, ""
    try:
        other, other_series = _one(forecast_of(other_packing(result.document, target)), target, on)
    except DesignError as error:
        refused = str(error)
    packing = next(one.packing for one in result.design.targets if one.id == target)
    return OtherPackingOut(
        revision=row.revision,
        packing=packing,
        now=now,
        other=other,
        now_series=now_series,
        other_series=other_series,
        refused=refused,
    )


def _one(result: Forecast, target: str, on: str) -> tuple[Consequence, Series]:
    place = [one.target.id for one in result.targets].index(target)
    return consequences(result, on)[place], series(result, SHOWN_DAYS)[place]


@router.get("/designs/{int:id}/overview", response={200: OverviewOut, **READ_PROBLEMS})
def read_overview(request: HttpRequest, on: str, id: int = design_id()) -> OverviewOut:  # noqa: A002
    """All targets on one page, what needs attention first."""
    return _overviews(opened(request.user, id, "viewer"), [on])[0]


@router.get("/designs/{int:id}/overviews", response={200: list[OverviewOut], **READ_PROBLEMS})
def read_overviews(request: HttpRequest, on: list[str] = DAYS, id: int = design_id()) -> list[OverviewOut]:  # noqa: A002
    """The same for several days, for whoever walks through time: `on` may be given up to 40 times."""
    return _overviews(opened(request.user, id, "viewer"), on)


def _overviews(row: Design, days: list[str]) -> list[OverviewOut]:
    today, result, cost = timezone.localdate().isoformat(), stored_forecast(row), stored_cost(row)
    return [
        OverviewOut(revision=row.revision, overview=overview(result, cost, on, today), spines=spines)
        for on, spines in zip(days, spine_rows_on(result, days), strict=True)
    ]


@router.get("/designs/{int:id}/cost", response={200: CostOut, **READ_PROBLEMS})
def read_cost(request: HttpRequest, on: str, id: int = design_id()) -> CostOut:  # noqa: A002
    """What every target costs month by month, and the cartridges of tape targets at the end of a day."""
    row = opened(request.user, id, "viewer")
    cost, result = stored_cost(row), stored_forecast(row)
    place = result.place_of(on)
    names = {target.id: target.name or target.id for target in result.design.targets}
    return CostOut(
        revision=row.revision,
        currency=result.design.currency,
        months=cost.months,
        at=cost.month_of(on),
        per_month=cost.per_month().tolist(),
        whole=float(cost.per_month().sum()),
        by_category=_categories(cost.by_category()),
        targets=[_target_cost(one, place) for one in cost.targets],
        beside=[BesideOut(id=one.id, name=one.name, per_month=one.per_month.tolist()) for one in cost.beside],
        chart=chart_of(cost_drawing(result.frame, cost, names)),
        category_chart=chart_of(category_drawing(result.frame, cost)),
    )


@router.get("/designs/{int:id}/cost/parts", response={200: CostPartsOut, **READ_PROBLEMS})
def read_cost_parts(request: HttpRequest, on: str, by: PartOfCost, id: int = design_id()) -> CostPartsOut:  # noqa: A002
    """What each route, workload or group of workloads with the same tags costs month by month, the dearest first.

    The last part may be all others together; the table `cost-by-workload` and its like have each by itself.
    """
    row = opened(request.user, id, "viewer")
    cost, result = stored_cost(row), stored_forecast(row)
    result.place_of(on)
    parts = dearest(cost_by(result, cost, by), MOST_SHOWN)
    return CostPartsOut(
        revision=row.revision,
        currency=result.design.currency,
        by=by,
        months=cost.months,
        at=cost.month_of(on),
        parts=[PartCost(key=one.key, name=one.name, per_month=one.per_month.tolist()) for one in parts],
        chart=chart_of(months_drawing(result.frame, [(one.name, one.per_month.tolist()) for one in parts])),
    )


@router.get("/designs/{int:id}/cost/month", response={200: MonthOut, **READ_PROBLEMS})
def read_month_cost(request: HttpRequest, on: str, id: int = design_id()) -> MonthOut:  # noqa: A002
    """What the month of a day costs on every target, with the difference from the person's reference."""
    row = opened(request.user, id, "viewer")
    result = stored_forecast(row)
    result.place_of(on)
    reference = Reference.objects.filter(design=row, user_id=person_id(request.user)).first()
    before = _costs_on(reference_cost(reference), on) if reference else {}
    now = _costs_on(stored_cost(row), on)
    targets = [TargetMonth(target=one, cost=cost, change=_less(cost, before.get(one))) for one, cost in now.items()]
    return MonthOut(revision=row.revision, on=on, currency=result.design.currency, targets=targets)


def _costs_on(cost: Cost, on: str) -> dict[str, float]:
    """By target what the month of a day costs; nothing where the design does not cover it."""
    if on[:7] not in cost.months:
        return {}
    return {one.target: float(one.per_month()[cost.month_of(on)]) for one in cost.targets}


def _less(now: float, before: float | None) -> float | None:
    return None if before is None else now - before


def _target_cost(one: TargetCost, place: int) -> TargetCostOut:
    tapes = _tapes(one.cartridges, place) if one.cartridges is not None else None
    categories = _categories({name: cost for name, cost in one.by_category.items() if cost.any()})
    return TargetCostOut(target=one.target, per_month=one.per_month().tolist(), by_category=categories, tapes=tapes)


def _categories(found: Mapping[str, Bytes]) -> list[CategoryCost]:
    return [CategoryCost(category=name, per_month=cost.tolist()) for name, cost in found.items()]


def _tapes(days: CartridgeDays, place: int) -> TapesOn:
    return TapesOn(
        in_use=int(days.in_use[place]),
        free=int(days.free[place]),
        bought=int(days.bought[place]),
        to_buy=int(days.bought[-1] - days.bought[place]),
        away=int(days.away[place]),
        lacking_slots=None if days.lacking_slots is None else int(days.lacking_slots[place]),
        stranded_bytes=float(days.stranded_bytes[place]),
        owned_at_start=days.owned_at_start,
    )
