"""Sizes: what a workload holds at a time, and what changes in it (docs/model.md, Bytes)."""

from collections import defaultdict
from collections.abc import Mapping
from typing import NamedTuple

import numpy as np

from shelf_core.arrays import Bytes, Instants, Lengths, sums_before
from shelf_core.calendar.zones import DAY
from shelf_core.design.values import bytes_of
from shelf_core.design.workloads import Workload
from shelf_core.engine.schedule.frame import Frame

YEAR_DAYS = 365
YEAR_SECONDS = DAY * YEAR_DAYS


class Behaviour(NamedTuple):
    """How the data of a workload changes. Workloads that grow by shares alone are alike but for a factor: their `base` is 1.

    `even` is what is added in a year, whatever there is.
    """

    base: float
    steps: tuple[tuple[int, float], ...]
    growth: float
    change: float
    hot: float
    fresh: bool
    even: float = 0.0

    @property
    def only_grows(self) -> bool:
        """Whether the size never shrinks, and so never meets its bound of 0."""
        return self.growth >= 0 and self.even >= 0 and all(add >= 0 for _, add in self.steps)

    @property
    def is_a_share(self) -> bool:
        """Whether it only grows or shrinks by shares of itself."""
        return not self.steps and self.even == 0

    def curve(self) -> "Behaviour":
        """What the size through time depends on alone, as a behaviour without change."""
        return self._replace(change=0.0, hot=1.0, fresh=False)


class Scale(NamedTuple):
    """Factors on what a behaviour stores: of fulls, of changes, bytes of log per second, and of fulls before any reduction."""

    full: float
    change: float
    log_per_second: float
    unreduced: float = 0.0

    def plus(self, other: "Scale") -> "Scale":
        """The scale of both together."""
        return Scale(*(mine + its for mine, its in zip(self, other, strict=True)))


def behaviour_of(workload: Workload, frame: Frame) -> Behaviour:
    """The behaviour of a workload."""
    size, even, _ = _given(workload)
    steps = tuple(sorted((frame.midnight(step.on), bytes_of(step.add)) for step in workload.steps))
    return Behaviour(
        base=size if steps or even else 1.0,
        steps=steps,
        growth=workload.annual_growth_percent / 100,
        change=workload.daily_change_percent / 100,
        hot=workload.hot_percent / 100,
        fresh=workload.change_pattern == "fresh",
        even=even,
    )


def scale_of(workload: Workload) -> Scale:
    """The factors of a workload beside its behaviour: size (of what grows by shares alone), count and reductions."""
    given, even, log_per_day = _given(workload)
    # What has steps or grows evenly has a size through time that is no factor of that of others.
    size = 1.0 if workload.steps or even else given
    change_reduction = workload.change_reduction or workload.reduction
    full = workload.count * size / workload.reduction
    return Scale(
        full,
        workload.count * size / change_reduction,
        workload.count * (log_per_day / DAY) / change_reduction,
        full * workload.reduction,
    )


def _given(workload: Workload) -> tuple[float, float, float]:
    """The bytes that a workload has, grows by in a year, and logs in a day."""
    return bytes_of(workload.size), bytes_of(workload.annual_growth or 0), bytes_of(workload.log_per_day or 0)


def scales_of(workloads: tuple[Workload, ...], frame: Frame) -> dict[Behaviour, Scale]:
    """The scales of workloads, those together that behave alike."""
    found: dict[Behaviour, Scale] = {}
    for workload in workloads:
        behaviour, scale = behaviour_of(workload, frame), scale_of(workload)
        found[behaviour] = found[behaviour].plus(scale) if behaviour in found else scale
    return found


def source_bytes(behaviour: Behaviour, instants: Instants, begin: int) -> Bytes:
    """S(t): the size of the source at each instant, growing by compound interest over years of 365 days.

    `base` and each step grow by the same factor, so the size is that factor times what had been added by then, discounted to
    the begin: one look-up for each instant, however many steps there are.
    """
    if behaviour.even:
        return _growing_evenly(behaviour, instants, begin)
    factor = 1 + behaviour.growth
    grown = factor ** ((instants - begin) / YEAR_SECONDS)
    if not behaviour.steps:
        return behaviour.base * grown
    if factor <= 0:
        return _source_without_growing_back(behaviour, instants, begin)
    at, added = (np.array(column) for column in zip(*behaviour.steps, strict=True))
    discounted = sums_before(added * factor ** (-(at - begin) / YEAR_SECONDS))
    return np.maximum((behaviour.base + discounted[np.searchsorted(at, instants, side="right")]) * grown, 0.0)


def machine_bytes(workload: Workload, instants: Instants, frame: Frame) -> Bytes:
    """What the source of one machine of a workload holds at each instant, before any reduction."""
    sizes = source_bytes(behaviour_of(workload, frame), instants, frame.begin)
    return sizes * scale_of(workload).full / workload.count * workload.reduction


def _growing_evenly(behaviour: Behaviour, instants: Instants, begin: int) -> Bytes:
    """The same for what grows by so many bytes a year of 365 days; steps do not grow further."""
    size = behaviour.base + behaviour.even * ((instants - begin) / YEAR_SECONDS)
    if behaviour.steps:
        at, added = (np.array(column) for column in zip(*behaviour.steps, strict=True))
        size = size + sums_before(added)[np.searchsorted(at, instants, side="right")]
    return np.maximum(size, 0.0)


def _source_without_growing_back(behaviour: Behaviour, instants: Instants, begin: int) -> Bytes:
    """The same where all is lost at once, so that nothing can be discounted."""
    size = behaviour.base * 0.0 ** ((instants - begin) / YEAR_SECONDS)
    for at, add in behaviour.steps:
        age = (instants - at) / YEAR_SECONDS
        size = size + np.where(age >= 0, add * 0.0 ** np.maximum(age, 0), 0.0)
    return np.maximum(size, 0.0)


def added_up(weights: Mapping[Behaviour, float]) -> dict[Behaviour, float]:
    """Fewer curves with the same sum: those that only grow, by the same factor, are one whose steps are those of all.

    The size of a source is then a sum of its base and steps without a bound, so that weighted sums of curves are a curve. So
    are those that grow evenly.
    """
    found: dict[Behaviour, float] = defaultdict(float)
    base: dict[tuple[Behaviour, bool], float] = defaultdict(float)
    even: dict[tuple[Behaviour, bool], float] = defaultdict(float)
    steps: dict[tuple[Behaviour, bool], dict[int, float]] = defaultdict(lambda: defaultdict(float))
    for behaviour, weight in weights.items():
        if not behaviour.only_grows or behaviour.is_a_share:
            found[behaviour] += weight
            continue
        like = (behaviour._replace(base=1.0, steps=(), even=0.0), behaviour.even > 0)
        base[like] += weight * behaviour.base
        even[like] += weight * behaviour.even
        for at, add in behaviour.steps:
            steps[like][at] += weight * add
    for kind, whole in base.items():
        of_all = tuple(sorted(steps[kind].items()))
        found[kind[0]._replace(base=whole, steps=of_all, even=even[kind])] += 1.0
    return found


def changed_share(behaviour: Behaviour, seconds: Lengths) -> Bytes:
    """The share of the source that changed in a time: blocks hit at least once, or new data alone."""
    days = seconds / DAY
    if behaviour.fresh:
        return np.minimum(1.0, behaviour.change * days)
    # expm1 and log1p keep the digits of a small daily share; with all of the hot part changing log1p is -inf.
    with np.errstate(divide="ignore", invalid="ignore"):
        untouched = np.where(days > 0, days * np.log1p(-behaviour.change / behaviour.hot), 0.0)
    return -behaviour.hot * np.expm1(untouched)


def source_sum(weights: Mapping[Behaviour, float], instants: Instants, begin: int) -> Bytes:
    """The sources of several behaviours at each instant, times their weights, added up. Each curve is computed once."""
    by_curve: dict[Behaviour, float] = defaultdict(float)
    for behaviour, weight in weights.items():
        by_curve[behaviour.curve()] += weight
    total = np.zeros(len(instants))
    for curve, weight in added_up(by_curve).items():
        total += weight * source_bytes(curve, instants, begin)
    return total


def changed_sum(weights: Mapping[Behaviour, float], before: Instants, after: Instants, begin: int) -> Bytes:
    """What differs in the sources of several behaviours between two instants, times their weights, added up, elementwise.

    Of one behaviour it is the changed share of what there was, plus what has grown; with new data alone the larger of the
    two, since the growth is the new data. Each curve and each share is computed once, however many behaviours have it.
    """
    scattered_ones = {behaviour: weight for behaviour, weight in weights.items() if not behaviour.fresh}
    alike = {**added_up(scattered_ones), **{one: weight for one, weight in weights.items() if one.fresh}}
    by_curve: dict[Behaviour, list[tuple[Behaviour, float]]] = defaultdict(list)
    for behaviour, weight in alike.items():
        by_curve[behaviour.curve()].append((behaviour, weight))
    shares: dict[tuple[float, float, bool], Bytes] = {}
    total = np.zeros(len(before))
    for curve, behaviours in by_curve.items():
        was = source_bytes(curve, before, begin)
        growth = source_bytes(curve, after, begin) - was
        scattered, scattered_weight = np.zeros(len(before)), 0.0
        for behaviour, weight in behaviours:
            name = (behaviour.change, behaviour.hot, behaviour.fresh)
            if name not in shares:
                shares[name] = changed_share(behaviour, after - before)
            if behaviour.fresh:
                total += weight * np.maximum(was * shares[name], growth)
            else:
                scattered += weight * shares[name]
                scattered_weight += weight
        total += was * scattered + scattered_weight * np.maximum(growth, 0.0)
    return total
