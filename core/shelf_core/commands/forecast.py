"""`forecast`: what every target will hold, and whether one is full too soon."""

import sys
from argparse import ArgumentParser, Namespace
from collections.abc import Iterator

import numpy as np

from shelf_core.calendar.arithmetic import add_to_local
from shelf_core.calendar.zones import DAY, day_number, day_text
from shelf_core.commands.common import design_argument, forecast_of, json_argument, named, refuse, write_json, write_rows
from shelf_core.commands.people import Cell
from shelf_core.cost.cost import cost_of
from shelf_core.design.typed import typed_duration
from shelf_core.design.values import duration_of
from shelf_core.forecast.forecast import Forecast, TargetForecast
from shelf_core.formats.digest import digest
from shelf_core.formats.tables import FORECAST_COLUMNS, forecast_rows

SUMMARY_COLUMNS = (
    "target",
    "points_at_end",
    "stored_bytes_at_end",
    "peak_bytes",
    "peak_on",
    "full_on",
    "cost_of_all_years",
    "currency",
)
CONDITION_FAILS = 1


def arguments(parser: ArgumentParser) -> None:
    """A design, what is printed of it, and what must hold."""
    design_argument(parser)
    parser.add_argument("--target", metavar="ID", help="only this target")
    parser.add_argument("--summary", action="store_true", help="one row for each target: its end, peak, full-on date, cost")
    json_argument(parser, "one JSON object a line; with --summary one document, with the design's digest")
    parser.add_argument(
        "--full-within",
        metavar="DURATION",
        help="exit with 1 when a target is full within such a time (1 year, P1Y) of the design's start, or of --from",
    )
    parser.add_argument("--from", dest="start", metavar="DATE", help="the day from which --full-within counts")


def run(chosen: Namespace) -> int:
    """Print the table, then say which targets are full too soon."""
    result = forecast_of(chosen.design)
    targets = _chosen_targets(result, chosen.target)
    limit = _limit(result, chosen)
    if chosen.summary:
        _write_summary(result, targets, as_json=chosen.json)
    else:
        write_rows(FORECAST_COLUMNS, forecast_rows(result, targets), as_json=chosen.json)
    early = [] if limit is None else [(one, day) for one in targets if (day := _full_on(result, one)) and day <= limit]
    for one, day in early:
        print(f"{one.target.id}: full on {day}, expected room until after {limit}", file=sys.stderr)
    return CONDITION_FAILS if early else 0


def _chosen_targets(result: Forecast, wanted: str | None) -> list[TargetForecast]:
    if wanted is not None:
        named("--target", wanted, result.design.targets, "target")
    return [one for one in result.targets if wanted in (None, one.target.id)]


def _limit(result: Forecast, chosen: Namespace) -> str | None:
    """The last day on which nothing may be full, None where nothing was asked for."""
    if chosen.full_within is None:
        if chosen.start is not None:
            raise refuse("--from", "expected it beside --full-within only")
        return None
    try:
        length = duration_of(typed_duration(chosen.full_within))
    except ValueError as error:
        raise refuse("--full-within", str(error)) from None
    start = result.design.starts if chosen.start is None else chosen.start
    result.place_of(start)
    begins = np.array([DAY * day_number(start)])
    ends = add_to_local(begins, length.months, length.days) + length.seconds
    return day_text(int(ends[0]) // DAY - 1)


def _full_on(result: Forecast, one: TargetForecast) -> str | None:
    return None if one.full_on is None else result.day(one.full_on)


def _write_summary(result: Forecast, targets: list[TargetForecast], *, as_json: bool) -> None:
    rows = list(_summary(result, targets))
    if not as_json:
        write_rows(SUMMARY_COLUMNS, rows, as_json=False)
        return
    about = {"design": result.design.name, "digest": digest(result.document), "first": result.day(0)}
    last = {"last": result.day(result.frame.days - 1)}
    write_json({**about, **last, "targets": [dict(zip(SUMMARY_COLUMNS, row, strict=True)) for row in rows]})


def _summary(result: Forecast, targets: list[TargetForecast]) -> Iterator[tuple[Cell, ...]]:
    costs = {one.target: float(one.per_month().sum()) for one in cost_of(result).targets}
    for one in targets:
        totals = one.totals
        top = int(totals.peak_bytes.argmax())
        yield (
            one.target.id,
            int(totals.points[-1]),
            float(totals.stored_bytes[-1]),
            float(totals.peak_bytes[top]),
            result.day(top),
            _full_on(result, one),
            costs[one.target.id],
            result.design.currency,
        )
