"""From rows to the document."""

from collections.abc import Callable
from typing import Any

from shelf_core.design.document import Design
from shelf_core.design.editing import WHOLE
from shelf_core.design.reading import design_of
from shelf_core.design.versions import NEWEST
from shelf_server.designs import models
from shelf_server.designs.rows.values import Plain, date_of, dates, size_of, without_nothing

_WITHIN: dict[str, tuple[Any, tuple[str, ...]]] = {
    "sites": (models.Site, ()),
    "targets": (models.Target, ("site", "devices", "prices")),
    "workloads": (models.Workload, ()),
    "cadences": (models.Cadence, ("runs",)),
    "ladders": (models.Ladder, ("recent", "rungs")),
    "routes": (
        models.Route,
        (
            "workloads__workload",
            "tags",
            "copies__target",
            "copies__cadence",
            "copies__ladder",
            "copies__source",
            "copies__locks",
            "copies__step_downs__target",
            "copies__step_downs__locks",
        ),
    ),
}


def load_design(row: models.Design) -> Design:
    """The document of a design, read from its rows and checked as any document is."""
    return design_of(plain_design(row))


def plain_design(row: models.Design) -> Plain:
    """The document of a design as plain values."""
    plain: Plain = {
        "format": "rested-shelf-design",
        "version": NEWEST,
        "name": row.name,
        "timezone": row.timezone,
        "starts": date_of(row.starts),
        "years": row.years,
        "week_starts": row.week_starts,
        "currency": row.currency,
        "correlation": row.correlation,
    }
    for name, (model, within) in _WITHIN.items():
        if name == "workloads":
            plain[name] = _workloads(row)
            continue
        rows = model.objects.filter(design=row).prefetch_related(*within)
        plain[name] = [without_nothing({"id": one.key, "name": one.name, **_READERS[name](one)}) for one in rows]
    holds = models.Hold.objects.filter(design=row).prefetch_related("workloads__workload", "tags")
    plain["holds"] = [without_nothing(_hold(hold)) for hold in holds]
    opening = models.Opening.objects.filter(design=row).select_related("copy__route", "workload")
    plain["opening"] = [without_nothing(_opening(point)) for point in opening]
    unknowns = models.Unknown.objects.filter(design=row).prefetch_related("workloads__workload", "tags")
    plain["unknowns"] = [without_nothing(_unknown(unknown)) for unknown in unknowns]
    return plain


def versions(row: models.Design) -> dict[str, dict[str, int]]:
    """The version of every entity of a design, by list and id."""
    of_lists = {
        name: dict(model.objects.filter(design=row).values_list("key", "version")) for name, (model, _) in _WITHIN.items()
    }
    return {**of_lists, "settings": {WHOLE: row.version}, "stock": {WHOLE: row.stock_version}}


def _same(row: Any, *names: str) -> Plain:
    return {name: getattr(row, name) for name in names}


def _target(row: Any) -> Plain:
    plain = _same(row, "media", "reserve_percent", "packing", "lock", "minimum_days", "fill_order")
    tape = _same(row, "slots", "drives", "batch_closes", "returns_after")
    use = {"size": size_of(row.used_size), "annual_growth_percent": row.used_growth_percent} if row.used_size else None
    return {
        **plain,
        **tape,
        "site": row.site.key,
        "capacity": size_of(row.capacity),
        "cartridge": size_of(row.cartridge),
        "used_otherwise": use,
        "reclaim": {"rrule": row.reclaim_rrule, "at": row.reclaim_at} if row.reclaim_rrule else None,
        "devices": [{"name": one.name, "capacity": size_of(one.capacity)} for one in row.devices.all()],
        "storage_class": row.storage_class,
        "generation": row.generation,
        "prices": _prices(row.prices) if hasattr(row, "prices") else None,
    }


def _prices(row: Any) -> Plain:
    per = ("capacity_tb_month", "requests_thousand", "retrieval_tb", "traffic_tb", "cartridge", "cartridge_month")
    return {**_same(row, *per), "part_size": size_of(row.part_size)}


_NUMBERS = ("count", "daily_change_percent", "hot_percent", "change_pattern", "annual_growth_percent", "reduction")
_AS_IT_IS = (*_NUMBERS, "change_reduction", "priority")
_COLUMNS = ("pk", "key", "name", "site__key", "size", "alike_group", "alike_percent", "log_per_day", "begins", "until")


def _workloads(design: models.Design) -> list[Plain]:
    """All workloads, read as columns: a design has thousands, and most of a row object's cost is the object."""
    within: dict[str, dict[int, list[Any]]] = {"tags": {}, "steps": {}, "members": {}}
    for pk, tag in models.WorkloadTag.objects.filter(workload__design=design).values_list("workload_id", "tag"):
        within["tags"].setdefault(pk, []).append(tag)
    for step in models.Step.objects.filter(workload__design=design):
        within["steps"].setdefault(step.workload_id, []).append({"on": date_of(step.on), "add": size_of(step.add)})
    for member in models.Member.objects.filter(workload__design=design):
        within["members"].setdefault(member.workload_id, []).append(without_nothing(_member(member)))
    rows = models.Workload.objects.filter(design=design).values(*_COLUMNS, *_AS_IT_IS)
    return [without_nothing(_workload(row, {name: of.get(row["pk"], []) for name, of in within.items()})) for row in rows]


def _workload(row: Plain, within: Plain) -> Plain:
    return {
        "id": row["key"],
        "name": row["name"],
        **{name: row[name] for name in _AS_IT_IS},
        "site": row["site__key"],
        "size": size_of(row["size"]),
        "alike": {"group": row["alike_group"], "percent": row["alike_percent"]} if row["alike_group"] is not None else None,
        "log_per_day": size_of(row["log_per_day"]),
        "from": date_of(row["begins"]),
        "until": date_of(row["until"]),
        **within,
    }


def _member(row: Any) -> Plain:
    days = dates(row.offline)
    closed = {"true": True, "false": False}.get(row.keep_closed, row.keep_closed)
    return {
        "id": row.key,
        "offline": [list(span) for span in zip(days[::2], days[1::2], strict=True)],
        "closed_from": date_of(row.closed_from),
        "keep_closed": closed,
    }


def _cadence(row: Any) -> Plain:
    return {"runs": [without_nothing(_run(run)) for run in row.runs.all()]}


def _run(run: Any) -> Plain:
    return {
        "id": run.key,
        **_same(run, "name", "kind", "rrule", "once", "timezone"),
        "at": run.at if run.rrule else None,
        "from": date_of(run.begins),
        "until": date_of(run.until),
        "except": dates(run.skipped),
    }


def _ladder(row: Any) -> Plain:
    return {
        **_same(row, "floor", "logs"),
        "recent": [without_nothing({"keep": _keep(one), **_same(one, "runs", "kinds")}) for one in row.recent.all()],
        "rungs": [without_nothing(_rung(one)) for one in row.rungs.all()],
    }


def _rung(row: Any) -> Plain:
    return {**_same(row, "name", "every", "pick", "on"), "from": row.source, "keep": _keep(row)}


def _keep(row: Any) -> Any:
    if row.keep_for is not None:
        return row.keep_for
    if getattr(row, "keep_points", None) is not None:
        return {"points": row.keep_points}
    if getattr(row, "keep_periods", None) is not None:
        return {"periods": row.keep_periods}
    return {"superseded": {"extra": row.keep_superseded_extra}}


def _route(row: Any) -> Plain:
    chosen = {"ids": [one.workload.key for one in row.workloads.all()], "tags": [one.tag for one in row.tags.all()]}
    return {"workloads": without_nothing(chosen), "copies": [without_nothing(_copy(one)) for one in row.copies.all()]}


def _copy(row: Any) -> Plain:
    take = row.take_by if row.take_by in (None, "all") else {row.take_by: row.take_names}
    rotation = {
        "scheme": row.rotation_scheme,
        "sets": row.rotation_sets,
        "weekly_on": row.rotation_weekly_on,
        "years": row.rotation_years,
    }
    return {
        "id": row.key,
        **_same(row, "name", "delay", "sweep"),
        "target": row.target.key,
        "cadence": row.cadence.key if row.cadence else None,
        "ladder": row.ladder.key if row.ladder else None,
        "from": row.source.key if row.source else None,
        "take": take,
        "rotation": without_nothing(rotation) if row.rotation_scheme else None,
        "lock": [without_nothing(_lock(one)) for one in row.locks.all()],
        "step_downs": [without_nothing(_step_down(one)) for one in row.step_downs.all()],
    }


def _step_down(row: Any) -> Plain:
    return {
        **_same(row, "after", "keep_source", "skip_if_short"),
        "target": row.target.key,
        "which": row.rungs if row.which == "named" else row.which,
        "as": row.arrives_as,
        "lock": [without_nothing(_lock(one)) for one in row.locks.all()],
    }


def _lock(row: Any) -> Plain:
    return {"for": row.lasts, **_same(row, "mode", "runs", "kinds", "rungs")}


def _hold(row: Any) -> Plain:
    chosen = {"ids": [one.workload.key for one in row.workloads.all()], "tags": [one.tag for one in row.tags.all()]}
    days = {name: date_of(getattr(row, name)) for name in ("taken_from", "taken_to", "placed", "released")}
    return {"workloads": without_nothing(chosen), **days}


def _unknown(row: Any) -> Plain:
    chosen = {"ids": [one.workload.key for one in row.workloads.all()], "tags": [one.tag for one in row.tags.all()]}
    return {
        "id": row.key,
        "name": row.name,
        "workloads": without_nothing(chosen),
        "annual_growth_percent": _range(row, "growth"),
        "daily_change_percent": _range(row, "change"),
        "reduction": _range(row, "reduction"),
    }


def _range(row: Any, name: str) -> Plain | None:
    low, high, factors = (getattr(row, f"{name}_{column}") for column in ("low", "high", "by_factors"))
    return None if low is None else {"low": low, "high": high, "factors": factors}


def _opening(row: Any) -> Plain:
    return {
        "route": row.copy.route.key,
        "copy": row.copy.key,
        "workload": row.workload.key,
        **_same(row, "taken", "kind"),
        "size": size_of(row.size),
    }


_READERS: dict[str, Callable[[Any], Plain]] = {
    "sites": lambda _row: {},
    "targets": _target,
    "cadences": _cadence,
    "ladders": _ladder,
    "routes": _route,
}
