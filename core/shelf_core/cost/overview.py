"""All targets of a design on one page: today, on a chosen day, at the peak, at the end, and what they cost a month."""

from dataclasses import dataclass

from shelf_core.cost.cost import Cost
from shelf_core.forecast.forecast import Forecast, TargetForecast


@dataclass(frozen=True)
class OverviewRow:
    """One target. Points and stored bytes are those at the ends of days; `fill` is the highest peak over the room on its day.

    `cost_month` is what the month of the chosen day costs, `cost_whole` the whole design.
    """

    target: str
    name: str
    media: str
    points_today: int
    stored_today: float
    points_on: int
    stored_on: float
    peak: float
    peak_on: str
    points_end: int
    stored_end: float
    room_on: float | None
    fill: float | None
    full_on: str | None
    cost_month: float
    cost_whole: float


@dataclass(frozen=True)
class Overview:
    """All targets, what needs attention first at the head: full ones by their day, then by how full they get, then by cost.

    `today` is the day that stands for it: the first or last of the design where today lies outside.
    """

    today: str
    on: str
    end: str
    currency: str
    rows: list[OverviewRow]
    cost_month: float
    cost_whole: float


def overview(result: Forecast, cost: Cost, on: str, today: str) -> Overview:
    """The overview of a design at a day. `today` is an ISO date, also outside of the design.

    Raises ValueError for a day `on` outside the design.
    """
    first, last = result.day(0), result.day(result.frame.days - 1)
    today = min(max(today, first), last)
    places = (result.place_of(today), result.place_of(on), result.frame.days - 1)
    month = cost.month_of(on)
    rows = []
    for one, price in zip(result.targets, cost.targets, strict=True):
        per_month = price.per_month()
        rows.append(_row(result, one, places, float(per_month[month]), float(per_month.sum())))
    rows.sort(key=_attention)
    total = cost.per_month()
    return Overview(today, on, last, result.design.currency, rows, float(total[month]), float(total.sum()))


def _attention(row: OverviewRow) -> tuple[str, float, float]:
    return (row.full_on or "9999", -(row.fill or 0.0), -row.cost_whole)


def _row(result: Forecast, one: TargetForecast, places: tuple[int, int, int], month: float, whole: float) -> OverviewRow:
    totals, (today, on, end) = one.totals, places
    top = int(totals.peak_bytes.argmax())
    peak = float(totals.peak_bytes[top])
    room = one.room_bytes
    return OverviewRow(
        target=one.target.id,
        name=one.target.name or one.target.id,
        media=one.target.media,
        points_today=int(totals.points[today]),
        stored_today=float(totals.stored_bytes[today]),
        points_on=int(totals.points[on]),
        stored_on=float(totals.stored_bytes[on]),
        peak=peak,
        peak_on=result.day(top),
        points_end=int(totals.points[end]),
        stored_end=float(totals.stored_bytes[end]),
        room_on=None if room is None else float(room[on]),
        fill=None if room is None or room[top] <= 0 else peak / float(room[top]),
        full_on=None if one.full_on is None else result.day(one.full_on),
        cost_month=month,
        cost_whole=whole,
    )
