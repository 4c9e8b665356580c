"""What a document may say but the engine does not compute yet: refused by name, never ignored."""

from collections.abc import Iterator

from shelf_core.design.document import Design
from shelf_core.design.faults import Fault, Path
from shelf_core.design.ladders import KeepSuperseded
from shelf_core.design.routes import Copy, TakeRungs
from shelf_core.design.targets import Target

_TARGET_FIELDS = ("devices", "cartridge", "slots", "drives", "set_closes", "returns_after")
_COPY_FIELDS = ("rotation", "step_downs")


def not_computed_yet(design: Design) -> list[Fault]:
    """A fault for each place of the document that the engine cannot compute yet."""
    logging = {cadence.id for cadence in design.cadences if any(run.kind == "log" for run in cadence.runs)}
    return [
        *(fault for place, target in enumerate(design.targets) for fault in _target(target, ("targets", place))),
        *(
            _fault(("workloads", place, "members"), "parts of an index")
            for place, workload in enumerate(design.workloads)
            if workload.members
        ),
        *(
            _fault(("ladders", place, "recent", at, "keep"), "superseded keeps")
            for place, ladder in enumerate(design.ladders)
            for at, rule in enumerate(ladder.recent)
            if isinstance(rule.keep, KeepSuperseded)
        ),
        *(
            fault
            for place, route in enumerate(design.routes)
            for at, copy in enumerate(route.copies)
            for fault in _copy(copy, logging, ("routes", place, "copies", at))
        ),
        *([_fault(("holds",), "holds")] if design.holds else []),
        *([_fault(("opening",), "opening stock")] if design.opening else []),
    ]


def _target(target: Target, path: Path) -> Iterator[Fault]:
    if target.media == "snapshot":
        yield _fault((*path, "media"), "snapshot space")
    for name in _TARGET_FIELDS:
        if getattr(target, name):
            yield _fault((*path, name), name)


def _copy(copy: Copy, logging: set[str], path: Path) -> Iterator[Fault]:
    for name in _COPY_FIELDS:
        if getattr(copy, name):
            yield _fault((*path, name), name.replace("_", "-"))
    if isinstance(copy.take, TakeRungs):
        yield _fault((*path, "take"), "taking what rungs picked")
    if copy.from_ is not None and copy.cadence in logging:
        yield _fault((*path, "cadence"), "logs on a copy that reads another")


def _fault(path: Path, what: str) -> Fault:
    return Fault(path, f"not computed yet: {what}")
