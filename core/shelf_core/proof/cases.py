"""What a case of loss leaves of what can be restored."""

from collections.abc import Callable
from dataclasses import dataclass, field

import numpy as np

from shelf_core.arrays import Mask
from shelf_core.calendar.arithmetic import add_to_instants
from shelf_core.calendar.names import Duration
from shelf_core.design.document import Design, selected
from shelf_core.design.standing import Intruder, LossCase, RecoveryPlan
from shelf_core.design.targets import Target
from shelf_core.design.values import duration_of
from shelf_core.design.workloads import Workload
from shelf_core.engine.retention.parents import NONE
from shelf_core.forecast.forecast import Forecast
from shelf_core.proof.cartridges import TapeLayout, layout_of
from shelf_core.proof.locks import locked_until
from shelf_core.proof.lying import Lying


@dataclass(eq=False)
class World:
    """What is left at an instant: of targets, links, originals and points; without a case all of it.

    `asked` is the newest moment that is good.
    """

    result: Forecast
    instant: int
    asked: int
    case: LossCase | None = None
    lost_targets: frozenset[str] = frozenset()
    lost_sites: frozenset[str] = frozenset()
    lost_originals: frozenset[str] = frozenset()
    tapes: dict[str, TapeLayout] = field(default_factory=dict)

    @property
    def design(self) -> Design:
        """The design that all this is of."""
        return self.result.design

    def layout(self, target: Target) -> TapeLayout:
        """How a tape target's points lie on cartridges."""
        if target.id not in self.tapes:
            self.tapes[target.id] = layout_of(self.result, target)
        return self.tapes[target.id]

    def left(self, lying: Lying) -> Mask:
        """Which points can be restored now, logs each by itself: those that are there and that the case leaves."""
        there = lying.there(self.instant)
        return there if self.case is None else there & self.spared(lying, there)

    def spared(self, lying: Lying, among: Mask) -> Mask:
        """Which of some points the case leaves, with all that each goes back to."""
        target = lying.target
        if target.media == "snapshot" and lying.workload.id in self.lost_originals:
            return np.zeros(len(among), bool)
        found = among.copy()
        if target.id in self.lost_targets:
            found = self._on_tape(lying, found, lambda away: target.away_site not in self.lost_sites if away else False)
        elif target.away_site in self.lost_sites:
            found = self._on_tape(lying, found, lambda away: not away)
        intruder = self.case.intruder if self.case else None
        if intruder is not None and target.account in intruder.accounts and target.id not in self.lost_targets:
            found &= self._locked(lying, intruder) | self._all_away(lying, found)
        return _with_all_it_needs(lying, found)

    def _locked(self, lying: Lying, intruder: Intruder) -> Mask:
        ends = locked_until(lying, self.instant, self.result, final=intruder.rights == "special")
        return ends >= self.instant

    def _all_away(self, lying: Lying, among: Mask) -> Mask:
        """Points all of whose cartridges are away: nobody reaches those over a network."""
        if lying.target.media != "tape" or lying.target.returns_after is None:
            return np.zeros(len(among), bool)
        return self._on_tape(lying, among, lambda away: away)

    def _on_tape(self, lying: Lying, among: Mask, keeps: Callable[[bool], bool]) -> Mask:
        """Which points have only cartridges that are kept, by whether each is away; of what is on no tape none is away."""
        layout = self.layout(lying.target)
        found = np.zeros(len(among), bool)
        for place in np.flatnonzero(among).tolist():
            cartridges = {
                one
                for machine in range(lying.workload.count)
                for one in layout.of(lying.number, lying.workload.id, place, machine)
            }
            away = [layout.is_away(one, self.instant) for one in cartridges] or [False]
            found[place] = all(keeps(one) for one in away)
        return found


def _with_all_it_needs(lying: Lying, found: Mask) -> Mask:
    """Without points that need one that is not among them."""
    builds = np.flatnonzero(found & lying.holding.life.needs_parent & (lying.parent != NONE))
    kept = found.copy()
    # A parent stands before what builds on it.
    for place in builds.tolist():
        kept[place] = kept[lying.parent[place]]
    return kept


def as_it_is(result: Forecast, instant: int, moment: int | None = None) -> World:
    """All that is there at an instant, asked for at a moment, by default the same."""
    return World(result, instant, instant if moment is None else moment)


def world_after(result: Forecast, case: LossCase, instant: int, tapes: dict[str, TapeLayout] | None = None) -> World:
    """What a case leaves at an instant."""
    design = result.design
    sites = frozenset(case.lost.sites)
    targets = {one.id for one in design.targets if one.site in sites} | set(case.lost.targets)
    asked = instant if case.unnoticed is None else before(instant, duration_of(case.unnoticed), result)
    originals = _lost_originals(case, design) if case.lost.source else []
    return World(
        result,
        instant,
        asked,
        case,
        frozenset(targets),
        sites,
        frozenset(one.id for one in originals),
        {} if tapes is None else tapes,
    )


def _lost_originals(case: LossCase, design: Design) -> list[Workload]:
    """With sites those there; else those of all that the plan names; else all."""
    if case.lost.sites:
        return [one for one in design.workloads if one.site in case.lost.sites]
    plan = next((one for one in design.recovery_plans if one.id == case.plan), None)
    return design.workloads if plan is None else named_by(plan, design)


def named_by(plan: RecoveryPlan, design: Design) -> list[Workload]:
    """The workloads that a plan names, in the order of the document."""
    named = {one.id for group in plan.groups for one in selected(group.workloads, design.workloads)}
    return [one for one in design.workloads if one.id in named]


def before(instant: int, length: Duration, result: Forecast) -> int:
    """An instant a duration earlier: months and days by the calendar."""
    back = Duration(-length.months, -length.days, -length.seconds)
    return int(add_to_instants(np.array([instant]), back, result.frame.zone)[0])
