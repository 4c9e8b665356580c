"""Copies in plain words."""

from shelf_core.design.document import Design
from shelf_core.design.replicas import is_replica
from shelf_core.design.routes import Copy, Lock, Rotation, Route, StepDown, TakeKinds, TakeRungs, TakeRuns
from shelf_core.design.values import duration_of
from shelf_core.forecast.wording import duration_words

SCHEMES = {"fifo": "in turn", "hanoi": "as a Tower of Hanoi", "gfs": "by weekday, week and month"}


def copy_sentence(copy: Copy, route: Route, design: Design) -> str:
    """What a copy takes, when, how long it keeps it, what is locked and what steps down, in a few sentences."""
    parts = [f"{_takes(copy, route, design)}; {_keeps(copy, design)}."]
    if copy.lock:
        parts.append(f"Locked {_listed([_lock(lock) for lock in copy.lock])}.")
    names = {target.id: target.name or target.id for target in design.targets}
    parts += [_step(step, names.get(step.target, step.target)) for step in copy.step_downs]
    parts += _times(copy)
    if copy.sweep == "with-runs":
        parts.append("Old points go only when a run comes.")
    return " ".join(parts)


def _times(copy: Copy) -> list[str]:
    """From when until when its transfers start, how they are spread, and whether they are read back."""
    parts = []
    if copy.window is not None:
        rest = "what runs then goes on" if copy.at_close == "finish" else "what is not over then is given up"
        parts.append(f"Transfers start from {copy.window.opens} to {copy.window.closes}; {rest}.")
    if copy.spread is not None:
        parts.append(f"Those of one run are spread over {duration_words(duration_of(copy.spread))}.")
    if copy.verify:
        parts.append("Each is read back when it is written.")
    return parts


def _takes(copy: Copy, route: Route, design: Design) -> str:
    cadence = next((one.name or one.id for one in design.cadences if one.id == copy.cadence), None)
    if copy.from_ is None:
        return f"Takes its own points by {cadence}"
    source = next((one.name or one.id for one in route.copies if one.id == copy.from_), copy.from_)
    target = next(one for one in design.targets if one.id == copy.target)
    if cadence is not None:
        return f"Reads the newest point of {source} by {cadence}"
    delay = f" {duration_words(duration_of(copy.delay))} after it" if copy.delay and copy.delay != "PT0S" else ""
    follows = "Replicates" if is_replica(copy, target) else "Follows"
    return f"{follows} {source}{delay}, {_what(copy)}"


def _what(copy: Copy) -> str:
    if isinstance(copy.take, TakeKinds):
        return f"taking {_listed([f'{kind}s' for kind in copy.take.kinds])}"
    if isinstance(copy.take, TakeRuns):
        return f"taking what {_listed(copy.take.runs)} took"
    if isinstance(copy.take, TakeRungs):
        return f"taking what {_listed(copy.take.rungs)} picked"
    return "taking every point"


def _keeps(copy: Copy, design: Design) -> str:
    if copy.rotation is not None:
        return f"keeps by rotating tapes {_rotation(copy.rotation)}"
    return f"keeps by {next((one.name or one.id for one in design.ladders if one.id == copy.ladder), copy.ladder)}"


def _rotation(rotation: Rotation) -> str:
    sets = f", {rotation.sets} sets" if rotation.sets else ""
    return f"{SCHEMES[rotation.scheme]}{sets}"


def _lock(lock: Lock) -> str:
    how_long = "as long as it is kept" if lock.for_ == "kept" else f"for {duration_words(duration_of(lock.for_))}"
    named = [*(lock.kinds or ()), *(lock.runs or ()), *(lock.rungs or ())]
    mode = "nobody can lift it" if lock.mode == "final" else "liftable by special rights"
    return f"{how_long}{f' for {_listed(named)}' if named else ''} ({mode})"


def _step(step: StepDown, target: str) -> str:
    which = _which(step)
    stays = "is also put on" if step.keep_source else "steps down to"
    chain = ", chain by chain" if step.as_ == "chain" else ""
    return f"After {duration_words(duration_of(step.after))} {which} {stays} {target}{chain}."


def _which(step: StepDown) -> str:
    if isinstance(step.which, list):
        return f"what {_listed(step.which)} {'keeps' if len(step.which) == 1 else 'keep'}"
    return "what a rung keeps" if step.which == "rungs" else "everything kept"


def _listed(words: list[str]) -> str:
    return words[0] if len(words) == 1 else f"{', '.join(words[:-1])} and {words[-1]}"
