"""Findings about what a target can do: lock, hold cartridges, put synthetics together, be read in time."""

from collections.abc import Iterator

import numpy as np

from shelf_core.calendar.zones import DAY
from shelf_core.engine.schedule.kinds import LOG, SYNTHETIC
from shelf_core.forecast.dates import written_day
from shelf_core.forecast.finding import CopyInUse, Finding
from shelf_core.forecast.forecast import Forecast
from shelf_core.forecast.tape import used_cartridges

HOUR = 3600


def libraries(result: Forecast) -> Iterator[Finding]:
    """Tape libraries that get more cartridges than they have slots."""
    for place, target in enumerate(result.design.targets):
        if target.slots is None or target.cartridge is None:
            continue
        full_on = used_cartridges(result, target, [one for one in result.holdings if one.target == place]).full_on()
        if full_on is not None:
            day = written_day((result.frame.first_day + full_on) * DAY)
            yield Finding(
                "more cartridges than slots",
                f"{target.name or target.id} has {target.slots} slots; from {day} on more cartridges lie in it.",
                "Add slots, keep less on it, use larger cartridges, or let full ones leave for a store.",
                target=target.id,
            )


def plans_with_nothing_first(result: Forecast) -> Iterator[Finding]:
    """Recovery plans of a design in which nothing is restored before all else: no catalogue, no keys."""
    design = result.design
    if any(one.needed_first for one in design.workloads):
        return
    for plan in design.recovery_plans:
        yield Finding(
            "nothing is needed first",
            f"The plan {plan.name or plan.id} restores nothing before all else: no catalogue of what lies where, and no keys.",
            "Say of the workload that holds them that it is needed first, or add it.",
        )


def weak_locks(used: CopyInUse, result: Forecast) -> Iterator[Finding]:
    """Locks that are more than their target can do."""
    targets = {target.id: target for target in result.design.targets}
    stages = [
        (used.copy.target, used.copy.lock),
        *((step.target, step.lock) for step in used.copy.step_downs),
    ]
    for name, locks in stages:
        target = targets[name]
        if not locks or (
            target.lock != "none" and not (target.lock == "liftable" and any(one.mode == "final" for one in locks))
        ):
            continue
        what = "holds nothing there: it cannot lock" if target.lock == "none" else "is no more than liftable there"
        yield used.finding(
            "lock that its target cannot keep",
            f"The lock of {used.name} on {target.name or target.id} {what}.",
            "Say what the target can lock, if it can, or put the copy where locks hold.",
        )


def locks_in_turn(used: CopyInUse, _result: Forecast) -> Iterator[Finding]:
    """Locks on tapes that a rotation writes over."""
    if used.copy.rotation is not None and used.copy.lock:
        yield used.finding(
            "lock on tapes in turn",
            f"The lock of {used.name} holds nothing: its tapes are written over in turn, whatever is locked on them.",
            "Keep by a ladder what must not be deleted.",
        )


def synthetics_on_tape(used: CopyInUse, result: Forecast) -> Iterator[Finding]:
    """Synthetic fulls that are put together where reading back is slow."""
    target = next(one for one in result.design.targets if one.id == used.copy.target)
    if target.media == "tape" and any(np.any(one.life.stored_as == SYNTHETIC) for one in used.stages[0]):
        yield used.finding(
            "synthetic on tape",
            f"{used.name} puts synthetic fulls together on {target.name or target.id}: what goes into one is read back from "
            f"tape while it is written.",
            "Put them together on disk and copy them, or take fulls there.",
        )


def starts_with_its_source(used: CopyInUse, result: Forecast) -> Iterator[Finding]:
    """Copies with runs of their own that mostly begin within the hour after a run of their source has begun."""
    if used.copy.from_ is None or used.copy.cadence is None:
        return
    source = [one for one in result.holdings if (one.route, one.copy, one.stage) == (used.route.id, used.copy.from_, 0)]
    begun = np.unique(np.concatenate([one.life.written[one.life.stored_as != LOG] for one in source]))
    read = np.unique(np.concatenate([one.life.written[one.whole.opening :] for one in used.stages[0]]))
    read = read[read < result.frame.end]
    before = np.searchsorted(begun, read, side="right") - 1
    waits = np.where(before >= 0, read - np.r_[begun, 0][before], HOUR)
    if len(read) and 2 * np.count_nonzero(waits < HOUR) > len(read):
        minutes = int(np.median(waits[waits < HOUR])) // 60
        when = f"{minutes} minute{'' if minutes == 1 else 's'} after" if minutes else "at the instant at which"
        source_name = next(one.name or one.id for one in used.route.copies if one.id == used.copy.from_)
        yield used.finding(
            "starts with its source",
            f"{used.name} starts {when} {source_name} does, when that has hardly been written: it would still read the point "
            f"before, or wait.",
            "Let it start hours later, or follow its source.",
        )
