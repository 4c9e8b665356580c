"""Checks that parts of a document fit each other: what may lie where, and what needs what beside it."""

from collections.abc import Iterator

from shelf_core.design.cadences import Cadence
from shelf_core.design.document import Design, selected
from shelf_core.design.faults import Fault, Path, shown
from shelf_core.design.ladders import Ladder
from shelf_core.design.routes import Copy, Lock, Rotation, Route, StepDown, TakeKinds, TakeRungs
from shelf_core.design.targets import Target

SELF_CONTAINED = {"full", "synthetic"}


def fitting_faults(design: Design) -> list[Fault]:
    """All parts that do not fit, in the order of the document. References must lead somewhere already."""
    return [
        *(fault for place, target in enumerate(design.targets) for fault in _target(target, ("targets", place))),
        *_workloads(design),
        *_copies(design),
        *_opening(design),
        *_unknowns(design),
    ]


def _unknowns(design: Design) -> Iterator[Fault]:
    """A growth that is not known is a share: it says nothing of a workload that grows by a size."""
    for place, unknown in enumerate(design.unknowns):
        if unknown.annual_growth_percent is None:
            continue
        even = [one for one in selected(unknown.workloads, design.workloads) if one.annual_growth is not None]
        if even:
            name = shown(even[0].name or even[0].id)
            yield Fault(
                ("unknowns", place, "annual_growth_percent"),
                f"expected workloads that grow by a share of themselves, got {name}, which grows by a size a year",
            )


def _target(target: Target, path: Path) -> Iterator[Fault]:
    if target.reclaim is not None and target.media == "snapshot":
        yield Fault((*path, "reclaim"), "expected none on snapshot space, which gives its blocks back at once")
    if target.devices and (target.media != "disk" or target.packing != "separate"):
        yield Fault((*path, "devices"), f"expected them on disk with separate packing, got {target.media}, {target.packing}")
    if target.cartridge is not None and target.packing == "shared":
        yield Fault((*path, "cartridge"), "expected separate packing beside it, got shared")
    names = [device.name for device in target.devices]
    for place, name in enumerate(names):
        if name in names[:place]:
            yield Fault((*path, "devices", place, "name"), f"expected a name of its own, got {shown(name)} again")
    for name in ("cartridge", "slots", "drives", "batch_closes", "returns_after"):
        if getattr(target, name) is not None and target.media != "tape":
            yield Fault((*path, name), f"expected it on tape alone, got it on {target.media}")


def _workloads(design: Design) -> Iterator[Fault]:
    for place, workload in enumerate(design.workloads):
        for at, member in enumerate(workload.members):
            for number, (begins, ends) in enumerate(member.offline):
                if ends < begins:
                    path: Path = ("workloads", place, "members", at, "offline", number)
                    yield Fault(path, f"expected two dates in their order, got {begins} and {ends}")


def _copies(design: Design) -> Iterator[Fault]:
    targets = {target.id: target for target in design.targets}
    cadences = {cadence.id: cadence for cadence in design.cadences}
    ladders = {ladder.id: ladder for ladder in design.ladders}
    for place, route in enumerate(design.routes):
        for at, copy in enumerate(route.copies):
            path: Path = ("routes", place, "copies", at)
            cadence = cadences.get(copy.cadence or "")
            source = next((targets[other.target] for other in route.copies if other.id == copy.from_), None)
            yield from _on_its_target(cadence, targets[copy.target], source, path)
            yield from _locks_fit(copy.lock, ladders.get(copy.ladder or ""), (*path, "lock"))
            yield from _step_downs(copy, targets, ladders.get(copy.ladder or ""), path)
            yield from _picks_are_known_in_time(copy, route, ladders, path)
            if copy.rotation is not None:
                yield from _rotation(copy, copy.rotation, cadence, targets[copy.target], path)


def _on_its_target(cadence: Cadence | None, target: Target, source: Target | None, path: Path) -> Iterator[Fault]:
    """Whether a copy and its target, and that of the copy that it is from, fit together."""
    on_snapshot_space = target.media == "snapshot"
    if on_snapshot_space and source is not None:
        yield from _replicates(source, target, path)
    kinds = {run.kind for run in cadence.runs} if cadence is not None else set()
    if cadence is not None and on_snapshot_space and kinds != {"snapshot"}:
        yield Fault((*path, "cadence"), "expected a cadence of snapshots alone, since the target is snapshot space")
    if not on_snapshot_space and "snapshot" in kinds:
        yield Fault((*path, "cadence"), "expected a cadence without snapshots, since the target is not snapshot space")


def _replicates(source: Target, target: Target, path: Path) -> Iterator[Fault]:
    if source.media != "snapshot":
        wanted = "a copy of snapshots, which alone are replicated to snapshot space"
        yield Fault((*path, "from"), f"expected {wanted}, got one on {source.media} ({shown(source.id)})")
    elif source.site == target.site:
        wanted = f"snapshot space at another site than {shown(source.site)}, where the snapshots are that it replicates"
        yield Fault((*path, "target"), f"expected {wanted}, got {shown(target.id)} at the same")


def _locks_fit(locks: list[Lock], ladder: Ladder | None, path: Path) -> Iterator[Fault]:
    for place, lock in enumerate(locks):
        if lock.for_ == "kept" and (ladder is None or not _ends_are_known(ladder)):
            wanted = "a ladder whose claims are durations or forever, with picks that are first"
            yield Fault((*path, place, "for"), f"expected {wanted}, got {shown(ladder.id if ladder else 'a rotation')}")


def _ends_are_known(ladder: Ladder) -> bool:
    """Whether the end of every claim is known when a point is written (the floor aside, which counts as 0 then)."""
    keeps = [rule.keep for rule in ladder.recent] + [rung.keep for rung in ladder.rungs]
    return all(isinstance(keep, str) for keep in keeps) and all(rung.pick == "first" for rung in ladder.rungs)


def _step_downs(copy: Copy, targets: dict[str, Target], ladder: Ladder | None, path: Path) -> Iterator[Fault]:
    before = targets[copy.target]
    for place, step in enumerate(copy.step_downs):
        target, at = targets[step.target], (*path, "step_downs", place)
        if target.media == "snapshot":
            yield Fault((*at, "target"), "expected another than snapshot space, where snapshots are taken and nothing moves to")
        if target.id == before.id:
            yield Fault((*at, "target"), f"expected another target than the stage before, got {shown(target.id)} again")
        if step.as_ == "chain":
            yield from _chain(step, before, target, at)
        yield from _locks_fit(step.lock, ladder, (*at, "lock"))
        before = target


def _chain(step: StepDown, before: Target, target: Target, path: Path) -> Iterator[Fault]:
    if step.which != "all":
        yield Fault((*path, "which"), f'expected "all" for a chain, which moves as a whole, got {shown(step.which)}')
    if before.media == "snapshot" or before.packing == "shared" or target.packing == "shared":
        yield Fault((*path, "as"), 'expected "full", since a chain lies on separate packing before and after, got "chain"')


def _picks_are_known_in_time(copy: Copy, route: Route, ladders: dict[str, Ladder], path: Path) -> Iterator[Fault]:
    if not isinstance(copy.take, TakeRungs):
        return
    source = next(other for other in route.copies if other.id == copy.from_)
    ladder = ladders.get(source.ladder or "")
    for rung in ladder.rungs if ladder else ():
        if rung.name in copy.take.rungs and rung.every == "hour" and rung.pick == "last":
            yield Fault((*path, "take", "rungs"), f"expected rungs by the hour to pick first, got {shown(rung.name)}")


def _rotation(copy: Copy, rotation: Rotation, cadence: Cadence | None, target: Target, path: Path) -> Iterator[Fault]:
    at = (*path, "rotation")
    if target.media != "tape":
        yield Fault(at, f"expected it on tape alone, got it on {target.media}")
    if rotation.scheme in ("fifo", "hanoi") and rotation.sets is None:
        yield Fault((*at, "sets"), f"expected the number of sets for {rotation.scheme}, got nothing")
    if rotation.scheme == "gfs" and rotation.weekly_on is None:
        yield Fault((*at, "weekly_on"), "expected a weekday such as FR for gfs, got nothing")
    if not _each_session_is_self_contained(copy, cadence):
        yield Fault(at, "expected sessions that can be restored by themselves: fulls, synthetics or what rungs picked")


def _each_session_is_self_contained(copy: Copy, cadence: Cadence | None) -> bool:
    if cadence is not None:
        return {run.kind for run in cadence.runs} <= SELF_CONTAINED
    if isinstance(copy.take, TakeRungs):
        return True
    return isinstance(copy.take, TakeKinds) and set(copy.take.kinds) <= SELF_CONTAINED


def _opening(design: Design) -> Iterator[Fault]:
    targets = {target.id: target for target in design.targets}
    copies = {(route.id, copy.id): copy for route in design.routes for copy in route.copies}
    for place, point in enumerate(design.opening):
        on_snapshot_space = targets[copies[point.route, point.copy_].target].media == "snapshot"
        if on_snapshot_space != (point.kind == "snapshot"):
            wanted = (
                "a snapshot on snapshot space" if on_snapshot_space else "no snapshot, since its copy is not on snapshot space"
            )
            yield Fault(("opening", place, "kind"), f"expected {wanted}, got {shown(point.kind)}")
        if point.taken[:10] >= design.starts:
            yield Fault(("opening", place, "taken"), f"expected a time before {design.starts}, got {point.taken}")
