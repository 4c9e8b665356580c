"""The formula for shared packing against random blocks that are written, kept and removed one by one."""

import json

import numpy as np
import pytest

from shelf_core.design.reading import read_design
from shelf_core.forecast.forecast import forecast
from tests.designs import design, run

BLOCKS = 40_000
DAYS = 40


@pytest.mark.parametrize(("hot_percent", "seed"), [(100, 1), (100, 2), (30, 3)])
def test_shared_formula_against_random_blocks(hot_percent: float, seed: int) -> None:
    """W. Feller, An Introduction to Probability Theory, vol. 1 (occupancy): each block is hit by chance.

    Every day 3 % of the blocks are written anew, within the hot part; a point is the version of each block at its time.
    Points go by the ladder; what is stored is the number of different (block, version) pairs among those that are there.
    The formula gives the mean; the simulation may lie a few standard deviations (some 0.5 %) beside it.
    """
    ladder = {"recent": [{"keep": {"points": 4}}], "rungs": [{"name": "w", "every": "week", "keep": {"periods": 3}}]}
    document = design(
        [run("incremental", "FREQ=DAILY")],
        ladder,
        packing="shared",
        workload={"size": BLOCKS, "daily_change_percent": 3, "hot_percent": hot_percent},
    )
    found = forecast(read_design(json.dumps(document)))
    life = found.holdings[0].life
    random = np.random.default_rng(seed)
    hot = int(BLOCKS * hot_percent / 100)
    versions, points = np.zeros(BLOCKS, np.int64), []
    for day in range(DAYS):
        if day:
            # Each block of the hot part is hit by itself, so that the share hit in n days is h(1 - (1 - c/h)^n).
            hit = np.flatnonzero(random.random(hot) < 0.03 * BLOCKS / hot)
            versions[hit] = day
        points.append(versions.copy())
        there = np.flatnonzero(
            (life.written < found.frame.midnights[day + 1]) & (life.removed >= found.frame.midnights[day + 1])
        )
        kept = np.stack([points[place] for place in there])
        different = sum(len(np.unique(kept[:, block])) for block in range(0, BLOCKS, 8)) * 8
        assert float(found.targets[0].totals.stored_bytes[day]) == pytest.approx(different, rel=0.02), day
