"""Why an ask fails on the first day on which it does: which points are missing, and what let go of them."""

import math

import numpy as np

from shelf_core.arrays import Places
from shelf_core.engine.schedule.frame import AFTER_ALL
from shelf_core.forecast.dates import written_day
from shelf_core.forecast.figure_words import length_words
from shelf_core.proof.asks import Value
from shelf_core.proof.counting import Counting
from shelf_core.proof.duties import NEVER_PROTECTED, Answer, Duties
from shelf_core.proof.lying import Lying


def why_it_fails(duties: Duties, answer: Answer) -> str:
    """The reason for the first failed day, in the rest of a sentence."""
    at = int(np.argmin(answer.days.holds))
    place, value = int(answer.days.places[at]), answer.days.value(at)
    if value == NEVER_PROTECTED:
        return "no route takes this workload, so there is never a point of it."
    return _REASONS[answer.ask.kind](duties, answer, place, value)


def _age(duties: Duties, answer: Answer, place: int, value: Value) -> str:
    counting = duties.counter.counting(answer.workload.id, answer.ask.counted)
    instant = float(duties.result.frame.midnights[place + 1])
    there = counting.at(instant)
    if not isinstance(value, (int, float)) or not len(there):
        return _nothing(duties, answer, instant)
    newest = there[np.argmax(counting.taken[there])]
    where = _where(counting.lyings[counting.lying[newest]])
    old, taken = length_words(float(value)), _at(duties, counting.taken[newest])
    return (
        f"the newest point that counts is then {old} old when the next one can first be restored; at the day's end it is that "
        f"of {taken} on {where}."
    )


def _nothing(duties: Duties, answer: Answer, instant: float) -> str:
    """No point counts: the newest that did, and what let go of it."""
    counting = duties.counter.counting(answer.workload.id, answer.ask.counted)
    gone = np.flatnonzero((counting.begin < counting.end) & (counting.end < instant))
    if not len(gone):
        return "no point of it that counts has come by then."
    return f"no point counts any more: {_let_go(duties, counting, gone[np.argmax(counting.end[gone])])}"


def _history(duties: Duties, answer: Answer, place: int, value: Value) -> str:
    counting = duties.counter.counting(answer.workload.id, answer.ask.counted)
    instant = float(duties.result.frame.midnights[place + 1])
    if isinstance(value, str):
        return _nothing(duties, answer, instant)
    there = counting.at(instant)
    missing = _gone_before(duties, answer, counting, there, instant)
    every = answer.ask.every or ""
    if isinstance(value, tuple):
        return ""
    lacks = f"{value:g} of these periods {'holds' if value == 1 else 'hold'} none"
    if every.startswith("P"):
        lacks = f"{length_words(float(value))} have no point near enough"
    return f"{lacks}{f'; {missing}' if missing else '.'}"


def _gone_before(duties: Duties, answer: Answer, counting: Counting, there: Places, instant: float) -> str:
    """The point that went last among those older than what is there, or between them."""
    ask, frame = answer.ask, duties.result.frame
    back = duties.earliest(ask, instant)
    oldest = float(counting.taken[there].min()) if len(there) else math.inf
    gone = np.flatnonzero((counting.begin < counting.end) & (counting.end < instant) & (counting.taken >= back - 86_400 * 40))
    older = gone[counting.taken[gone] < oldest] if frame.end else gone
    chosen = older if len(older) else gone
    return "" if not len(chosen) else _let_go(duties, counting, chosen[np.argmax(counting.end[chosen])])


def _let_go(duties: Duties, counting: Counting, number: int) -> str:
    """Which rule kept a point, and when it let it go."""
    lying = counting.lyings[int(counting.lying[number])]
    place = int(counting.place[number])
    life = lying.holding.life
    ends = {label: int(until[place]) for label, until in life.claims.items() if until[place] >= 0}
    latest = max(ends, key=lambda label: ends[label], default="")
    what = (
        f"the point of {_at(duties, int(life.taken[place]))} went from {_where(lying)} on {_on(duties, counting.end[number])}"
    )
    if int(life.moved_on[place]) < AFTER_ALL and life.moved_on[place] <= counting.end[number]:
        return f"{what}, when it stepped down."
    if not latest:
        return f"{what}: no rule kept it."
    ladder = lying.copy.ladder
    named = next((one.name or one.id for one in duties.result.design.ladders if one.id == ladder), ladder or "the rotation")
    return f"{what}, let go by {latest} of {named}."


def _copies(_duties: Duties, answer: Answer, _place: int, value: Value) -> str:
    ask = answer.ask
    copies, media, off_site = value if isinstance(value, tuple) else (0, 0, 0)
    lacks = []
    if copies < (ask.copies or 1):
        lacks.append(f"{copies} of {ask.copies} copies")
    if media < ask.media:
        lacks.append(f"{media} of {ask.media} kinds of media")
    if off_site < ask.off_site:
        lacks.append(f"{off_site} of {ask.off_site} off site")
    return f"there are {', '.join(lacks)} that count."


def _gone(duties: Duties, answer: Answer, place: int, value: Value) -> str:
    instant = int(duties.result.frame.midnights[place + 1])
    for lying in duties.counter.lyings[answer.workload.id]:
        life = lying.holding.life
        there = np.flatnonzero((life.written < instant) & (life.removed >= instant))
        if not len(there):
            continue
        oldest = int(there[np.argmin(life.taken[there])])
        until = float(life.removed[oldest])
        stays = "for good" if until >= AFTER_ALL else f"until {_on(duties, until)}"
        claims = {label: int(ends[oldest]) for label, ends in life.claims.items() if ends[oldest] >= instant}
        keeps = f", kept by {max(claims, key=lambda one: claims[one])}" if claims else ", which waits or is locked"
        late = length_words(float(value)) if isinstance(value, (int, float)) else ""
        point = f"the point of {_at(duties, int(life.taken[oldest]))}"
        return f"{point} is still on {_where(lying)} {late} after its time{keeps}, {stays}."
    return "something older is there."


def _stands(duties: Duties, answer: Answer, _place: int, value: Value) -> str:
    case = next(one for one in duties.result.design.loss_cases if one.id == answer.ask.stands)
    if isinstance(value, str):
        return "nothing is left to restore from." if value == "nothing" else "it is not brought back."
    if isinstance(value, tuple):
        return ""
    if answer.ask.rto is not None:
        return f"it is back {length_words(float(value))} after {case.name or case.id}."
    return f"{length_words(float(value))} would be lost by {case.name or case.id}."


def _rehearsed(_duties: Duties, _answer: Answer, _place: int, _value: Value) -> str:
    return "no rehearsal that passed is new enough by then."


_REASONS = {
    "rpo": _age,
    "history": _history,
    "copies": _copies,
    "gone_after": _gone,
    "stands": _stands,
    "rehearsed": _rehearsed,
}


def _where(lying: Lying) -> str:
    return lying.target.name or lying.target.id


def _at(duties: Duties, instant: float) -> str:
    zone = duties.result.frame.zone
    return written_day(int(zone.local(np.array([int(instant)]))[0]), with_time=True)


def _on(duties: Duties, instant: float) -> str:
    zone = duties.result.frame.zone
    return written_day(int(zone.local(np.array([int(instant)]))[0]))
