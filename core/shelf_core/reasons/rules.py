"""The single rules of a design, and the same design without one of them."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any, Literal

from shelf_core.design.document import Design
from shelf_core.design.ladders import KeepPeriods, KeepPoints, Ladder
from shelf_core.design.routes import Copy, Lock
from shelf_core.design.values import duration_of
from shelf_core.forecast.wording import duration_words, rule_words

NOTHING_KEPT = "PT0S"
"""A time that ends as it begins: a rung that keeps its picks so long still picks, for other rungs, takes and step-downs."""

Sort = Literal["recent", "rung", "floor", "lock", "step-down", "hold"]


@dataclass(frozen=True)
class SingleRule:
    """One rule: of a ladder (`owner` its id), of a copy (`owner` such as `files / house`), or a hold.

    `place` is its place among the owner's rules of its sort, `words` say what it does.
    """

    sort: Sort
    owner: str
    place: int
    words: str


def rules_of(design: Design) -> list[SingleRule]:
    """All rules of a design that claim, lock or move points, in the order of the document.

    Those of ladders that no copy uses are left out.
    """
    used = {copy.ladder for route in design.routes for copy in route.copies}
    found = [rule for ladder in design.ladders if ladder.id in used for rule in _of_ladder(ladder)]
    for route in design.routes:
        for copy in route.copies:
            found += _of_copy(f"{route.id} / {copy.id}", copy)
    return found + [
        SingleRule("hold", "", place, f"the hold placed on {hold.placed}") for place, hold in enumerate(design.holds)
    ]


def _of_ladder(ladder: Ladder) -> Iterator[SingleRule]:
    for place, recent in enumerate(ladder.recent):
        yield SingleRule("recent", ladder.id, place, rule_words(recent))
    for place, rung in enumerate(ladder.rungs):
        yield SingleRule("rung", ladder.id, place, rule_words(rung))
    if ladder.floor:
        which = "the newest" if ladder.floor == 1 else f"the newest {ladder.floor}"
        yield SingleRule("floor", ladder.id, 0, f"{which} in any case")


def _of_copy(name: str, copy: Copy) -> Iterator[SingleRule]:
    for place, lock in enumerate(copy.lock):
        yield SingleRule("lock", name, place, _lock_words(lock))
    for place, step in enumerate(copy.step_downs):
        yield SingleRule(
            "step-down", name, place, f"the step-down to {step.target} after {duration_words(duration_of(step.after))}"
        )


def _lock_words(lock: Lock) -> str:
    return "the lock as long as kept" if lock.for_ == "kept" else f"the lock of {duration_words(duration_of(lock.for_))}"


def without(design: Design, rule: SingleRule) -> Design:
    """The design as if a rule did nothing: what it claims is not claimed by it, what it locks is not locked by it.

    A rung still picks, so that what is promoted or taken from it stays what it was.
    """
    if rule.sort == "hold":
        return design.model_copy(update={"holds": _dropped(design.holds, rule.place)})
    if rule.sort in ("lock", "step-down"):
        field = "lock" if rule.sort == "lock" else "step_downs"
        return _with_copy(design, rule.owner, lambda copy: {field: _dropped(getattr(copy, field), rule.place)})
    return with_ladder(design, rule.owner, lambda ladder: _silenced(ladder, rule))


def with_ladder(design: Design, key: str, change: Callable[[Ladder], Ladder]) -> Design:
    """The design with what `change` makes of a ladder in its place."""
    ladders = [change(ladder) if ladder.id == key else ladder for ladder in design.ladders]
    return design.model_copy(update={"ladders": ladders})


def with_rung_keep(ladder: Ladder, place: int, keep: KeepPeriods | str) -> Ladder:
    """The ladder with another keep of one rung."""
    rungs = list(ladder.rungs)
    rungs[place] = rungs[place].model_copy(update={"keep": keep})
    return ladder.model_copy(update={"rungs": rungs})


def with_recent_keep(ladder: Ladder, place: int, keep: KeepPoints | str) -> Ladder:
    """The ladder with another keep of one recent rule."""
    recent = list(ladder.recent)
    recent[place] = recent[place].model_copy(update={"keep": keep})
    return ladder.model_copy(update={"recent": recent})


def _silenced(ladder: Ladder, rule: SingleRule) -> Ladder:
    if rule.sort == "floor":
        return ladder.model_copy(update={"floor": 0})
    if rule.sort == "rung":
        keep = ladder.rungs[rule.place].keep
        return with_rung_keep(ladder, rule.place, KeepPeriods(periods=0) if isinstance(keep, KeepPeriods) else NOTHING_KEPT)
    by_time = isinstance(ladder.recent[rule.place].keep, str)
    return with_recent_keep(ladder, rule.place, NOTHING_KEPT if by_time else KeepPoints(points=0))


def _dropped(entries: list[Any], place: int) -> list[Any]:
    return [*entries[:place], *entries[place + 1 :]]


def _with_copy(design: Design, name: str, change: Callable[[Copy], dict[str, Any]]) -> Design:
    routes = []
    for route in design.routes:
        copies = [copy.model_copy(update=change(copy)) if f"{route.id} / {copy.id}" == name else copy for copy in route.copies]
        routes.append(route.model_copy(update={"copies": copies}))
    return design.model_copy(update={"routes": routes})
