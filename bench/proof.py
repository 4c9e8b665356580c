"""Duties and losses of the demo, beside its forecast, and of many workloads with the same rules beside one."""

from statistics import median
from typing import Any

from bench.engine import once, read_demo
from shelf_core.design.document import Design
from shelf_core.engine.memory import Memory
from shelf_core.forecast.forecast import Forecast, forecast
from shelf_core.nights.parts import NightsWork
from shelf_core.nights.picture import night_of
from shelf_core.proof.arrived import Arrivals
from shelf_core.proof.duties import Duties
from shelf_core.proof.every_day import EveryDay
from shelf_core.proof.lying import lying_of
from shelf_core.proof.verdicts import Verdicts

ROUNDS = 5
MANY = 10_000
NIGHT = "2027-11-30"


def proof() -> dict[str, float]:
    """What judging takes, in milliseconds and as ratios to the forecast in the same run."""
    design, memory = read_demo(), Memory()
    result = forecast(design, memory)
    cold = _median(lambda: forecast(design, Memory()))
    everything = _median(lambda: list(Duties(result, Arrivals({}), further=lambda _longer: Arrivals({})).answers()))
    worst_case = max(_median(lambda case=case: _every_day(result, case)) for case in design.loss_cases)
    return {
        "all duties of the demo on all days (ms, median)": everything,
        "all duties beside a cold forecast (ratio)": everything / cold,
        "verdicts after one changed ladder (ms, median)": _after_edits(design, memory),
        "a case of loss on all days of the demo, the slowest (ms, median)": worst_case,
        "a case of loss beside a cold forecast (ratio)": worst_case / cold,
        f"{MANY:,} workloads with the same rules beside one (ratio)": _many(design) / _many(design, 1),
    }


def nights() -> dict[str, float]:
    """A year of the demo's nights followed, and one night of it from the quiet instant before."""
    result = forecast(read_demo())
    work = NightsWork(result)
    parts: list[Any] = []
    year = once(lambda: parts.append(work.part(0)))
    night = _median(lambda: night_of(result, NIGHT, parts[0].quiet))
    return {
        "a year of nights of the demo followed (ms)": year,
        "one night from the quiet instant before it (ms, median)": night,
        "one night beside the year (ratio)": night / year,
    }


def _median(work: Any) -> float:
    return median(once(work) for _ in range(ROUNDS))


def _every_day(result: Forecast, case: Any) -> list[Any]:
    return list(EveryDay(result, case, lying_of(result, Arrivals({}))).workloads())


def _after_edits(design: Design, memory: Memory) -> float:
    """Verdicts of states that differ by one keep, the engine's part left out."""
    verdicts, took = Verdicts(), []
    verdicts.of(forecast(design, memory), Arrivals({}))
    for points in range(20, 20 + ROUNDS):
        ladder = design.ladders[0]
        keep = ladder.recent[0].keep.model_copy(update={"points": points})  # type: ignore[union-attr]
        recent = [ladder.recent[0].model_copy(update={"keep": keep}), *ladder.recent[1:]]
        changed = design.model_copy(update={"ladders": [ladder.model_copy(update={"recent": recent}), *design.ladders[1:]]})
        result = forecast(changed, memory)
        took.append(once(lambda result=result: verdicts.of(result, Arrivals({}))))
    return median(took)


def _many(design: Design, count: int = MANY) -> float:
    """A case on all days of so many workloads of the first route."""
    route = design.routes[0]
    first = next(one for one in design.workloads if one.id in route.workloads.ids or set(one.tags) & set(route.workloads.tags))
    workloads = [first.model_copy(update={"id": f"w{number}"}) for number in range(count)]
    chosen = route.workloads.model_copy(update={"ids": [one.id for one in workloads], "tags": []})
    lists: dict[str, Any] = {"holds": [], "opening": [], "duties": [], "recovery_plans": [], "unknowns": []}
    routes = [route.model_copy(update={"workloads": chosen})]
    result = forecast(design.model_copy(update={"workloads": workloads, "routes": routes, **lists}))
    case = design.loss_cases[0].model_copy(update={"plan": None})
    return _median(lambda: _every_day(result, case))
