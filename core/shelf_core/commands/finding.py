"""The findings of a design as plain rows, each with the place that it is about."""

import math
from dataclasses import asdict

from shelf_core.commands.common import progress
from shelf_core.forecast.forecast import Forecast
from shelf_core.nights.findings import night_findings
from shelf_core.nights.followed import NightSpan
from shelf_core.nights.following import follow
from shelf_core.nights.loads import loads_of
from shelf_core.nights.sums import sums_of
from shelf_core.proof.loss_findings import all_findings

ABOUT = ("route", "copy", "ladder", "cadence", "workload", "target")


def found_in(result: Forecast, *, nights: bool = False) -> list[dict[str, str]]:
    """Rules that never act and other slips, each with its way out; with `nights` also what following them all shows."""
    found = all_findings(result)
    if nights:
        with progress("following the nights") as watch:
            sums = sums_of(follow(result, NightSpan(begin=math.inf), watch))
        found = [*found, *night_findings(result, sums, list(loads_of(result, sums)))]
    rows = []
    for one in found:
        fields = asdict(one)
        about = {name: fields[name] for name in ABOUT if fields[name] is not None}
        place = ", ".join(f"{name} {value}" for name, value in about.items()) or "design"
        rows.append({"kind": one.kind, "place": place, "sentence": one.sentence, "way_out": one.way_out, **about})
    return rows
