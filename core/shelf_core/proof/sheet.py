"""Duties as a sheet of years: each ask of each workload with its verdict, the days on which it fails, and why."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from shelf_core.arrays import Bytes
from shelf_core.calendar.zones import DAY, day_number
from shelf_core.design.standing import Ask, Counted
from shelf_core.design.values import duration_of
from shelf_core.digits import grouped
from shelf_core.forecast.dates import written_day
from shelf_core.forecast.figure_words import length_words
from shelf_core.forecast.forecast import Forecast
from shelf_core.forecast.wording import duration_words
from shelf_core.proof.asks import Value
from shelf_core.proof.because import why_it_fails
from shelf_core.proof.duties import FAILS, HOLDS, Answer, Duties


@dataclass(frozen=True)
class FailedSpan:
    """Days on which an ask fails, both ends in, by their places in the design and by their dates."""

    first: int
    last: int
    first_day: str
    last_day: str


@dataclass(frozen=True)
class DutyRow:
    """An ask of a duty for the workloads that meet it alike, by the worst of which the reason is told.

    `asked_from` and `asked_to` are the places of the days on which it is judged.
    """

    duty: str
    duty_name: str
    source: str
    workloads: list[str]
    workload_names: list[str]
    ask: int
    kind: str
    asks: str
    verdict: str
    days_asked: int
    days_failed: int
    first_failed: str | None
    asked_from: int
    asked_to: int
    spans: list[FailedSpan]
    worst: str
    reason: str


@dataclass(frozen=True)
class DutySheet:
    """All duties of a design on all its days; `failing` counts the rows that fail."""

    days: int
    rows: list[DutyRow]
    failing: int


def sheet_of(duties: Duties) -> DutySheet:
    """The sheet of a design's duties, in the order of the document."""
    result = duties.result
    together: dict[tuple[object, ...], list[Answer]] = {}
    for answer in duties.answers():
        days = (tuple(answer.days.failed_spans()), *answer.days.places[:1].tolist(), len(answer.days))
        key = (answer.duty.id, answer.number, answer.verdict, days)
        together.setdefault(key, []).append(answer)
    places = {duty.id: place for place, duty in enumerate(result.design.duties)}
    alike = sorted(together.values(), key=lambda one: (places[one[0].duty.id], one[0].number))
    rows = [_row(result, duties, answers) for answers in alike]
    return DutySheet(result.frame.days, rows, sum(row.verdict == FAILS for row in rows))


def _row(result: Forecast, duties: Duties, answers: list[Answer]) -> DutyRow:
    # The one that is worst off tells for all that meet it alike.
    answer, worst = _worst_off(answers)
    failed, places = answer.failed, answer.days.places
    spans = [FailedSpan(first, last, result.day(first), result.day(last)) for first, last in answer.days.failed_spans()]
    return DutyRow(
        duty=answer.duty.id,
        duty_name=answer.duty.name or answer.duty.id,
        source=answer.duty.source,
        workloads=[one.workload.id for one in answers],
        workload_names=[one.workload.name or one.workload.id for one in answers],
        ask=answer.number,
        kind=answer.ask.kind,
        asks=ask_words(answer.ask, result),
        verdict=answer.verdict,
        days_asked=len(answer.days),
        days_failed=len(failed),
        first_failed=result.day(failed[0]) if failed else None,
        asked_from=int(places[0]) if len(places) else 0,
        asked_to=int(places[-1]) if len(places) else 0,
        spans=spans,
        worst=worst_words(answer.ask, worst),
        reason=reason_words(result, duties, answer),
    )


def _worst_off(answers: list[Answer]) -> tuple[Answer, Value | None]:
    """The one of some that are met alike whose worst value is the worst, and that value: of copies the least of each."""
    known = [one for one in answers if one.worst is not None]
    if not known:
        return answers[0], None
    values = np.stack([_extreme(one) for one in known])
    if values.ndim > 1:
        copies, media, off_site = values.min(axis=0).astype(int).tolist()
        least = (copies, media, off_site)
        return next((one for one in known if one.worst == least), answers[0]), least
    worst = known[int(values.argmax())]
    return worst, worst.worst


def _extreme(answer: Answer) -> Bytes:
    values = answer.days.values
    found: Bytes = values.min(axis=0) if values.ndim > 1 else values.max(axis=0)
    return found


def reason_words(result: Forecast, duties: Duties, answer: Answer) -> str:
    """Why an ask fails, or how far it holds, in a sentence."""
    if answer.verdict == HOLDS:
        return (
            f"Holds on all of the {grouped(len(answer.days))} days on which it is asked."
            if len(answer.days)
            else "It is never asked."
        )
    if answer.verdict != FAILS:
        return "Holds as far as this design goes; it holds, too, when the design is taken further."
    if not answer.failed:
        return "Holds within this design, but fails when the design is taken further."
    day = written_day(day_number(result.day(answer.failed[0])) * DAY)
    return f"Fails on {_days(len(answer.failed))}, first on {day}: {why_it_fails(duties, answer)}"


def _days(count: int) -> str:
    return f"{grouped(count)} {'day' if count == 1 else 'days'}"


def ask_words(ask: Ask, result: Forecast) -> str:
    """What is asked, as a sentence without its workloads."""
    words = "".join(_ASKED[ask.kind](ask, result))
    counted = "" if ask.counted is None else _counted_words(ask.counted, result)
    return f"{words}{counted}"


def _long(text: str | None) -> str:
    return duration_words(duration_of(text or "PT0S"))


def _age_words(ask: Ask, _result: Forecast) -> Iterator[str]:
    which = "the one before the newest point" if ask.spare else "the newest point"
    yield f"{which} is never older than {_long(ask.rpo)}"


def _history_words(ask: Ask, _result: Forecast) -> Iterator[str]:
    every = ask.every or ""
    if every.startswith("P"):
        yield f"a point every {_long(every)}, as far back as {_long(ask.history)}"
    else:
        yield f"a point of each {every}, as far back as {_long(ask.history)}"


def _copies_words(ask: Ask, _result: Forecast) -> Iterator[str]:
    yield f"{ask.copies} copies with the original"
    if ask.media:
        yield f", on {ask.media} kinds of media"
    if ask.off_site:
        yield f", {ask.off_site} off site"
    if ask.fresh:
        yield f", none older than {_long(ask.fresh)}"


def _gone_words(ask: Ask, _result: Forecast) -> Iterator[str]:
    yield f"nothing is left after {_long(ask.gone_after)}"


def _stands_words(ask: Ask, result: Forecast) -> Iterator[str]:
    case = next((one.name or one.id for one in result.design.loss_cases if one.id == ask.stands), ask.stands)
    if ask.rto is not None:
        yield f"after {case} it is {'in use' if ask.degraded else 'back'} within {_long(ask.rto)}"
    else:
        yield f"after {case} no more than {_long(ask.rpo)} are lost"


def _rehearsed_words(ask: Ask, _result: Forecast) -> Iterator[str]:
    yield f"a recovery was rehearsed within {_long(ask.rehearsed)}"


_ASKED = {
    "rpo": _age_words,
    "history": _history_words,
    "copies": _copies_words,
    "gone_after": _gone_words,
    "stands": _stands_words,
    "rehearsed": _rehearsed_words,
}


def _counted_words(counted: Counted, result: Forecast) -> str:
    targets = {target.id: target.name or target.id for target in result.design.targets}
    sites = {site.id: site.name or site.id for site in result.design.sites}
    parts = []
    if counted.targets:
        parts.append(f"on {_either([targets[one] for one in counted.targets])}")
    if counted.not_targets:
        parts.append(f"not on {_either([targets[one] for one in counted.not_targets])}")
    if counted.sites:
        parts.append(f"at {_either([sites[one] for one in counted.sites])}")
    if counted.off_site:
        parts.append("off site")
    if counted.media:
        parts.append(f"on {_either(list(counted.media))}")
    if counted.locked:
        lasting = f" for {_long(counted.locked_for)} more" if counted.locked_for else ""
        parts.append(f"locked{' so that nobody can lift it' if counted.locked == 'final' else ''}{lasting}")
    return f"; what counts is {', '.join(parts)}" if parts else ""


def _either(names: list[str]) -> str:
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} or {names[-1]}"


def worst_words(ask: Ask, worst: Value | None) -> str:
    """The worst value as people read it."""
    if worst is None:
        return "not asked"
    if isinstance(worst, tuple):
        copies, media, off_site = worst
        return f"{copies} copies, {media} {'medium' if media == 1 else 'media'}, {off_site} off site"
    if isinstance(worst, str):
        return {"nothing": "nothing is left", "never": "never back"}.get(worst, worst)
    if ask.kind == "history" and ask.every and not ask.every.startswith("P"):
        return "none missing" if worst == 0 else f"{worst:g} {ask.every}{'' if worst == 1 else 's'} without a point"
    return "no time" if worst == 0 else length_words(float(worst))
