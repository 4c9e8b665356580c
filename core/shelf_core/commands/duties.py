"""`duties`: whether every duty holds for every workload, on which days it fails, and the worst of each."""

import json
from argparse import ArgumentParser, Namespace
from collections.abc import Iterator

from shelf_core.commands.common import design_argument, forecast_of, json_argument, progress, write_rows
from shelf_core.forecast.forecast import Forecast
from shelf_core.proof.duties import FAILS, Answer, Duties, value_text

COLUMNS = (
    "duty", "workload", "ask", "asked", "days_asked", "verdict", "days_failed", "first_failed", "failed_spans", "worst",
)  # fmt: skip
DAY_COLUMNS = ("duty", "workload", "ask", "date", "verdict", "value")


def arguments(parser: ArgumentParser) -> None:
    """A design, and how much is asked of it."""
    design_argument(parser)
    parser.add_argument("--every-day", action="store_true", help="one row for each day on which an ask is judged")
    parser.add_argument("--check", action="store_true", help="exit with 1 when a duty fails, so that a pipeline can stop")
    json_argument(parser, "one JSON object a line")


def run(chosen: Namespace) -> int:
    """Print the rows; 1 with --check where one fails."""
    result = forecast_of(chosen.design)
    with progress("judging the duties") as watch:
        answers = list(Duties(result).answers(watch))
    if chosen.every_day:
        write_rows(DAY_COLUMNS, _days(result, answers), as_json=chosen.json)
    else:
        write_rows(COLUMNS, (_row(result, one) for one in answers), as_json=chosen.json)
    return 1 if chosen.check and any(one.verdict == FAILS for one in answers) else 0


def _row(result: Forecast, one: Answer) -> tuple[str | int, ...]:
    failed = one.failed
    spans = [
        result.day(first) if first == last else f"{result.day(first)}..{result.day(last)}"
        for first, last in one.days.failed_spans()
    ]
    asked = json.dumps(one.ask.model_dump(mode="json", by_alias=True, exclude_unset=True), separators=(",", ":"))
    first = result.day(failed[0]) if failed else ""
    name = (one.duty.id, one.workload.id, one.number + 1, asked)
    return (*name, len(one.days), one.verdict, len(failed), first, " ".join(spans), value_text(one.worst))


def _days(result: Forecast, answers: list[Answer]) -> Iterator[tuple[str | int, ...]]:
    for one in answers:
        for at, place in enumerate(one.days.places.tolist()):
            verdict = "holds" if one.days.holds[at] else FAILS
            yield one.duty.id, one.workload.id, one.number + 1, result.day(place), verdict, value_text(one.days.value(at))
