"""The worked examples of docs/model.md: their numbers are read from the page and recomputed."""

import json
import re
from typing import Any

import pytest

from shelf_core.design.reading import read_design
from shelf_core.forecast.forecast import Forecast, forecast
from shelf_core.forecast.points import points_on
from tests.designs import ROOT, design

PAGE = (ROOT / "docs" / "model.md").read_text()
BLOCK = re.compile(r"```json\n(?P<design>.*?)```\n\n(?P<table>(?:\|[^\n]*\n)+)", re.DOTALL)
EXAMPLES = [(json.loads(found["design"]), found["table"]) for found in BLOCK.finditer(PAGE)]


def computed(words: dict[str, Any]) -> Forecast:
    """The design that an example of the page stands for."""
    runs = [{"id": f"run{place}", **run} for place, run in enumerate(words["runs"])]
    document = design(runs, words.get("ladder", {}), workload=words.get("workload"), **words.get("design", {}))
    document["targets"][0] |= words.get("target", {})
    document["targets"] += [{"site": "here", **target} for target in words.get("targets", ())]
    copies = document["routes"][0]["copies"]
    copies[0] |= words.get("copy", {})
    if "rotation" in copies[0]:
        del copies[0]["ladder"]
    copies += [{"id": f"copy{place}", "ladder": "rule", **copy} for place, copy in enumerate(words.get("copies", ()))]
    return forecast(read_design(json.dumps(document)))


def rows_of(table: str) -> list[dict[str, str]]:
    head, _, *lines = [[cell.strip() for cell in line.strip().strip("|").split("|")] for line in table.splitlines()]
    return [dict(zip(head, line, strict=True)) for line in lines]


def test_every_example_was_found() -> None:
    assert len(EXAMPLES) == PAGE.count("```json") >= 15


@pytest.mark.parametrize("number", range(len(EXAMPLES)))
def test_example_is_right(number: int) -> None:
    words, table = EXAMPLES[number]
    found, rows = computed(words), rows_of(table)
    assert rows
    if "taken" in rows[0]:
        for day, target in {(row["on"], row["target"]) for row in rows}:
            expected = [row for row in rows if (row["on"], row["target"]) == (day, target)]
            listed = [row for row in points_on(found, day) if row.target == target]
            ours = [(row.taken, row.kind, "+".join(row.claims), row.state) for row in listed]
            assert ours == [(row["taken"], row["kind"], row["claims"], row["state"]) for row in expected], (day, target)
        return
    for row in rows:
        totals = next(one.totals for one in found.targets if one.target.id == row["target"])
        place = found.place_of(row["on"])
        sums = (totals.stored_bytes[place] / 1e12, totals.peak_bytes[place] / 1e12)
        assert int(totals.points[place]) == int(row["points"]), row
        assert sums == pytest.approx((float(row["stored"]), float(row["peak"])), rel=1e-6), row
