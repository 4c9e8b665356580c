"""Random designs for property tests: plain documents, so that the reference and the engine each read them for themselves."""

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
    "FREQ=HOURLY;INTERVAL=9",
]
CLOCKS = ["00:00", "01:30", "02:30", "12:00", "22:00", "23:59"]
DURATIONS = ["P1D", "P3D", "P9D", "P2W", "P1M", "P5W", "PT36H", "P1Y", "P0D"]


def optional(**fields: st.SearchStrategy[Any]) -> st.SearchStrategy[dict[str, Any]]:
    return st.fixed_dictionaries({}, optional=fields)


reclaims = st.fixed_dictionaries(
    {
        "reclaim": st.fixed_dictionaries(
            {"rrule": st.sampled_from(["FREQ=WEEKLY;BYDAY=SU", "FREQ=MONTHLY;BYMONTHDAY=1"]), "at": st.just(["06:00", "22:00"])}
        )
    }
)


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
def cadences(draw: st.DrawFn, name: str) -> dict[str, Any]:
    first = draw(runs("a", ["full", "synthetic", "incremental"]))
    others = [
        draw(runs(letter, ["full", "synthetic", "differential", "incremental", "log"]))
        for letter in "bcd"[: draw(st.integers(0, 3))]
    ]
    return {"id": name, "runs": draw(st.permutations([first, *others]))}


@st.composite
def rungs(draw: st.DrawFn, name: str, earlier: list[str]) -> dict[str, Any]:
    every = draw(st.sampled_from(["hour", "day", "week", "month", "quarter", "year"]))
    rung: dict[str, Any] = {"name": name, "every": every}
    rung |= draw(
        optional(pick=st.sampled_from(["first", "last"]), **{"from": st.sampled_from(["self-contained", "any", *earlier])})
    )
    days = {"week": ["SU", "WE"], "month": [1, 15, 31, "1SU", "-1FR", "5MO"], "year": ["03-31", "02-29", "11-01"]}
    if every in days and draw(st.booleans()):
        rung["on"] = draw(st.sampled_from(days[every]))
    keep = st.one_of(st.integers(0, 6).map(lambda count: {"periods": count}), st.sampled_from(DURATIONS), st.just("forever"))
    return rung | {"keep": draw(keep)}


@st.composite
def ladders(draw: st.DrawFn, name: str) -> dict[str, Any]:
    keep = st.one_of(st.integers(0, 15).map(lambda count: {"points": count}), st.sampled_from(DURATIONS), st.just("forever"))
    narrowing = optional(
        runs=st.lists(st.sampled_from("abcd"), min_size=1, unique=True),
        kinds=st.lists(st.sampled_from(["full", "differential", "incremental"]), min_size=1, unique=True),
    )
    ladder: dict[str, Any] = {"id": name, "recent": []}
    if draw(st.integers(0, 3)) == 0:
        # What no rule holds on to: parents are gone when the next point wants them.
        short = st.sampled_from(
            [[], [{"keep": "P1D"}], [{"keep": "PT36H", "kinds": ["full"]}], [{"keep": "P3D", "runs": ["a"]}]]
        )
        ladder |= {"recent": draw(short), "floor": 0}
        return ladder | draw(optional(logs=st.sampled_from(["P1D", "P4D"])))
    for _ in range(draw(st.integers(0, 2))):
        ladder["recent"].append({"keep": draw(keep)} | (draw(narrowing) if draw(st.booleans()) else {}))
    ladder["rungs"], firsts = [], []
    for rung_name in ["low", "middle", "high"][: draw(st.integers(0, 3))]:
        rung = draw(rungs(rung_name, firsts))
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
            reduction=st.sampled_from([1, 1.6, 3]),
            change_reduction=st.sampled_from([1.2, 2]),
            log_per_day=st.sampled_from(["5 GB", 0]),
            alike=st.fixed_dictionaries({"group": st.sampled_from(["x", "y"]), "percent": st.sampled_from([0, 60, 100])}),
            until=st.sampled_from(["2027-04-25", "2027-12-01"]),
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
    return workload


@st.composite
def locks(draw: st.DrawFn, ladder: dict[str, Any]) -> list[dict[str, Any]]:
    firsts = [rung["name"] for rung in ladder.get("rungs", ()) if rung.get("pick", "first") == "first"]
    fields: dict[str, st.SearchStrategy[Any]] = {
        "runs": st.lists(st.sampled_from("abcd"), min_size=1, max_size=2, unique=True),
        "kinds": st.lists(st.sampled_from(["full", "incremental", "log"]), min_size=1, max_size=2, unique=True),
    }
    if firsts:
        fields["rungs"] = st.lists(st.sampled_from(firsts), min_size=1, unique=True)
    return [
        {"for": draw(st.sampled_from(["P5D", "P2W", "PT40H", "P1M"]))}
        | (draw(optional(**fields)) if draw(st.booleans()) else {})
        for _ in range(draw(st.integers(1, 2)))
    ]


@st.composite
def first_copies(draw: st.DrawFn, targets: list[Any], beats: list[Any], rules: list[Any]) -> dict[str, Any]:
    ladder = draw(st.sampled_from(rules))
    copy = {
        "id": "first",
        "target": draw(st.sampled_from(targets))["id"],
        "cadence": draw(st.sampled_from(beats))["id"],
        "ladder": ladder["id"],
        "sweep": draw(st.sampled_from(["daily", "with-runs"])),
    }
    return copy | ({"lock": draw(locks(ladder))} if draw(st.integers(0, 2)) == 0 else {})


@st.composite
def later_copies(
    draw: st.DrawFn, name: str, earlier: list[str], targets: list[Any], beats: list[Any], rules: list[Any]
) -> dict[str, Any]:
    """A copy that follows another, or reads it at its own runs (then without logs)."""
    copy = draw(first_copies(targets, beats, rules)) | {"id": name, "from": draw(st.sampled_from(earlier))}
    without_logs = [beat["id"] for beat in beats if all(run["kind"] != "log" for run in beat["runs"])]
    if without_logs and draw(st.booleans()):
        return copy | {"cadence": draw(st.sampled_from(without_logs))}
    del copy["cadence"]
    take = st.one_of(
        st.just("all"),
        st.just({"kinds": ["full", "incremental"]}),
        st.just({"kinds": ["incremental", "log"]}),
        st.just({"runs": ["a", "c"]}),
    )
    return copy | draw(optional(take=take, delay=st.sampled_from(["PT0S", "PT4H", "PT26H", "P2D", "P1W"])))


@st.composite
def designs(draw: st.DrawFn) -> dict[str, Any]:
    """Designs of one or two routes of up to three copies, over one or two targets of both packings."""
    targets = [
        {"id": f"t{place}", "media": "disk", "site": "here", "packing": draw(st.sampled_from(["separate", "shared"]))}
        | draw(reclaims if draw(st.integers(0, 2)) == 0 else st.just({}))
        for place in range(draw(st.integers(1, 2)))
    ]
    people = [draw(workloads(f"w{place}")) for place in range(draw(st.integers(1, 3)))]
    beats = [draw(cadences(f"c{place}")) for place in range(draw(st.integers(1, 2)))]
    rules = [draw(ladders(f"l{place}")) for place in range(draw(st.integers(1, 2)))]
    routes = []
    for place in range(draw(st.integers(1, 2))):
        choice = st.sampled_from([{"tags": ["all"]}, {"ids": ["w0"]}, {"ids": ["w0"], "tags": ["all"]}])
        copies = [draw(first_copies(targets, beats, rules))]
        for name in ["second", "third"][: draw(st.integers(0, 2))]:
            copies.append(draw(later_copies(name, [copy["id"] for copy in copies], targets, beats, rules)))
        routes.append({"id": f"r{place}", "workloads": draw(choice), "copies": copies})
    return {
        "format": "rested-shelf-design",
        "version": 1,
        "name": "Random",
        "timezone": draw(st.sampled_from(ZONES)),
        "starts": draw(st.sampled_from(STARTS)),
        "years": 1,
        "week_starts": draw(st.sampled_from(["MO", "SU", "WE"])),
        "sites": [{"id": "here"}],
        "targets": targets,
        "workloads": people,
        "cadences": beats,
        "ladders": rules,
        "routes": routes,
    }
