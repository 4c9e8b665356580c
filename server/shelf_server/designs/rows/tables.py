"""Which table, row and column holds each field of the document. A new field is a line here, in its model and in a migration."""

from shelf_core.design import cadences, document, extra_costs, ladders, links, routes, standing, targets, unknowns, workloads
from shelf_server.designs import models
from shelf_server.designs.rows.codecs import DAY_OR_NUMBER, DAY_OR_TRUTH, SIZE, SPANS, TAKE, WHICH, keep
from shelf_server.designs.rows.mapping import (
    THE_VALUE,
    Item,
    Table,
    column,
    listed,
    nested,
    reference,
    reference_by_two,
    reference_within,
    same,
    two_references,
)

ENTRY = (column("id", "key"), column("name", "name"))
"""What every entry of a list has."""


def _selection(of_workloads: type, of_tags: type, parent: str) -> Item:
    ids = Table(of_workloads, parent, (reference(THE_VALUE, "workload", "workloads"),))
    tags = Table(of_tags, parent, (column(THE_VALUE, "tag"),))
    return nested("workloads", (listed("ids", ids), listed("tags", tags)))


def speeds(*names: str) -> tuple[Item, ...]:
    """Speeds in columns of the same names; like sizes they are kept as they were typed."""
    return tuple(column(name, name, SIZE) for name in names)


SETTINGS = Table(
    models.Design,
    "pk",
    same("name", "timezone", "starts", "years", "week_starts", "currency", "correlation"),
    document.Settings,
)

SITES = Table(models.Site, "design", (*ENTRY, *speeds("read_speed", "write_speed", "network")), targets.Site, "sites")

LIMITS = Table(models.Limit, "link", (*same("days", "to"), column("from", "begins"), *speeds("speed")), links.Limit)
LINKS = Table(
    models.Link,
    "design",
    (
        *ENTRY,
        two_references("sites", ("one_end", "other_end"), "sites"),
        *speeds("speed", "stream_speed"),
        *same("shared", "usable_percent"),
        listed("limits", LIMITS),
    ),
    links.Link,
    "links",
)

DEVICES = Table(models.Device, "target", (*same("name"), column("capacity", "capacity", SIZE)), targets.Device)
PRICES = Table(
    models.Prices,
    "target",
    (
        *same("capacity_tb_month", "requests_thousand", "retrieval_tb", "traffic_tb", "cartridge", "cartridge_month"),
        column("part_size", "part_size", SIZE),
    ),
    targets.Prices,
)
TARGETS = Table(
    models.Target,
    "design",
    (
        *ENTRY,
        reference("site", "site", "sites"),
        *same("media", "reserve_percent", "packing", "lock", "minimum_days", "fill_order"),
        *same("slots", "drives", "batch_closes", "returns_after", "storage_class", "generation", "account"),
        column("capacity", "capacity", SIZE),
        column("cartridge", "cartridge", SIZE),
        *speeds("read_speed", "write_speed", "stream_speed", "feed"),
        *same("streams", "thaw", "mount", "fetch", "run_from"),
        reference("away_site", "away_site", "sites"),
        nested(
            "used_otherwise",
            (column("size", "used_size", SIZE), column("annual_growth_percent", "used_growth_percent")),
            "used_size",
        ),
        nested("reclaim", (column("rrule", "reclaim_rrule"), column("at", "reclaim_at")), "reclaim_rrule"),
        listed("devices", DEVICES),
        listed("prices", PRICES, alone=True),
    ),
    targets.Target,
    "targets",
)

STEPS = Table(models.Step, "workload", (*same("on"), column("add", "add", SIZE)), workloads.Step)
COUNT_STEPS = Table(models.CountStep, "workload", same("on", "add"), workloads.CountStep)
MEMBERS = Table(
    models.Member,
    "workload",
    (
        column("id", "key"),
        column("offline", "offline", SPANS),
        *same("closed_from"),
        column("keep_closed", "keep_closed", DAY_OR_TRUTH),
    ),
    workloads.Member,
)
WORKLOADS = Table(
    models.Workload,
    "design",
    (
        *ENTRY,
        reference("site", "site", "sites"),
        column("size", "size", SIZE),
        *same("count", "daily_change_percent", "hot_percent", "change_pattern", "annual_growth_percent"),
        *same("reduction", "change_reduction", "until", "priority", "scan", "needed_first"),
        *speeds("read_speed", "write_speed"),
        column("annual_growth", "annual_growth", SIZE),
        column("log_per_day", "log_per_day", SIZE),
        column("from", "begins"),
        nested("alike", (column("group", "alike_group"), column("percent", "alike_percent")), "alike_group"),
        listed("tags", Table(models.WorkloadTag, "workload", (column(THE_VALUE, "tag"),))),
        listed("steps", STEPS),
        listed("count_steps", COUNT_STEPS),
        listed("members", MEMBERS),
    ),
    workloads.Workload,
    "workloads",
)

RUNS = Table(
    models.Run,
    "cadence",
    (
        *ENTRY,
        *same("kind", "rrule", "at", "once", "timezone", "until"),
        column("from", "begins"),
        column("except", "skipped"),
    ),
    cadences.Run,
)
CADENCES = Table(models.Cadence, "design", (*ENTRY, listed("runs", RUNS)), cadences.Cadence, "cadences")

RECENT = Table(models.Recent, "ladder", (*same("runs", "kinds"), keep("points", "superseded")), ladders.Recent)
RUNGS = Table(
    models.Rung,
    "ladder",
    (*same("name", "every", "pick"), column("on", "on", DAY_OR_NUMBER), column("from", "source"), keep("periods")),
    ladders.Rung,
)
LADDERS = Table(
    models.Ladder,
    "design",
    (*ENTRY, *same("floor", "logs"), listed("recent", RECENT), listed("rungs", RUNGS)),
    ladders.Ladder,
    "ladders",
)


def _locks(parent: str) -> Table:
    return Table(models.Lock, parent, (column("for", "lasts"), *same("mode", "runs", "kinds", "rungs")), routes.Lock)


STEP_DOWNS = Table(
    models.StepDown,
    "copy",
    (
        reference("target", "target", "targets"),
        *same("after", "keep_source", "skip_if_short"),
        WHICH,
        column("as", "arrives_as"),
        listed("lock", _locks("step_down")),
    ),
    routes.StepDown,
)
COPIES = Table(
    models.Copy,
    "route",
    (
        *ENTRY,
        reference("target", "target", "targets"),
        reference("cadence", "cadence", "cadences"),
        reference("ladder", "ladder", "ladders"),
        reference_within("from", "source", "copies"),
        TAKE,
        *same("delay", "sweep", "at_close", "spread", "verify", "priority"),
        nested("window", (column("opens", "window_opens"), column("closes", "window_closes")), "window_opens"),
        nested(
            "rotation",
            tuple(column(name, f"rotation_{name}") for name in ("scheme", "sets", "weekly_on", "years")),
            "rotation_scheme",
        ),
        listed("lock", _locks("copy")),
        listed("step_downs", STEP_DOWNS),
    ),
    routes.Copy,
    "copies",
    follows="from",
)
ROUTES = Table(
    models.Route,
    "design",
    (*ENTRY, _selection(models.RouteWorkload, models.RouteTag, "route"), listed("copies", COPIES)),
    routes.Route,
    "routes",
)

HOLDS = Table(
    models.Hold,
    "design",
    (
        _selection(models.HoldWorkload, models.HoldTag, "hold"),
        *same("taken_from", "taken_to", "placed", "released"),
    ),
    document.Hold,
)
OPENING = Table(
    models.Opening,
    "design",
    (
        reference_by_two("route", "copy", "copy", "copies"),
        reference("workload", "workload", "workloads"),
        *same("taken", "kind"),
        column("size", "size", SIZE),
    ),
    document.Opening,
)


def _range(field: str, prefix: str) -> Item:
    low, high, factors = f"{prefix}_low", f"{prefix}_high", f"{prefix}_by_factors"
    return nested(field, (column("low", low), column("high", high), column("factors", factors)), low)


UNKNOWNS = Table(
    models.Unknown,
    "design",
    (
        *ENTRY,
        _selection(models.UnknownWorkload, models.UnknownTag, "unknown"),
        _range("annual_growth_percent", "growth"),
        _range("daily_change_percent", "change"),
        _range("reduction", "reduction"),
    ),
    unknowns.Unknown,
)

RECOVERY_PLANS = Table(
    models.RecoveryPlan,
    "design",
    (*ENTRY, reference("place", "site", "sites"), *same("ready", "groups", "in_place")),
    standing.RecoveryPlan,
    "recovery_plans",
)
LOSS_CASES = Table(
    models.LossCase,
    "design",
    (*ENTRY, *same("lost", "intruder", "unnoticed"), reference("plan", "plan", "recovery_plans")),
    standing.LossCase,
    "loss_cases",
)
DUTIES = Table(
    models.Duty,
    "design",
    (*ENTRY, *same("workloads", "until", "source", "first_by", "asks"), column("from", "begins")),
    standing.Duty,
    "duties",
)
COSTS = Table(
    models.ExtraCost,
    "design",
    (*ENTRY, *same("amount", "every", "workloads", "until"), column("for", "counted_by"), column("from", "begins")),
    extra_costs.ExtraCost,
    "costs",
)
REHEARSALS = Table(
    models.Rehearsal,
    "design",
    (reference("plan", "plan", "recovery_plans"), *same("at", "passed", "acted", "note")),
    standing.Rehearsal,
)

LISTS: dict[str, Table] = {
    "sites": SITES,
    "links": LINKS,
    "targets": TARGETS,
    "workloads": WORKLOADS,
    "cadences": CADENCES,
    "ladders": LADDERS,
    "routes": ROUTES,
    "recovery_plans": RECOVERY_PLANS,
    "loss_cases": LOSS_CASES,
    "duties": DUTIES,
    "costs": COSTS,
}
"""The tables of the lists whose entries have versions, in the order in which they refer to each other."""

STOCK: dict[str, Table] = {"holds": HOLDS, "opening": OPENING, "unknowns": UNKNOWNS, "rehearsals": REHEARSALS}
"""The tables of the lists that are written as a whole."""
