"""What a random design has in it: so that the comparison with the simulation can say how often it tried each thing."""

from collections.abc import Iterator
from typing import Any

from tests.core.reference.ladder import listed

STATES = ("kept", "locked", "needed", "due")


def features_of(document: dict[str, Any], rows: list[tuple[str, ...]]) -> set[str]:
    """The features of a design, and the states and stages of its listed points."""
    copies = [copy for route in document["routes"] for copy in route["copies"]]
    used = {copy["ladder"] for copy in copies if "ladder" in copy}
    ladders = [ladder for ladder in document["ladders"] if ladder["id"] in used]
    found = {f"state {row[-1]}" for row in rows}
    found |= set(_targets(document["targets"], copies))
    for copy in copies:
        found |= set(_copy(copy))
    for ladder in ladders:
        found |= set(_ladder(ladder))
    for workload in document["workloads"]:
        found |= {
            f"workload with {name}"
            for name in ("until", "members", "steps", "count_steps", "annual_growth", "alike", "count")
            if workload.get(name)
        }
    found |= {name for name in ("holds", "opening") if document.get(name)}
    home = {(route["id"], copy["id"]): copy["target"] for route in document["routes"] for copy in route["copies"]}
    moved = [row for row in rows if home[row[1], row[2]] != row[3]]
    found |= {"something stepped down"} if moved else set()
    is_from = {(route["id"], copy["id"]) for route in document["routes"] for copy in route["copies"] if "from" in copy}
    if any(row[5] == "snapshot" and (row[1], row[2]) in is_from for row in rows):
        found.add("replicas there")
    found |= {"snapshots there"} if any(row[5] == "snapshot" for row in rows) else set()
    return found | set(_cadences(document["cadences"]))


def _targets(targets: list[dict[str, Any]], copies: list[dict[str, Any]]) -> Iterator[str]:
    used = {copy["target"] for copy in copies} | {step["target"] for copy in copies for step in copy.get("step_downs", ())}
    for target in (target for target in targets if target["id"] in used):
        yield f"{target.get('packing', 'separate')} packing"
        if "reclaim" in target:
            yield "reclaim"
        if target.get("lock", "none") == "none":
            yield "target that cannot lock"


def _copy(copy: dict[str, Any]) -> Iterator[str]:
    if "from" in copy:
        yield "copy that reads at its own runs" if "cadence" in copy else "copy that follows"
    if isinstance(copy.get("take"), dict):
        yield f"take by {next(iter(copy['take']))}"
    if copy.get("delay", "PT0S") != "PT0S":
        yield "delay that may turn the order" if copy["delay"] == "P1M" else "delay"
    if "rotation" in copy:
        yield "rotation"
    if copy.get("sweep") == "with-runs":
        yield "swept with its runs alone"
    for lock in listed(copy.get("lock")):
        yield "lock as long as kept" if lock["for"] == "kept" else "lock"
        yield from (f"lock by {name}" for name in ("runs", "kinds", "rungs") if name in lock)
    yield from _steps(copy.get("step_downs", []))


def _steps(steps: list[dict[str, Any]]) -> Iterator[str]:
    if len(steps) > 1:
        yield "two stages"
    for step in steps:
        yield f"step-down as {step.get('as', 'full')}"
        yield from (f"step-down with {name}" for name in ("keep_source", "lock") if step.get(name))


def _ladder(ladder: dict[str, Any]) -> Iterator[str]:
    for rule in ladder["recent"]:
        keep = rule["keep"]
        yield "keep superseded" if isinstance(keep, dict) and "superseded" in keep else "keep recent"
        yield from (f"keep by {name}" for name in ("runs", "kinds") if name in rule)
    for rung in ladder.get("rungs", ()):
        origin = rung.get("from", "self-contained")
        yield "rung of any point" if origin == "any" else "rung" if origin == "self-contained" else "promotion"
        if rung.get("pick") == "last":
            yield "rung that picks last"
        if "on" in rung:
            yield "rung from a day on"
    if "logs" in ladder:
        yield "keep of logs"


def _cadences(cadences: list[dict[str, Any]]) -> Iterator[str]:
    for run in (run for cadence in cadences for run in cadence["runs"]):
        yield f"runs of kind {run['kind']}"
        yield from (f"run with {name}" for name in ("timezone", "once", "except", "from") if name in run)
