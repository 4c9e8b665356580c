"""Nights of whole designs balance: bytes asked are bytes carried, and the parts of a transfer's time are its time."""

import json
from typing import Any

import numpy as np
import pytest

from shelf_core.design.reading import design_of
from shelf_core.forecast.forecast import forecast
from shelf_core.nights.followed import NightSpan
from shelf_core.nights.following import follow
from tests.designs import ROOT

SPEEDS = {"read_speed": "300 MB/s", "write_speed": "200 MB/s", "stream_speed": "90 MB/s"}


def slowed(name: str) -> dict[str, Any]:
    """An example with speeds, few streams, mounts, spreads and verification."""
    plain: dict[str, Any] = json.loads((ROOT / "tests" / "examples" / f"{name}.json").read_text())
    for target in plain["targets"]:
        tape = {"drives": 1, "mount": "PT3M", "cartridge": "10 TB"}
        target.update(SPEEDS, **(tape if target["media"] == "tape" else {"streams": 2}))
    for workload in plain["workloads"]:
        workload.update(read_speed="150 MB/s", scan="PT5M")
    for route in plain["routes"]:
        for copy in route["copies"]:
            copy.update(verify=True, **({"spread": "PT1H"} if copy.get("cadence") else {}))
    return plain


@pytest.mark.parametrize("name", ["one-disk", "shared-then-cold", "three-copies", "chains-and-machines"])
def test_what_is_asked_is_carried_and_every_second_is_accounted_for(name: str) -> None:
    followed = follow(forecast(design_of(slowed(name))), NightSpan(with_use=True))
    assert not np.isnan(followed.ended).any()
    assert (followed.started >= followed.asked - 1e-6).all()
    for number, held in followed.held.items():
        assert sum(held.values()) == pytest.approx(followed.ended[number] - followed.asked[number], abs=1e-2)
    assert len(followed.held) == len(followed.asked) > 300
    for place, label in enumerate(followed.resources.labels):
        carried = sum((one.end - one.begin) * one.used for one in followed.use if one.resource == place)
        nothing = [np.zeros(lane.points) for lane in followed.lanes]
        amounts = (followed.legs.amounts(lane).get(place, none) for lane, none in zip(followed.lanes, nothing, strict=True))
        asked = sum(float(one.sum()) * lane.machines for one, lane in zip(amounts, followed.lanes, strict=True))
        assert carried == pytest.approx(asked, rel=1e-6), label
        most = max(one.used for one in followed.use if one.resource == place)
        assert most <= followed.resources.capacities[place].speeds[0] * (1 + 1e-9)
