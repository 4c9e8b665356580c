"""Small designs that tests are made of: plain documents."""

import copy
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parent.parent
DEMO = ROOT / "demo" / "lindmoor.json"


def run(kind: str, rrule: str, at: str = "12:00", **more: Any) -> dict[str, Any]:
    return {"id": kind + at.replace(":", ""), "kind": kind, "rrule": rrule, "at": [at], **more}


def design(
    runs: list[dict[str, Any]],
    ladder: dict[str, Any],
    *,
    packing: str = "separate",
    workload: dict[str, Any] | None = None,
    **more: Any,
) -> dict[str, Any]:
    """One workload (10 TB, 2 % a day, scattered, nothing reduced, no growth), one target, one route; UTC, from 2027-01-01."""
    document = {
        "format": "rested-shelf-design",
        "version": 2,
        "name": "Small",
        "timezone": "UTC",
        "starts": "2027-01-01",
        "years": 1,
        "sites": [{"id": "here"}],
        "targets": [{"id": "disk", "media": "disk", "site": "here", "packing": packing, "lock": "final"}],
        "workloads": [{"id": "data", "site": "here", "size": "10 TB", "daily_change_percent": 2, **(workload or {})}],
        "cadences": [{"id": "beat", "runs": runs}],
        "ladders": [{"id": "rule", **ladder}],
        "routes": [
            {
                "id": "way",
                "workloads": {"ids": ["data"]},
                "copies": [{"id": "first", "target": "disk", "cadence": "beat", "ladder": "rule"}],
            }
        ],
        **more,
    }
    return copy.deepcopy(document)


NEWEST_14 = {"recent": [{"keep": {"points": 14}}]}
WEEKLY_FULL = [run("full", "FREQ=WEEKLY;BYDAY=SA", "22:00"), run("incremental", "FREQ=DAILY", "22:00")]
