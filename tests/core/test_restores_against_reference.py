"""Recovery plans against a slow reading that lets each machine be a process of its own."""

import random
from collections.abc import Callable
from typing import Any

import pytest

from shelf_core.design.reading import design_of
from shelf_core.forecast.forecast import forecast
from shelf_core.proof import choosing, plans, restoring
from shelf_core.proof.aftermath import Aftermath
from shelf_core.proof.arrived import Arrivals
from shelf_core.proof.cases import as_it_is, world_after
from shelf_core.proof.lying import LazyLyings
from shelf_core.proof.plans import Restored, carry_out_plan
from tests.core.reference.proof import stretches_of_all
from tests.core.reference.restores import Back, SlowPlan
from tests.core.test_duties_against_reference import varied

DESIGNS = 40
DAYS = 14
MB, GB = 10**6, 10**9
CASES: list[dict[str, Any]] = [
    {"lost": {"sites": ["a"]}},
    {"lost": {"sites": ["b"]}},
    {"lost": {"targets": ["d"]}},
    {"unnoticed": "P1DT6H", "lost": {"source": False}},
]


def design(number: int) -> dict[str, Any]:
    """Up to five workloads of several machines at three sites, speeds, streams, thawing, limits by the hour, and a plan."""
    draw = random.Random(number)  # noqa: S311 - designs, no secrets
    plain = {name: value for name, value in varied(number).items() if name != "holds"}
    plain["sites"] = [{"id": site, **_some(draw, write_speed=[90 * MB, 400 * MB], network=[150 * MB])} for site in "abc"]
    model = plain["workloads"][0]
    plain["workloads"] = [model | {"id": f"w{place}"} | _machine(draw) for place in range(draw.randint(2, 5))]
    plain["routes"][0]["workloads"] = {"ids": [one["id"] for one in plain["workloads"]]}
    for target in plain["targets"]:
        target.update(
            _some(draw, read_speed=[120 * MB, 300 * MB], stream_speed=[40 * MB, 75 * MB], streams=[1, 2, 4], thaw=["PT5H"])
        )
    speeds = [30 * MB, 80 * MB, 200 * MB]
    plain["links"] = [
        {"id": "ab", "sites": ["a", "b"], "speed": draw.choice(speeds), **_some(draw, shared=[True], stream_speed=[25 * MB])},
        {"id": "bc", "sites": ["b", "c"], "speed": draw.choice(speeds), **_some(draw, usable_percent=[60])},
    ]
    if draw.random() < 0.5:
        plain["links"].append({"id": "ac", "sites": ["c", "a"], "speed": draw.choice(speeds)})
    if draw.random() < 0.6:
        limit = {"from": "07:00", "to": "18:30", "speed": draw.choice([0, 10 * MB])}
        plain["links"][0]["limits"] = [limit | _some(draw, days=[["MO", "WE", "SA"]])]
    plain["recovery_plans"] = [_plan(draw, plain)]
    plain["loss_cases"] = [{"id": f"case-{place}", "plan": "back", **case} for place, case in enumerate(CASES)]
    return plain


def _some(draw: random.Random, **choices: list[Any]) -> dict[str, Any]:
    return {name: draw.choice(values) for name, values in choices.items() if draw.random() < 0.5}


def _machine(draw: random.Random) -> dict[str, Any]:
    found = {"site": draw.choice("aabc"), "size": draw.choice([400 * GB, 90 * GB, 1200 * GB]), "tags": [draw.choice("xy")]}
    found |= _some(draw, count=[2, 3], priority=[1, 4], write_speed=[50 * MB], needed_first=[True], reduction=[1.6])
    return found | _some(draw, change_reduction=[2], annual_growth_percent=[40])


def _plan(draw: random.Random, plain: dict[str, Any]) -> dict[str, Any]:
    plan: dict[str, Any] = {"id": "back", **_some(draw, ready=["PT6H"], place=["b", "c"], in_place=[True])}
    groups: list[dict[str, Any]] = [{"workloads": {"tags": ["x"]}}, {"workloads": {"tags": ["y"]}}]
    for group in groups:
        group.update(_some(draw, then=["PT20M", "P1D"]))
    return plan | {"groups": groups}


def differences(plain: dict[str, Any]) -> list[tuple[Any, ...]]:
    """Where the two readings of all cases differ on two days: the case, the instant, and what each says."""
    result = forecast(design_of(plain))
    lyings, plan = LazyLyings(result, Arrivals({})), result.design.recovery_plans[0]
    lies, found = stretches_of_all(plain, DAYS + 1), []
    for case, plain_case in zip((None, *result.design.loss_cases), (None, *plain["loss_cases"]), strict=True):
        for day in (9, 13):
            at = int(result.frame.midnights[day]) + 11 * 3600
            world = as_it_is(result, at) if case is None else world_after(Aftermath(result, case), at)
            fast = carry_out_plan(world, plan, lyings)
            rows, over = SlowPlan(plain, plain["recovery_plans"][0], plain_case, lies, at).carry_out()
            mine = [said(one) for one in fast.restored]
            same = len(rows) == len(mine) and all(alike(one, other) for one, other in zip(mine, rows, strict=True))
            if not same or fast.over_at != pytest.approx(over, abs=0.05):
                found.append((plain_case, day, mine, rows, fast.over_at, over))
    return found


def said(one: Restored) -> Back | tuple[str, str]:
    """What the engine says of a workload, in the words of the reference."""
    if one.choice is None or one.first_byte is None or one.back_at is None:
        return one.workload.id, one.reason
    candidate = one.choice.candidate
    return Back(
        one.workload.id, candidate.lying.target.id, candidate.moment, one.choice.read_bytes, one.first_byte, one.back_at
    )


def alike(one: Back | tuple[str, str], other: Back | tuple[str, str]) -> bool:
    """Names and moments the same, bytes to a billionth, times to a twentieth of a second."""
    if not isinstance(one, Back) or not isinstance(other, Back):
        return one == other
    near = one.read == pytest.approx(other.read, rel=1e-9)
    return one[:3] == other[:3] and near and one[4:] == pytest.approx(other[4:], abs=0.05)


@pytest.mark.parametrize("number", range(DESIGNS))
def test_plans_bring_back_the_same_at_the_same_time(number: int) -> None:
    assert differences(design(number)) == []


def _in_each_group(group: Callable[..., Any]) -> Callable[..., Any]:
    def asked_anew(number: Any, workloads: Any, plan: Any, chooser: Any, begins: float, now: float | None) -> Any:
        return group(number, workloads, plan, chooser, begins if now is None else now, now)

    return asked_anew


FAULTS: dict[str, list[tuple[Any, str, Any]]] = {
    "priority ignored": [(restoring.Job, "priority", property(lambda _: 5))],
    "thawing asked for by each group anew": [(plans, "_group", _in_each_group(plans._group))],
    "no time to start and check": [
        (plans, "_groups", lambda world, plan, whole=plans._groups: [(*one[:2], None) for one in whole(world, plan)])
    ],
    "reduced bytes written": [
        (choosing.Chooser, "_amounts", lambda self, one, whole=choosing.Chooser._amounts: (whole(self, one)[0],) * 2)
    ],
    "of equals the last": [(choosing.Chooser, "soonest", lambda _, choices: choices[-1])],
    "machines of a workload one at a time": [(restoring, "streams_of", lambda _: 1)],
    "what is needed first left where it stands": [
        (plans, "_groups", lambda world, plan, whole=plans._groups: [one for one in whole(world, plan) if one[0]])
    ],
    "a lost line still carries": [(choosing.Passages, "way", lambda _, begin, end: ())],
}


@pytest.mark.parametrize("fault", FAULTS)
def test_a_deliberate_fault_is_caught(fault: str, monkeypatch: pytest.MonkeyPatch) -> None:
    """On the first design that shows it; both readings agree on all of them without it."""
    for patch in FAULTS[fault]:
        monkeypatch.setattr(*patch)
    assert any(differences(design(number)) for number in range(DESIGNS))
