"""Verdicts after each edit, against all duties judged from nothing."""

import random
from typing import Any

import pytest

from shelf_core.design.document import Design
from shelf_core.design.reading import design_of
from shelf_core.engine.memory import Memory
from shelf_core.forecast.forecast import forecast
from shelf_core.proof.arrived import Arrivals, arrivals_of
from shelf_core.proof.duties import Duties
from shelf_core.proof.verdicts import Verdicts, change_words
from tests.core.test_duties_against_reference import ASKS, varied
from tests.core.test_proof_facts import house

CASE = {"id": "case", "lost": {"sites": ["a"]}, "plan": None}


def asked(number: int) -> dict[str, Any]:
    """A random design of which everything is asked."""
    plain = {name: value for name, value in varied(number).items() if name != "holds"}
    duties = [{"id": f"duty-{at}", "workloads": ["w"], "asks": [ask]} for at, ask in enumerate(ASKS)]
    stands = {"id": "stands", "workloads": ["w"], "asks": [{"stands": "case", "rpo": "P3D"}]}
    return plain | {"duties": [*duties, stands], "loss_cases": [{"id": "case", "lost": {"sites": ["a"]}}]}


def edited(plain: dict[str, Any], draw: random.Random) -> None:
    """One edit of something that duties rest on."""
    first, second = plain["ladders"]
    kind = draw.randrange(7)
    if kind == 0:
        first["recent"] = [{"keep": {"points": draw.randint(2, 9)}}]
    elif kind == 1:
        second["recent"] = [{"keep": draw.choice(["P2D", "P5D", "P9D"])}]
    elif kind == 2:
        plain["routes"][0]["copies"][1]["delay"] = draw.choice(["PT1H", "PT9H", "P2D"])
    elif kind == 3:
        plain["targets"][1]["site"] = draw.choice(["a", "b"])
    elif kind == 4:
        plain["loss_cases"][0]["lost"] = draw.choice([{"sites": ["b"]}, {"targets": ["d"]}, {"sites": ["a"]}])
    elif kind == 5:
        plain["duties"][0]["asks"] = [{"rpo": draw.choice(["PT30H", "P1D", "P4D"])}]
    else:
        plain["workloads"][0]["size"] = f"{draw.randint(1, 30)} TB"


def from_nothing(design: Design) -> list[tuple[str, int, int | None]]:
    judged = Duties(forecast(design), Arrivals({}))
    found: dict[str, list[int]] = {duty.id: [] for duty in design.duties}
    for answer in judged.answers():
        found[answer.duty.id] += answer.failed[:1]
    return [(duty, int(bool(firsts)), min(firsts, default=None)) for duty, firsts in found.items()]


@pytest.mark.parametrize("number", range(8))
def test_after_each_edit_they_are_what_judging_from_nothing_finds(number: int) -> None:
    draw, memory, verdicts = random.Random(number), Memory(), Verdicts()  # noqa: S311 - designs, no secrets
    plain = asked(number)
    for _ in range(6):
        design = design_of(plain)
        result = forecast(design, memory)
        found = [(one.duty, one.failing, one.first_failed) for one in verdicts.of(result, Arrivals({}))]
        expected = [
            (duty, failing, None if first is None else result.day(first)) for duty, failing, first in from_nothing(design)
        ]
        assert found == expected
        edited(plain, draw)


def test_arrivals_are_what_they_rest_on_too() -> None:
    """A full that takes two days keeps an age of a day and a half from holding."""
    plain = house(
        targets=[{"id": "d", "media": "disk", "site": "a", "packing": "shared", "write_speed": "70 MB/s"}],
        duties=[{"id": "daily", "workloads": ["w"], "asks": [{"rpo": "P1DT12H"}]}],
    )
    result, verdicts = forecast(design_of(plain)), Verdicts()
    (as_written,) = verdicts.of(result, Arrivals({}))
    (as_followed,) = verdicts.of(result, arrivals_of(result))
    assert (as_written.sentence, as_written.first_failed) == ("holds on every day", None)
    assert as_followed.first_failed is not None
    assert change_words(as_followed, as_written) == "held before"
    assert verdicts.of(result, Arrivals({})) == [as_written]


def test_times_of_plans_are_left_to_the_sheet() -> None:
    plain = house(
        duties=[{"id": "back", "workloads": ["w"], "asks": [{"stands": "case", "rto": "PT8H"}]}],
        loss_cases=[CASE | {"plan": "p"}],
    )
    plain["recovery_plans"] = [{"id": "p", "groups": [{"workloads": ["w"]}]}]
    (one,) = Verdicts().of(forecast(design_of(plain)), Arrivals({}))
    assert (one.is_judged, one.first_failed) == (False, None)
