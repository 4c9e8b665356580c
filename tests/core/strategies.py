"""Random designs for property tests: plain documents, so that the reference and the engine each read them for themselves."""

from datetime import date, timedelta
from typing import Any

from hypothesis import strategies as st

ZONES = ["UTC", "Europe/Oslo", "America/Halifax", "Australia/Lord_Howe", "Asia/Kolkata", "Africa/Cairo", "America/Santiago"]
STARTS = ["2027-03-20", "2027-10-20", "2027-01-01", "2028-02-10", "2026-12-15"]
RULES = [
    "FREQ=DAILY",
    "FREQ=DAILY;INTERVAL=3",
    "FREQ=WEEKLY;BYDAY=SA",
    "FREQ=WEEKLY;BYDAY=MO,TH",
    "FREQ=WEEKLY;INTERVAL=2;BYDAY=TU,SU;WKST=SU",
    "FREQ=MONTHLY;BYDAY=1SU",
    "FREQ=MONTHLY;BYMONTHDAY=-1",
    "FREQ=MONTHLY;BYMONTHDAY=1,15,31",
    "FREQ=DAILY;COUNT=20",
    "FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-1",
    "FREQ=HOURLY;INTERVAL=17",
]
CLOCKS = ["00:00", "01:30", "02:30", "12:00", "22:00", "23:59"]
DURATIONS = ["P1D", "P3D", "P9D", "P2W", "P1M", "P5W", "PT36H", "P1Y", "P0D"]


PARTS: list[dict[str, Any]] = [
    {"id": "always"},
    {"id": "away", "offline": [["2027-03-24", "2027-04-03"], ["2027-10-25", "2027-11-09"]]},
    {"id": "closed", "closed_from": "2027-04-01"},
    {"id": "kept", "closed_from": "2027-03-29", "keep_closed": True},
    {"id": "for-a-while", "closed_from": "2027-10-28", "keep_closed": "2027-11-15"},
]


def optional(**fields: st.SearchStrategy[Any]) -> st.SearchStrategy[dict[str, Any]]:
    return st.fixed_dictionaries({}, optional=fields)


reclaims = st.fixed_dictionaries(
    {
        "reclaim": st.fixed_dictionaries(
            {"rrule": st.sampled_from(["FREQ=WEEKLY;BYDAY=SU", "FREQ=MONTHLY;BYMONTHDAY=1"]), "at": st.just(["06:00", "22:00"])}
        )
    }
)


Focus = list[str]


@st.composite
def runs(draw: st.DrawFn, name: str, kinds: list[str]) -> dict[str, Any]:
    run: dict[str, Any] = {"id": name, "kind": draw(st.sampled_from(kinds))}
    if draw(st.integers(0, 9)) == 0:
        run["once"] = draw(
            st.lists(st.sampled_from(["2027-03-28T02:30", "2027-11-07T01:30", "2027-04-01T00:00"]), min_size=1, unique=True)
        )
    else:
        run["rrule"] = draw(st.sampled_from(RULES))
        run["at"] = draw(st.lists(st.sampled_from(CLOCKS), min_size=1, max_size=2, unique=True))
    if draw(st.integers(0, 4)) == 0:
        run["timezone"] = draw(st.sampled_from(ZONES))
    run |= (
        draw(optional(until=st.sampled_from(["2027-04-20", "2027-11-20"]), **{"from": st.just("2027-03-25")}))
        if draw(st.booleans())
        else {}
    )
    if draw(st.integers(0, 4)) == 0:
        run["except"] = ["2027-03-27", "2027-10-31", "2028-02-29"]
    return run


@st.composite
def cadences(draw: st.DrawFn, name: str, focus: Focus) -> dict[str, Any]:
    first = draw(runs("a", ["full", "incremental", "synthetic", "incremental"]))
    if "logs" in focus:
        often = {"id": "z", "kind": "log", "rrule": "FREQ=HOURLY;INTERVAL=17", "at": ["06:00"]}
        return {"id": name, "runs": [first, draw(runs("b", ["full", "differential"])), often]}
    others = [
        draw(runs(letter, ["incremental", "full", "synthetic", "differential", "incremental", "log"]))
        for letter in "bcd"[: draw(st.integers(0, 3))]
    ]
    return {"id": name, "runs": draw(st.permutations([first, *others]))}


@st.composite
def snapshot_cadences(draw: st.DrawFn, name: str) -> dict[str, Any]:
    return {"id": name, "runs": [draw(runs(letter, ["snapshot"])) for letter in "ab"[: draw(st.integers(1, 2))]]}


FOCUSES = [
    ["promotion", "on", "moves", "kinds", "needed"],
    ["promotion", "last", "chain", "runs"],
    ["promotion", "rung locks", "stages", "month delay"],
    ["promotion", "rungs", "needed", "delay"],
    ["last", "on", "stages", "moves"],
    ["last", "rungs", "narrow locks", "month delay"],
    ["last", "superseded", "chain", "moves"],
    ["on", "rungs", "snapshots", "rotation", "replicas"],
    ["on", "rung locks", "kinds", "delay", "needed"],
    ["rungs", "superseded", "month delay", "snapshots", "replicas", "needed"],
    ["rungs", "rung locks", "moves", "stages"],
    ["rung locks", "snapshots", "replicas", "runs", "delay"],
    ["kept locks", "chain", "moves", "month delay"],
    ["kept locks", "stages", "kinds", "rotation"],
    ["kept locks", "runs", "delay", "needed"],
    ["kept locks", "snapshots", "replicas", "moves", "kinds"],
    ["superseded", "runs", "chain", "needed", "month delay"],
    ["superseded", "snapshots", "replicas", "moves", "narrow locks"],
    ["narrow locks", "chain", "needed", "due"],
    ["narrow locks", "kinds", "rotation", "due", "needed"],
    ["rotation", "opening", "several"],
    ["stages", "kept source", "holds", "moves", "rungs"],
    ["chain", "kept source", "holds", "stages", "logs"],
    ["opening", "moves", "synthetics", "stages"],
    ["on one shared target", "holds", "logs", "opening", "month delay"],
    ["snapshots", "replicas", "superseded", "opening", "month delay"],
]
"""What designs may be about. Each of these is sure to be in some, so that nothing is rare."""


@st.composite
def rungs(draw: st.DrawFn, name: str, earlier: list[str], focus: Focus) -> dict[str, Any]:
    every = draw(st.sampled_from(["day", "week", "month", "hour", "quarter", "year", "week"]))
    rung: dict[str, Any] = {"name": name, "every": every}
    origins = ["self-contained", "any", "any", *earlier, *earlier, *earlier]
    rung |= draw(optional(pick=st.sampled_from(["first", "first", "last"]), **{"from": st.sampled_from(origins)}))
    days = {"week": ["SU", "WE"], "month": [1, 15, 31, "1SU", "-1FR", "5MO"], "year": ["03-31", "02-29", "11-01"]}
    if every in days and ("on" in focus or draw(st.booleans())):
        rung["on"] = draw(st.sampled_from(days[every]))
    if "promotion" in focus and earlier:
        rung["from"] = earlier[-1]
    if "last" in focus and name != "low":
        rung["pick"] = "last"
    keep = st.one_of(st.integers(0, 6).map(lambda count: {"periods": count}), st.sampled_from(DURATIONS), st.just("forever"))
    return rung | {"keep": draw(keep)}


@st.composite
def ladders(draw: st.DrawFn, name: str, focus: Focus) -> dict[str, Any]:
    keep = st.one_of(st.integers(0, 15).map(lambda count: {"points": count}), st.sampled_from(DURATIONS), st.just("forever"))
    narrowing = optional(
        runs=st.lists(st.sampled_from("abcd"), min_size=1, unique=True),
        kinds=st.lists(st.sampled_from(["full", "differential", "incremental"]), min_size=1, unique=True),
    )
    ladder: dict[str, Any] = {"id": name, "recent": []}
    if "kept locks" in focus:
        rung = {"name": "low", "every": "week", "keep": draw(st.sampled_from(DURATIONS))}
        return ladder | {"recent": [{"keep": draw(st.sampled_from(DURATIONS))}], "rungs": [rung]}
    wants_rungs = {"promotion", "last", "on", "rung locks", "rungs"} & set(focus)
    if not wants_rungs and ("needed" in focus or draw(st.integers(0, 2)) == 0):
        # What no rule holds on to: parents are gone when the next point wants them.
        short = st.sampled_from(
            [[], [{"keep": "P1D"}], [{"keep": "PT36H", "kinds": ["full"]}], [{"keep": "P3D", "runs": ["a"]}]]
        )
        ladder |= {"recent": draw(short), "floor": 0}
        return ladder | draw(optional(logs=st.sampled_from(["P1D", "P4D"])))
    for _ in range(draw(st.integers(0, 2))):
        ladder["recent"].append({"keep": draw(keep)} | (draw(narrowing) if draw(st.booleans()) else {}))
    if "superseded" in focus:
        ladder["recent"].append({"keep": {"superseded": {"extra": draw(st.integers(0, 3))}}})
    ladder["rungs"], firsts = [], []
    for rung_name in ["low", "middle", "high"][: draw(st.sampled_from([2, 2, 3] if wants_rungs else [0, 1, 2]))]:
        rung = draw(rungs(rung_name, firsts, focus))
        ladder["rungs"].append(rung)
        if rung.get("pick", "first") == "first":
            firsts.append(rung_name)
    return ladder | draw(optional(floor=st.sampled_from([0, 0, 2, 3]), logs=st.sampled_from(["P1D", "P4D", "PT30H"])))


@st.composite
def workloads(draw: st.DrawFn, name: str) -> dict[str, Any]:
    change = draw(st.sampled_from([0, 0.5, 2, 10]))
    workload: dict[str, Any] = {"id": name, "site": "here", "daily_change_percent": change, "tags": ["all"]}
    workload["size"] = draw(st.sampled_from(["4 TB", "900 GB", "1.5 TiB", 123_456_789_000]))
    workload |= draw(
        optional(
            count=st.integers(1, 40),
            hot_percent=st.sampled_from([10, 40]),
            change_pattern=st.sampled_from(["fresh", "scattered"]),
            annual_growth_percent=st.sampled_from([0, 15, 120, -30]),
            annual_growth=st.sampled_from(["2 TB", "-3 TB", 0]),
            count_steps=st.lists(
                st.fixed_dictionaries({"on": st.sampled_from(["2027-03-29", "2027-11-02"]), "add": st.integers(1, 9)}),
                max_size=2,
            ),
            reduction=st.sampled_from([1, 1.6, 3]),
            change_reduction=st.sampled_from([1.2, 2]),
            log_per_day=st.sampled_from(["5 GB", 0]),
            alike=st.fixed_dictionaries({"group": st.sampled_from(["x", "y"]), "percent": st.sampled_from([0, 60, 100])}),
            until=st.sampled_from(["2027-04-25", "2027-12-01"]),
            members=st.lists(st.sampled_from(PARTS), max_size=3, unique_by=lambda part: part["id"]),
            steps=st.lists(
                st.fixed_dictionaries(
                    {
                        "on": st.sampled_from(["2027-04-02", "2027-01-01", "2027-11-08"]),
                        "add": st.sampled_from(["1 TB", "-5 TB"]),
                    }
                ),
                max_size=2,
            ),
            **{"from": st.sampled_from(["2027-03-25", "2027-10-30"])},
        )
    )
    if "annual_growth" in workload:
        workload.pop("annual_growth_percent", None)
    return workload


@st.composite
def locks(draw: st.DrawFn, ladder: dict[str, Any], focus: Focus) -> list[dict[str, Any]]:
    firsts = [rung["name"] for rung in ladder.get("rungs", ()) if rung.get("pick", "first") == "first"]
    fields: dict[str, st.SearchStrategy[Any]] = {
        "runs": st.lists(st.sampled_from("abcd"), min_size=1, max_size=2, unique=True),
        "kinds": st.lists(st.sampled_from(["full", "incremental", "log"]), min_size=1, max_size=2, unique=True),
    }
    if "narrow locks" in focus:
        narrow = draw(st.sampled_from([{"runs": ["a"]}, {"kinds": ["incremental"]}, {"runs": ["b", "a"], "kinds": ["full"]}]))
        return [{"for": draw(st.sampled_from(["P5D", "P2W"]))} | narrow, {"for": "PT40H", "runs": ["c"]}]
    if firsts and "rung locks" in focus:
        return [{"for": draw(st.sampled_from(["P5D", "P2W"])), "rungs": firsts[:1]}, {"for": "PT40H"}]
    if firsts:
        fields["rungs"] = st.lists(st.sampled_from(firsts), min_size=1, unique=True)
    return [
        {"for": draw(st.sampled_from(["P5D", "P2W", "PT40H", "P1M"]))}
        | (draw(optional(**fields)) if draw(st.integers(0, 3)) < 3 else {})
        for _ in range(draw(st.integers(1, 2)))
    ]


@st.composite
def kept_locks(draw: st.DrawFn, ladder: dict[str, Any], focus: Focus) -> list[dict[str, Any]]:
    """Locks, among them one that lasts as long as the point is kept where the ladder allows that."""
    keeps = [rule["keep"] for rule in (*ladder["recent"], *ladder.get("rungs", ()))]
    firsts = all(rung.get("pick", "first") == "first" for rung in ladder.get("rungs", ()))
    if firsts and all(isinstance(keep, str) for keep in keeps) and draw(st.integers(0, 2)) < 2:
        return [{"for": "kept"}, *draw(st.one_of(st.just([]), locks(ladder, focus)))]
    return draw(locks(ladder, focus))


@st.composite
def step_downs(
    draw: st.DrawFn, before: dict[str, Any], ladder: dict[str, Any], house: dict[str, list[Any]]
) -> list[dict[str, Any]]:
    """One or two stages to other targets."""
    steps: list[dict[str, Any]] = []
    targets, focus = house["targets"], house["focus"]
    names = [rung["name"] for rung in ladder.get("rungs", ())]
    for _ in range(2 if "stages" in focus else draw(st.sampled_from([1, 1, 2]))):
        choices = [one for one in targets if one["id"] != before["id"] and one["media"] != "snapshot"]
        if not choices:
            break
        target = draw(st.sampled_from(choices))
        step: dict[str, Any] = {"after": draw(st.sampled_from(["P0D", "P2D", "P9D", "P2W", "PT60H"])), "target": target["id"]}
        separate = all(one.get("packing", "separate") == "separate" and one["media"] != "snapshot" for one in (before, target))
        if separate and ("chain" in focus or draw(st.booleans())):
            step |= {"which": "all", "as": "chain"}
        elif names and draw(st.booleans()):
            step["which"] = draw(st.one_of(st.just("rungs"), st.lists(st.sampled_from(names), min_size=1, unique=True)))
        else:
            step["which"] = "all"
        step |= draw(optional(keep_source=st.booleans(), skip_if_short=st.booleans()))
        if "kept source" in focus:
            step |= {"keep_source": draw(st.sampled_from([True, True, False])), "skip_if_short": False}
        if "moves" in focus:
            step |= {"after": draw(st.sampled_from(["P0D", "P2D", "PT30H"])), "skip_if_short": draw(st.booleans())}
        if draw(st.integers(0, 3)) == 0:
            step["lock"] = draw(kept_locks(ladder, focus))
        steps.append(step)
        before = target
    return steps


@st.composite
def first_copies(draw: st.DrawFn, house: dict[str, list[Any]]) -> dict[str, Any]:
    """A copy that takes points itself; snapshots on snapshot space, anything else elsewhere."""
    near = [one for one in house["targets"] if one["site"] == "here"]
    target = near[-1] if "snapshots" in house["focus"] else draw(st.sampled_from(near))
    beats = house["snapshots"] if target["media"] == "snapshot" else house["beats"]
    copy = {"id": "first", "target": target["id"], "cadence": draw(st.sampled_from(beats))["id"]}
    return copy | draw(keeping(target, house))


@st.composite
def keeping(draw: st.DrawFn, target: dict[str, Any], house: dict[str, list[Any]]) -> dict[str, Any]:
    """How long a copy on a target keeps what it has."""
    ladder = draw(st.sampled_from(house["rules"]))
    sweep = "with-runs" if "due" in house["focus"] else draw(st.sampled_from(["daily", "daily", "with-runs"]))
    copy: dict[str, Any] = {"ladder": ladder["id"], "sweep": sweep}
    if {"rung locks", "kept locks", "narrow locks"} & set(house["focus"]) or draw(st.booleans()):
        copy["lock"] = draw(kept_locks(ladder, house["focus"]))
    if len(house["targets"]) > 1 and ({"moves", "chain", "stages"} & set(house["focus"]) or draw(st.booleans())):
        copy["step_downs"] = draw(step_downs(target, ladder, house))
    return copy


ROTATIONS = st.one_of(
    st.fixed_dictionaries({"scheme": st.sampled_from(["fifo", "hanoi"]), "sets": st.integers(1, 5)}),
    st.fixed_dictionaries({"scheme": st.just("gfs"), "weekly_on": st.sampled_from(["FR", "SU"]), "years": st.integers(0, 2)}),
)


@st.composite
def later_copies(draw: st.DrawFn, name: str, earlier: list[dict[str, Any]], house: dict[str, list[Any]]) -> dict[str, Any]:
    """A copy that follows another, or reads it at its own runs."""
    targets = [one for one in house["targets"] if one["media"] != "snapshot"]
    target = targets[0] if "rotation" in house["focus"] and name == "second" else draw(st.sampled_from(targets))
    source = draw(st.sampled_from(earlier))
    if "replicas" in house["focus"] and source["target"] == "beside" and (name == "second" or draw(st.booleans())):
        target = next(one for one in house["targets"] if one["id"] == "afar")
    copy = {"id": name, "target": target["id"], "from": source["id"]} | draw(keeping(target, house))
    if target["media"] == "tape" and ("rotation" in house["focus"] or draw(st.integers(0, 3)) == 0):
        copy |= {"cadence": house["fulls"][0]["id"], "rotation": draw(ROTATIONS)}
        for field in ("ladder", "lock", "step_downs"):
            copy.pop(field, None)
        return copy
    about_following = {"kinds", "runs", "rungs", "delay", "month delay"} & set(house["focus"])
    if draw(st.integers(0, 7 if about_following else 1)) == 0:
        beats = house["snapshots"] if target["media"] == "snapshot" else house["beats"]
        return copy | {"cadence": draw(st.sampled_from(beats))["id"]}
    takes = draw(takes_of(source, house))
    if takes is not None:
        copy["take"] = takes
    if "month delay" in house["focus"]:
        return copy | {"delay": "P1M"}
    delays = ["PT4H", "PT26H", "P2D", "P1W"]
    return copy | {"delay": draw(st.sampled_from(delays if "delay" in house["focus"] else ["PT0S", *delays]))}


@st.composite
def takes_of(draw: st.DrawFn, source: dict[str, Any], house: dict[str, list[Any]]) -> Any:
    """What a following copy takes; None for what stands for all."""
    choices: dict[str, list[Any]] = {
        "kinds": [{"kinds": ["full", "incremental"]}, {"kinds": ["incremental", "log", "snapshot"]}],
        "runs": [{"runs": ["a", "c"]}, {"runs": ["b", "a"]}, {"runs": ["a"]}],
    }
    rungs_of = {ladder["id"]: ladder.get("rungs", ()) for ladder in house["rules"]}
    names = [
        rung["name"]
        for rung in rungs_of.get(source.get("ladder"), ())
        if rung.get("pick", "first") == "first" or rung["every"] != "hour"
    ]
    if names:
        choices["rungs"] = [{"rungs": names}, {"rungs": names[-1:]}]
    wanted = [name for name in ("rungs", "runs", "kinds") if name in house["focus"] and name in choices]
    if wanted:
        return draw(st.sampled_from(choices[draw(st.sampled_from(wanted))]))
    return draw(st.sampled_from([None, "all", *(take for several in choices.values() for take in several)]))


@st.composite
def targets_of(draw: st.DrawFn, focus: Focus) -> list[dict[str, Any]]:
    found = []
    separate = {"chain", "needed"} & set(focus)
    if "on one shared target" in focus:
        media = st.sampled_from(["disk", "object"])
        return [
            {"id": f"t{place}", "media": draw(media), "site": "here", "packing": "shared", "lock": "final"}
            for place in range(2)
        ]
    several = {"moves", "chain", "stages"} & set(focus)
    for place in range(draw(st.sampled_from([2, 3] if several else [1, 2, 2, 3]))):
        media = "tape" if place == 0 and "rotation" in focus else draw(st.sampled_from(["disk", "object", "tape"]))
        target = {
            "id": f"t{place}",
            "media": media,
            "site": "here",
            "packing": "separate" if separate else draw(st.sampled_from(["separate", "shared"])),
            "lock": draw(st.sampled_from(["final", "liftable", "final", "liftable", "none"])),
        }
        target |= draw(reclaims if draw(st.integers(0, 3)) == 0 else st.just({}))
        if draw(st.integers(0, 2)) == 0:
            target["minimum_days"] = draw(st.sampled_from([3, 6, 12]))
        found.append(target)
    if "snapshots" in focus:
        found.append({"id": "beside", "media": "snapshot", "site": "here", "lock": "liftable"})
    if "replicas" in focus:
        found.append({"id": "afar", "media": "snapshot", "site": "there", "lock": "liftable"})
    return found


@st.composite
def holds_of(draw: st.DrawFn, starts: str) -> dict[str, Any]:
    day = st.integers(-5, 60).map(lambda days: (date.fromisoformat(starts) + timedelta(days=days)).isoformat())
    taken_from, taken_to = sorted([draw(day), draw(day)])
    hold = {"workloads": draw(CHOICES), "taken_from": taken_from, "taken_to": taken_to, "placed": draw(day)}
    if draw(st.booleans()):
        hold["released"] = max(hold["placed"], draw(day))
    return hold


CHOICES = st.sampled_from([{"tags": ["all"]}, {"ids": ["w0"]}, {"ids": ["w0"], "tags": ["all"]}])


@st.composite
def opening_of(draw: st.DrawFn, starts: str, routes: list[Any], house: dict[str, list[Any]]) -> list[dict[str, Any]]:
    """A few points that are there when the design starts, at different times."""
    route = draw(st.sampled_from(routes))
    copy = draw(st.sampled_from(route["copies"]))
    media = {target["id"]: target["media"] for target in house["targets"]}[copy["target"]]
    kinds = ["snapshot"] if media == "snapshot" else ["full", "incremental", "differential", "synthetic", "log"]
    if "rotation" in copy:
        kinds = ["full", "synthetic"]
    if "synthetics" in house["focus"] and media != "snapshot":
        kinds = ["synthetic", "synthetic", "full", "incremental"]
    stock = []
    for days in draw(st.lists(st.integers(1, 40), min_size=1, max_size=5, unique=True)):
        taken = (date.fromisoformat(starts) - timedelta(days=days)).isoformat() + "T" + draw(st.sampled_from(CLOCKS))
        point = {
            "route": route["id"],
            "copy": copy["id"],
            "workload": "w0",
            "taken": taken,
            "kind": draw(st.sampled_from(kinds)),
        }
        stock.append(point | draw(optional(size=st.sampled_from(["1 TB", "70 GB"]))))
    return stock


@st.composite
def designs(draw: st.DrawFn, focus: Focus | None = None) -> dict[str, Any]:
    """Designs of one or two routes of up to three copies, over up to four targets of all packings."""
    focus = focus or draw(st.sampled_from(FOCUSES))
    house: dict[str, list[Any]] = {"focus": focus, "targets": draw(targets_of(focus))}
    several = {"several", "rotation"} & set(focus)
    people = [draw(workloads(f"w{place}")) for place in range(2 if several else draw(st.integers(1, 2)))]
    house["beats"] = [draw(cadences(f"c{place}", focus)) for place in range(draw(st.integers(1, 2)))]
    house["snapshots"] = [draw(snapshot_cadences("s"))]
    house["fulls"] = [{"id": "f", "runs": [draw(runs("a", ["full", "synthetic"]))]}]
    house["rules"] = [draw(ladders(f"l{place}", focus)) for place in range(draw(st.integers(1, 2)))]
    routes = []
    for place in range(draw(st.sampled_from([1, 1, 2]))):
        copies = [draw(first_copies(house))]
        for name in ["second", "third"][: draw(st.sampled_from([1, 2] if "replicas" in focus else [1, 2, 1, 0]))]:
            copies.append(draw(later_copies(name, copies, house)))
        routes.append({"id": f"r{place}", "workloads": draw(CHOICES), "copies": copies})
    starts = draw(st.sampled_from(STARTS))
    document = {
        "format": "rested-shelf-design",
        "version": 2,
        "name": "Random",
        "timezone": draw(st.sampled_from(ZONES)),
        "starts": starts,
        "years": 1,
        "week_starts": draw(st.sampled_from(["MO", "SU", "WE"])),
        "sites": [{"id": "here"}, {"id": "there"}],
        "targets": house["targets"],
        "workloads": people,
        "cadences": [*house["beats"], *house["snapshots"], *house["fulls"]],
        "ladders": house["rules"],
        "routes": routes,
    }
    if "holds" in focus or draw(st.integers(0, 3)) == 0:
        document["holds"] = [draw(holds_of(starts)) for _ in range(draw(st.integers(1, 2)))]
    if "opening" in focus or draw(st.integers(0, 3)) == 0:
        document["opening"] = draw(opening_of(starts, routes, house))
    return document
