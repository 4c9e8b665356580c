"""A design in which every field of every part has, in some place, a value that is not its default."""

import json
from collections.abc import Iterator
from typing import Any

from shelf_core.design.base import Part
from tests.designs import ROOT


def full_design() -> dict[str, Any]:
    """Plain values of the document; it is read, and need not be sound."""
    plain = json.loads((ROOT / "tests" / "examples" / "three-copies.json").read_text())
    plain |= {"currency": "NOK", "correlation": 0.25, "week_starts": "SU"}
    plain["targets"][0] |= {
        "minimum_days": 30,
        "generation": "the ninth",
        "account": "backup keys",
        "storage_class": "seldom read",
        "reclaim": {"rrule": "FREQ=WEEKLY;BYDAY=SU", "at": ["06:00", "18:00"]},
        "devices": [{"name": "one", "capacity": "10 TiB"}, {"name": "two", "capacity": 5_000}],
        "fill_order": "even",
        "used_otherwise": {"size": "1.5 TB", "annual_growth_percent": 3},
    }
    plain["sites"][0] |= {"read_speed": "4 GB/s", "write_speed": 3_000_000, "network": "25 Gbit/s"}
    plain["links"] = [
        {
            "id": "line",
            "name": "The line",
            "sites": [plain["sites"][0]["id"], plain["sites"][1]["id"]],
            "speed": "1 Gbit/s",
            "shared": True,
            "stream_speed": "40 MiB/s",
            "usable_percent": 80,
            "limits": [{"days": ["MO", "TU"], "from": "08:00", "to": "18:00", "speed": 0}, {"speed": "90 MB/s"}],
        }
    ]
    plain["targets"][0] |= {
        "read_speed": "800 MB/s",
        "write_speed": "600 MB/s",
        "stream_speed": "150 MB/s",
        "streams": 8,
        "thaw": "PT5H",
        "mount": "PT3M",
        "fetch": "P1D",
        "away_site": plain["sites"][1]["id"],
        "feed": "112 MB/s",
        "run_from": "PT10M",
    }
    plain["workloads"][0] |= {"read_speed": "200 MB/s", "write_speed": "150 MB/s", "scan": "PT12M"}
    plain["targets"][1]["packing"] = "shared"
    plain["targets"][1]["prices"] = {
        "capacity_tb_month": 21.5,
        "requests_thousand": 0.005,
        "part_size": "8 MiB",
        "retrieval_tb": 10,
        "traffic_tb": 80,
        "cartridge": 90,
        "cartridge_month": 1,
    }
    plain["targets"][2] |= {"cartridge": "18 TB", "slots": 40, "drives": 2, "batch_closes": "week", "returns_after": "P2W"}
    plain["workloads"][0] |= {
        "members": [
            {"id": "m", "offline": [["2027-01-01", "2027-02-01"]], "closed_from": "2028-01-01", "keep_closed": True},
            {"id": "n", "keep_closed": "2029-01-01"},
            {"id": "o", "keep_closed": False},
        ],
        "alike": {"group": "g", "percent": 0},
        "from": "2026-10-01",
        "until": "2028-01-01",
        "priority": 3,
        "count": 12,
        "hot_percent": 40.5,
        "daily_change_percent": 2,
        "change_reduction": 1.25,
        "log_per_day": 12.5,
    }
    plain["cadences"][0]["runs"].append(
        {
            "id": "x",
            "kind": "full",
            "once": ["2027-03-01T10:00", "2027-03-01T10:00:30"],
            "timezone": "UTC",
            "from": "2027-01-01",
            "until": "2028-01-01",
            "except": ["2027-02-02"],
        }
    )
    plain["ladders"][0]["recent"] += [
        {"keep": {"superseded": {"extra": 2}}},
        {"keep": "forever", "kinds": ["full"], "runs": ["sat"]},
    ]
    plain["ladders"][0] |= {"floor": 4, "logs": "P9D"}
    plain["ladders"][0]["rungs"][0] |= {"on": 15, "every": "month", "from": "any"}
    copies = plain["routes"][0]["copies"]
    plain["ladders"].append(
        {"id": "sure", "recent": [{"keep": "P9D"}], "rungs": [{"name": "weekly", "every": "week", "keep": "P8W"}]}
    )
    copies[1] |= {
        "ladder": "sure",
        "take": {"rungs": ["weekly"]},
        "name": "Second",
        "sweep": "with-runs",
        "lock": [{"for": "kept", "runs": ["sat"]}, {"for": "P9D", "rungs": ["weekly"], "kinds": ["full", "log"]}],
    }
    copies[2].pop("ladder")
    copies[2] |= {"rotation": {"scheme": "gfs", "sets": 7, "weekly_on": "FR", "years": 3}}
    copies[0] |= {
        "window": {"opens": "20:00", "closes": "06:00"},
        "at_close": "stop",
        "spread": "PT2H",
        "verify": True,
        "priority": 2,
    }
    copies[0]["step_downs"] = [
        {"after": "P30D", "target": "tape", "which": "all", "as": "chain", "skip_if_short": False},
        {
            "after": "P60D",
            "target": "bucket",
            "which": ["monthly"],
            "keep_source": True,
            "lock": {"for": "P1Y", "mode": "final"},
        },
    ]
    plain["holds"] = [
        {
            "workloads": {"ids": ["db"], "tags": ["records"]},
            "taken_from": "2027-01-01",
            "taken_to": "2027-02-01",
            "placed": "2027-03-01",
            "released": "2029-03-01",
        }
    ]
    plain["opening"] = [
        {"route": "records", "copy": "house", "workload": "db", "taken": "2026-08-30T22:00", "kind": "full", "size": "3 TB"}
    ]
    plain["workloads"][1]["needed_first"] = True
    plain["workloads"][1] |= {
        "annual_growth": "2 TB",
        "annual_growth_percent": 0,
        "count_steps": [{"on": "2028-03-01", "add": 4}],
    }
    site, target = plain["sites"][0]["id"], plain["targets"][0]["id"]
    first, second = (one["id"] for one in plain["workloads"][:2])
    plain["costs"] = [
        {
            "id": "licence",
            "name": "Licences",
            "amount": 12.5,
            "every": "year",
            "for": "tb",
            "workloads": {"ids": ["db"], "tags": ["records"]},
            "from": "2027-02-01",
            "until": "2030-01-31",
        }
    ]
    plain["recovery_plans"] = [
        {
            "id": "back",
            "name": "Back again",
            "place": site,
            "ready": "PT6H",
            "groups": [{"workloads": {"ids": [first]}, "then": "PT20M"}, {"workloads": {"ids": [second], "tags": ["later"]}}],
            "in_place": True,
        }
    ]
    plain["loss_cases"] = [
        {
            "id": "fire",
            "name": "A fire",
            "lost": {"sites": [site], "targets": [target], "source": False},
            "intruder": {"accounts": ["backup keys"], "rights": "special"},
            "unnoticed": "P14D",
            "plan": "back",
        }
    ]
    counted = {
        "targets": [target],
        "not_targets": [plain["targets"][1]["id"]],
        "sites": [site],
        "off_site": True,
        "media": ["disk", "tape"],
        "locked": "final",
        "locked_for": "P7D",
    }
    plain["duties"] = [
        {
            "id": "law",
            "name": "A law",
            "workloads": {"ids": [first], "tags": ["records"]},
            "from": "2027-02-01",
            "until": "2030-01-31",
            "source": "Made up, section 4",
            "first_by": "P3D",
            "asks": [
                {"rpo": "P1DT12H", "spare": 1, "counted": counted, "first_by": "P1D"},
                {"history": "P7Y", "every": "year"},
                {"copies": 3, "media": 2, "off_site": 1, "fresh": "P7D"},
                {"gone_after": "P10Y", "readable": False},
                {"stands": "fire", "rto": "PT8H", "degraded": True},
                {"rehearsed": "P6M", "acted": True},
            ],
        }
    ]
    plain["rehearsals"] = [
        {"plan": "back", "at": "2027-03-10T10:00", "passed": True, "acted": True, "note": "all of it was read"}
    ]
    plain["unknowns"] = [
        {
            "id": "u",
            "name": "Nobody knows",
            "workloads": {"tags": ["records"]},
            "daily_change_percent": {"low": 1, "high": 4},
            "reduction": {"low": 0.5, "high": 1.5, "factors": True},
        },
        {
            "id": "v",
            "workloads": {"ids": ["db"]},
            "annual_growth_percent": {"low": 0.5, "high": 2, "factors": True},
            "daily_change_percent": {"low": 0.5, "high": 1.5, "factors": True},
        },
    ]
    return plain


def parts_of(part: Part) -> Iterator[Part]:
    """A part and all that stand within it."""
    yield part
    for name in type(part).model_fields:
        value = getattr(part, name)
        for one in value if isinstance(value, list) else [value]:
            if isinstance(one, Part):
                yield from parts_of(one)


def fields_at_their_defaults(design: Part) -> set[str]:
    """Fields that have no other value in any place than their default, as `Target.lock`."""
    seen: dict[str, bool] = {}
    for part in parts_of(design):
        for name, field in type(part).model_fields.items():
            said = f"{type(part).__name__}.{name}"
            seen[said] = seen.get(said, False) or field.is_required() or getattr(part, name) != field.get_default()
    return {name for name, given in seen.items() if not given}
