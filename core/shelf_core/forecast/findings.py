"""Findings: rules that never act and other slips, in plain sentences with the way out."""

from collections.abc import Iterator

import numpy as np

from shelf_core.calendar.arithmetic import add_to_instants
from shelf_core.calendar.zones import DAY, day_number
from shelf_core.design.cadences import KINDS
from shelf_core.design.routes import Copy, StepDown, TakeKinds, TakeRungs, TakeRuns
from shelf_core.design.values import duration_of
from shelf_core.engine.retention.claims import RECENT
from shelf_core.engine.retention.holding import Holding
from shelf_core.engine.retention.lifecycle import CopyLife, Lifecycle
from shelf_core.engine.retention.states import standing_on
from shelf_core.engine.schedule.frame import AFTER_ALL, BEFORE_ALL
from shelf_core.engine.schedule.kinds import FULL, INCREMENTAL, LOG, SYNTHETIC
from shelf_core.engine.schedule.runs import skipped_times
from shelf_core.forecast.dates import written_day
from shelf_core.forecast.finding import CopyInUse, Finding, Kind, copies_in_use
from shelf_core.forecast.forecast import Forecast
from shelf_core.forecast.place_findings import (
    libraries,
    locks_in_turn,
    plans_with_nothing_first,
    starts_with_its_source,
    synthetics_on_tape,
    weak_locks,
)
from shelf_core.forecast.splits import longest_claim
from shelf_core.forecast.wording import duration_words


def findings(result: Forecast) -> list[Finding]:
    """All slips that the forecast shows, in the order of the document."""
    found: list[Finding] = []
    for used in copies_in_use(result):
        for look in _LOOKS_AT_A_COPY:
            found += look(used, result)
    found += _gone_before(result)
    return [
        *found,
        *_workloads(result),
        *_places(result),
        *_clock_changes(result),
        *libraries(result),
        *plans_with_nothing_first(result),
    ]


def _rungs(used: CopyInUse, _result: Forecast) -> Iterator[Finding]:
    for rung in used.ladder.rungs if used.ladder else ():
        if any(np.any(one.life.claims[rung.name] != BEFORE_ALL) for one in used.stages[0]):
            continue
        sentence = f"The rung {rung.name} claims nothing on {used.name}: no point there is a candidate of it."
        if rung.from_ == "self-contained" and not _has_fulls_after_the_first(used):
            way_out = "Only fulls, synthetics and snapshots are candidates; let it take points of any kind, or take fulls."
        else:
            way_out = "Look at its day, at what it is promoted from and at how long it keeps."
        yield used.finding("rung without candidates", sentence, way_out)


def _minimum_stays(used: CopyInUse, result: Forecast) -> Iterator[Finding]:
    targets = {target.id: target for target in result.design.targets}
    for stage, step in enumerate(used.copy.step_downs, start=1):
        target = targets[step.target]
        if not target.minimum_days or not step.skip_if_short:
            continue
        for label in _labels_of(used, step):
            before = [one.life for one in used.stages[stage - 1]]
            old_enough = [_reach_the_age(life, label, step, result) for life in before]
            moved = [_moved_for(one.life, label, result) for one in used.stages[stage]]
            if any(old_enough) and not any(moved):
                yield used.finding(
                    "minimum stay never met",
                    f"What {label} keeps of {used.name} never steps down to {target.name or target.id}, which bills at least "
                    f"{target.minimum_days} days: it is let go sooner.",
                    "Keep it longer, let it go earlier, or choose a target with a shorter minimum stay.",
                )


def _labels_of(used: CopyInUse, step: StepDown) -> list[str]:
    if isinstance(step.which, list):
        return step.which
    rungs = [rung.name for rung in used.ladder.rungs] if used.ladder else []
    return [RECENT, *rungs] if step.which == "all" and used.ladder else rungs


def _moved_for(life: Lifecycle, label: str, result: Forecast) -> bool:
    """Whether something that a rule claims longest comes to a stage within the design."""
    return bool(np.any((longest_claim(life) == label) & (life.written < result.frame.end)))


def _reach_the_age(life: Lifecycle, label: str, step: StepDown, result: Forecast) -> bool:
    """Whether a rule still claims points, longer than any other, when they have the age of a step-down."""
    age = add_to_instants(life.taken, duration_of(step.after), result.frame.zone)
    until = life.claims[label]
    old_enough = (until > age) & (until < AFTER_ALL) & (age < result.frame.end)
    return bool(np.any(old_enough & (longest_claim(life) == label)))


def _chains(used: CopyInUse, result: Forecast) -> Iterator[Finding]:
    for one in used.stages[0]:
        life = one.life
        builds = bool(np.any(life.needs_parent & (life.stored_as == INCREMENTAL)))
        if builds and not _has_fulls_after_the_first(used) and np.all(life.removed >= result.frame.end):
            yield used.finding(
                "chain never closes",
                f"{used.name} takes one full and then changes alone, so nothing ever goes: each point is needed by the next.",
                "Take a full or a synthetic now and then, or put the copy on a target with shared packing.",
            )
            return


def _has_fulls_after_the_first(used: CopyInUse) -> bool:
    return any(np.any(np.isin(one.life.kind[1:], (FULL, SYNTHETIC))) for one in used.stages[0])


def _locks(used: CopyInUse, result: Forecast) -> Iterator[Finding]:
    for one in (holding for stage in used.stages for holding in stage):
        life = one.life
        # Only what is settled within the design: claims that end by then.
        settled = (life.written >= result.frame.begin) & (life.claimed_until() < result.frame.end) & (life.locked > BEFORE_ALL)
        longer = life.locked[settled] - np.maximum(life.claimed_until()[settled], life.written[settled])
        if len(longer) and np.median(longer) > DAY:
            days = int(np.median(longer)) // DAY
            target = result.design.targets[one.target]
            yield used.finding(
                "lock outlasts its ladder",
                f"The lock of {used.name} on {target.name or target.id} outlasts what its ladder keeps, for half of the points "
                f"by {days} days or more.",
                "Shorten the lock, or let the ladder keep what is locked anyway.",
            )
            return


def _mostly_unlocked(used: CopyInUse, result: Forecast) -> Iterator[Finding]:
    """Locks that run out long before what they lock is let go: at the design's end most points there are free to delete."""
    last = np.array([result.frame.days - 1])
    for stage, holdings in enumerate(used.stages):
        locks = used.copy.lock if stage == 0 else used.copy.step_downs[stage - 1].lock
        if not locks or result.design.targets[holdings[0].target].lock == "none":
            continue
        there = locked = 0
        for one in holdings:
            standing = standing_on(one.life, result.frame, last)
            points = one.life.stored_as[standing.place] != LOG
            there += int(points.sum())
            locked += int((standing.locked[points] > result.frame.midnights[-1]).sum())
        if 2 * locked < there:
            target = result.design.targets[holdings[0].target]
            yield used.finding(
                "most of it unlocked",
                f"The lock of {used.name} on {target.name or target.id} covers {locked} of the {there} points that are there "
                f"at the design's end: all others can be deleted by whoever gets in.",
                'Lock for as long as the ladder keeps ("kept"), or longer for the rungs that stay long.',
            )


def _cold_index(used: CopyInUse, result: Forecast) -> Iterator[Finding]:
    for one in (holding for stage in used.stages for holding in stage):
        target = result.design.targets[one.target]
        indexes = [workload.name or workload.id for workload in one.workloads if workload.members]
        if indexes and target.minimum_days and np.any(one.life.written < result.frame.end):
            yield used.finding(
                "index on cold storage",
                f"{_listed(indexes)}, an index of what is stored, lies on {target.name or target.id}, a cold store: every "
                f"restore begins with reading it.",
                "Keep the points of an index on storage that is read at once.",
            )


def _gone_before(result: Forecast) -> Iterator[Finding]:
    """Following copies that find points gone from their source when their delay is over."""
    wholes = [(one.route, one.copy, one.whole) for one in result.holdings if one.stage == 0]
    ladders = {ladder.id: ladder for ladder in result.design.ladders}
    for route in result.design.routes:
        for copy in route.copies:
            if copy.from_ is None or copy.cadence or copy.delay is None or isinstance(copy.take, TakeRungs):
                continue
            of_source = [whole for *of_copy, whole in wholes if of_copy == [route.id, copy.from_]]
            counts = np.array([_missed(whole, copy, result) for whole in of_source], np.int64).reshape(-1, 2)
            missed, wanted = counts.sum(axis=0).tolist()
            if missed:
                used = CopyInUse(route, copy, ladders.get(copy.ladder or ""), [])
                yield used.finding(
                    "source gone before the copy",
                    f"{missed} of the {wanted} points that {used.name} should take are gone from {copy.from_} before its delay "
                    f"of {duration_words(duration_of(copy.delay))} is over; they are never copied.",
                    "Shorten the delay, or keep the points longer at the source.",
                )


def _missed(source: CopyLife, copy: Copy, result: Forecast) -> tuple[int, int]:
    """How many points of a source are gone when a copy would take them, and how many it would take, within the design."""
    life = source.points
    wanted = life.stored_as != LOG
    wanted[: source.opening] = False
    if isinstance(copy.take, TakeKinds):
        wanted &= np.isin(life.kind, [KINDS.index(kind) for kind in copy.take.kinds])
    elif isinstance(copy.take, TakeRuns):
        wanted &= np.isin(life.run, [at for at, name in enumerate(life.run_ids) if name in copy.take.runs])
    due = add_to_instants(life.written, duration_of(copy.delay or "PT0S"), result.frame.zone)
    wanted &= due < result.frame.end
    return int((wanted & (source.there_until <= due)).sum()), int(wanted.sum())


def _forever(used: CopyInUse, _result: Forecast) -> Iterator[Finding]:
    if used.ladder is None:
        return
    keeps = [rule.keep for rule in used.ladder.recent] + [rung.keep for rung in used.ladder.rungs]
    if "forever" not in keeps or not any(np.any(one.life.claimed_until() >= AFTER_ALL) for one in used.stages[0]):
        return
    yield used.finding(
        "ladder never lets go",
        f"{used.name} keeps points for good: its targets grow without end.",
        "Give the rule a time, however long.",
    )


def _workloads(result: Forecast) -> Iterator[Finding]:
    lies_on = _lies_on(result)
    last_day = result.day(result.frame.days - 1)
    for workload in result.design.workloads:
        name, holdings = workload.name or workload.id, lies_on.get(workload.id)
        if holdings is None:
            sentence = f"No route takes {name}."
            yield Finding("workload no route takes", sentence, "Name it, or one of its tags, in a route.", workload=workload.id)
            continue
        left = sum(int(np.sum(one.life.removed >= result.frame.end)) for one in holdings)
        if workload.until is not None and workload.until < last_day and left:
            ended = written_day(day_number(workload.until) * DAY)
            yield Finding(
                "stock of an ended workload",
                f"{name} ends on {ended}, and {left} of its points are still there at the design's end.",
                "Set the floor of its ladders to 0, or keep by time instead of by number.",
                workload=workload.id,
            )


def _places(result: Forecast) -> Iterator[Finding]:
    """Workloads whose points all lie where they are lost with the source, those of the same routes together."""
    together: dict[tuple[Kind, tuple[str, ...]], list[str]] = {}
    workloads = {workload.id: workload for workload in result.design.workloads}
    for workload, holdings in _lies_on(result).items():
        targets = [result.design.targets[one.target] for one in holdings if len(one.life)]
        routes = tuple(dict.fromkeys(one.route for one in holdings))
        if targets and all(target.media == "snapshot" for target in targets):
            together.setdefault(("on its source's storage only", routes), []).append(workload)
        elif targets and {target.site for target in targets} == {workloads[workload].site}:
            together.setdefault(("one site only", routes), []).append(workload)
    for (kind, routes), alike in together.items():
        names = _listed([workloads[workload].name or workload for workload in alike])
        where = (
            "beside their source, on its own storage" if kind == "on its source's storage only" else "on the site of the source"
        )
        way_out = "Add a copy on another target." if kind == "on its source's storage only" else "Add a copy on another site."
        yield Finding(kind, f"All points of {names} lie {where}.", way_out, route=routes[0])


def _listed(names: list[str]) -> str:
    if len(names) <= 3:
        return " and ".join([", ".join(names[:-1]), names[-1]] if len(names) > 1 else names)
    return f"{', '.join(names[:2])} and {len(names) - 2} more workloads"


def _lies_on(result: Forecast) -> dict[str, list[Holding]]:
    found: dict[str, list[Holding]] = {}
    for holding in result.holdings:
        for workload in holding.workloads:
            found.setdefault(workload.id, []).append(holding)
    return found


def _clock_changes(result: Forecast) -> Iterator[Finding]:
    for cadence in result.design.cadences:
        for run in cadence.runs:
            skipped = skipped_times(run, result.frame)
            if len(skipped):
                yield Finding(
                    "skipped by a clock change",
                    f"{run.name or run.id} runs at a local time that a clock change skips, first on "
                    f"{written_day(int(skipped[0]), with_time=True)}; it then runs by the clock of before.",
                    "Choose a time outside of the hour that clocks leave out.",
                    cadence=cadence.id,
                )


_LOOKS_AT_A_COPY = (
    _rungs,
    _minimum_stays,
    _chains,
    _locks,
    _mostly_unlocked,
    weak_locks,
    locks_in_turn,
    _forever,
    _cold_index,
    synthetics_on_tape,
    starts_with_its_source,
)
