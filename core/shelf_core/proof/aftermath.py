"""What a case of loss takes, whenever it comes, and when each point would be left (docs/model.md, Losses)."""

import numpy as np

from shelf_core.arrays import Instants
from shelf_core.calendar.arithmetic import add_to_instants
from shelf_core.calendar.names import Duration
from shelf_core.design.document import Design, selected
from shelf_core.design.standing import Intruder, LossCase, RecoveryPlan
from shelf_core.design.values import duration_of
from shelf_core.design.workloads import Workload
from shelf_core.engine.retention.parents import NONE
from shelf_core.forecast.forecast import Forecast
from shelf_core.proof.cartridges import TapeLayouts
from shelf_core.proof.locks import lock_spans
from shelf_core.proof.lying import Lying
from shelf_core.proof.spans import Spans, each, either, held_up_by


class Aftermath:
    """What a case takes of a design; without a case nothing. What is found of a stage is kept for other instants."""

    def __init__(self, result: Forecast, case: LossCase | None = None, layouts: TapeLayouts | None = None) -> None:
        design = result.design
        self.result, self.case = result, case
        self.layouts = TapeLayouts(result) if layouts is None else layouts
        self.lost_sites = frozenset(case.lost.sites if case else ())
        at_lost_sites = {one.id for one in design.targets if one.site in self.lost_sites}
        self.lost_targets = frozenset(at_lost_sites.union(case.lost.targets if case else ()))
        originals = _lost_originals(case, design) if case and case.lost.source else []
        self.lost_originals = frozenset(one.id for one in originals)
        self._known: dict[tuple[int, str], tuple[Lying, Spans]] = {}

    def asked(self, instants: Instants) -> Instants:
        """The newest moments that are good when it comes at these instants."""
        if self.case is None or self.case.unnoticed is None:
            return instants
        length = duration_of(self.case.unnoticed)
        return add_to_instants(instants, Duration(-length.months, -length.days, -length.seconds), self.result.frame.zone)

    def restorable(self, lying: Lying) -> Spans:
        """When each point of a stage could be restored after it, logs each by itself, with all that each goes back to."""
        key = (lying.number, lying.workload.id)
        known = self._known.get(key)
        if known is None or known[0] is not lying:
            known = self._known[key] = (lying, self.spared(lying, each(lying.ready, lying.gone)))
        return known[1]

    def spared(self, lying: Lying, there: Spans) -> Spans:
        """Of the stretches in which points of a stage are there those in which the case leaves them, with all each needs."""
        if self.case is None:
            return there
        found, target = there, lying.target
        if lying.beside_source and lying.workload.id in self.lost_originals:
            return found.only(np.zeros(len(found), bool))
        for_ever = np.full(len(lying.taken), np.inf)
        if target.id in self.lost_targets:
            if not _has_a_store(lying) or target.away_site in self.lost_sites:
                return found.only(np.zeros(len(found), bool))
            found = found.within(self.layouts.of(target).leaves(lying), for_ever)
        elif target.away_site in self.lost_sites and _has_a_store(lying):
            found = found.within(-for_ever, self.layouts.of(target).leaves(lying, last=False))
        intruder = self.case.intruder
        if intruder is not None and target.account in intruder.accounts and target.id not in self.lost_targets:
            found = found.both(self._out_of_reach(lying, intruder))
        return held_up_by(found, np.where(lying.holding.life.needs_parent, lying.parent, NONE))

    def _out_of_reach(self, lying: Lying, intruder: Intruder) -> Spans:
        """When no intruder can delete a point: while a lock holds it, or all that it lies on is away."""
        locked = lock_spans(lying, self.result, final=intruder.rights == "special")
        if not _has_a_store(lying):
            return locked
        return either(locked, each(self.layouts.of(lying.target).leaves(lying), np.full(len(lying.taken), np.inf)))


def _has_a_store(lying: Lying) -> bool:
    return lying.target.media == "tape" and lying.target.returns_after is not None


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
