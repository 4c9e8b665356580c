"""From the parts of a document to rows."""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, field
from datetime import date
from typing import Any

from shelf_core.design import cadences, document, ladders, routes, targets, workloads
from shelf_core.design.base import Part
from shelf_core.design.unknowns import Unknown
from shelf_server.designs import models
from shelf_server.designs.models.design import Entity
from shelf_server.designs.rows.values import size_column


@dataclass
class Keys:
    """The rows of a design by the ids of its document, to set foreign keys with."""

    sites: dict[str, int] = field(default_factory=dict)
    targets: dict[str, int] = field(default_factory=dict)
    workloads: dict[str, int] = field(default_factory=dict)
    cadences: dict[str, int] = field(default_factory=dict)
    ladders: dict[str, int] = field(default_factory=dict)
    copies: dict[tuple[str, str], int] = field(default_factory=dict)

    @classmethod
    def of(cls, design: models.Design) -> "Keys":
        """The keys of all that a design has."""
        tables = {name: MODELS[name] for name in ("sites", "targets", "workloads", "cadences", "ladders")}
        found = {
            name: dict(model.objects.filter(design=design).values_list("key", "pk"))  # type: ignore[attr-defined]
            for name, model in tables.items()
        }
        copies = models.Copy.objects.filter(route__design=design).values_list("route__key", "key", "pk")
        return cls(**found, copies={(route, copy): pk for route, copy, pk in copies})


MODELS: dict[str, type[Entity]] = {
    "sites": models.Site,
    "targets": models.Target,
    "workloads": models.Workload,
    "cadences": models.Cadence,
    "ladders": models.Ladder,
    "routes": models.Route,
}
"""The table of each list of a document, in the order in which they refer to each other."""


def store_design(design: document.Design, row: models.Design) -> None:
    """Write all parts of a document under a new row of its settings."""
    keys = Keys()
    for name in MODELS:
        pairs = [(models_row(name, row, part.id, position), part) for position, part in enumerate(getattr(design, name))]
        write_entities(name, pairs, keys)
    write_stock(design, row, keys)


def models_row(name: str, design: models.Design, key: str, position: int) -> Entity:
    """A new row for an entry of a list, not yet saved."""
    return MODELS[name](design=design, key=key, position=position)


def write_entities(name: str, pairs: Sequence[tuple[Entity, Part]], keys: Keys) -> None:
    """Write entries of a list to their rows, with all that is listed within them; what was there is replaced.

    The keys learn of the rows, so that what is written later can refer to them.
    """
    if name == "workloads":
        _write_workloads(pairs, keys)
    else:
        for row, part in pairs:
            row.name = part.name  # type: ignore[attr-defined]
            _WRITERS[name](row, part, keys)
    if name != "routes":
        getattr(keys, name).update({row.key: row.pk for row, _ in pairs})


def settings_columns(design: document.Design) -> dict[str, Any]:
    """The columns of a design's settings."""
    return {
        **_same(design, "name", "timezone", "years", "week_starts", "currency", "correlation"),
        "starts": date.fromisoformat(design.starts),
    }


def _same(part: Any, *names: str) -> dict[str, Any]:
    return {name: getattr(part, name) for name in names}


def _set(row: Any, **columns: Any) -> None:
    for name, value in columns.items():
        setattr(row, name, value)
    row.save()


def _replace(related: Any, parts: Iterable[Any], columns: Callable[[Any], dict[str, Any]]) -> None:
    if related.instance.pk is not None:
        related.all().delete()
    related.bulk_create(
        [
            related.model(**{related.field.name: related.instance}, position=place, **columns(part))
            for place, part in enumerate(parts)
        ]
    )


def _site(row: Any, _part: targets.Site, _keys: Keys) -> None:
    row.save()


def _target(row: Any, part: targets.Target, keys: Keys) -> None:
    plain = _same(part, "media", "reserve_percent", "packing", "lock", "minimum_days", "fill_order")
    tape = _same(part, "slots", "drives", "batch_closes", "returns_after", "generation", "storage_class")
    use, reclaim = part.used_otherwise, part.reclaim
    _set(
        row,
        **plain,
        **tape,
        site_id=keys.sites[part.site],
        capacity=size_column(part.capacity),
        cartridge=size_column(part.cartridge),
        used_size=size_column(use.size) if use else None,
        used_growth_percent=use.annual_growth_percent if use else 0,
        reclaim_rrule=reclaim.rrule if reclaim else None,
        reclaim_at=reclaim.at if reclaim else [],
    )
    _replace(row.devices, part.devices, lambda device: {"name": device.name, "capacity": size_column(device.capacity)})
    models.Prices.objects.filter(target=row).delete()
    if part.prices is not None:
        columns = {**part.prices.model_dump(), "part_size": size_column(part.prices.part_size)}
        models.Prices.objects.create(target=row, **columns)


_NUMBERS = ("count", "daily_change_percent", "hot_percent", "change_pattern", "annual_growth_percent", "reduction")


def _workload(part: workloads.Workload, keys: Keys) -> dict[str, Any]:
    return {
        "name": part.name,
        **_same(part, *_NUMBERS, "change_reduction", "priority"),
        "site_id": keys.sites[part.site],
        "size": size_column(part.size),
        "alike_group": part.alike.group if part.alike else None,
        "alike_percent": part.alike.percent if part.alike else None,
        "log_per_day": size_column(part.log_per_day),
        "begins": part.from_,
        "until": part.until,
    }


def _write_workloads(pairs: Sequence[tuple[Any, Any]], keys: Keys) -> None:
    """Write workloads in a few statements: a design has thousands, and a bulk edit changes hundreds."""
    there = [row.pk for row, _ in pairs if row.pk is not None]
    for model in (models.WorkloadTag, models.Step, models.Member):
        model.objects.filter(workload__in=there).delete()
    for row, part in pairs:
        for name, value in _workload(part, keys).items():
            setattr(row, name, value)
        row.pk = None  # the statement finds a row that is there by its design and key, and gives its number back
    columns = ["position", "version", *(name.removesuffix("_id") for name in _workload(pairs[0][1], keys))] if pairs else []
    rows = [row for row, _ in pairs]
    models.Workload.objects.bulk_create(
        rows, batch_size=1000, update_conflicts=True, unique_fields=["design", "key"], update_fields=columns
    )
    pieces: list[tuple[Any, str, Callable[[Any], dict[str, Any]]]] = [
        (models.WorkloadTag, "tags", lambda tag: {"tag": tag}),
        (models.Step, "steps", lambda step: {"on": step.on, "add": size_column(step.add)}),
        (models.Member, "members", _member),
    ]
    for model, name, columns_of in pieces:
        within = [
            model(workload=row, position=place, **columns_of(piece))
            for row, part in pairs
            for place, piece in enumerate(getattr(part, name))
        ]
        model.objects.bulk_create(within, batch_size=2000)


def _member(part: workloads.Member) -> dict[str, Any]:
    closed = part.keep_closed
    return {
        "key": part.id,
        "offline": [day for span in part.offline for day in span],
        "closed_from": part.closed_from,
        "keep_closed": str(closed).lower() if isinstance(closed, bool) else closed,
    }


def _cadence(row: Any, part: cadences.Cadence, _keys: Keys) -> None:
    row.save()
    _replace(row.runs, part.runs, _run)


def _run(run: cadences.Run) -> dict[str, Any]:
    plain = _same(run, "name", "kind", "rrule", "once", "timezone", "until")
    return {**plain, "key": run.id, "at": run.at, "begins": run.from_, "skipped": run.except_}


def _ladder(row: Any, part: ladders.Ladder, _keys: Keys) -> None:
    _set(row, **_same(part, "floor", "logs"))
    _replace(row.recent, part.recent, lambda rule: {**_same(rule, "runs", "kinds"), **_keep(rule.keep)})
    _replace(row.rungs, part.rungs, _rung)


def _rung(rung: ladders.Rung) -> dict[str, Any]:
    on = None if rung.on is None else str(rung.on)
    return {**_same(rung, "name", "every", "pick"), "on": on, "source": rung.from_, **_keep(rung.keep)}


def _keep(keep: Any) -> dict[str, Any]:
    if isinstance(keep, ladders.KeepPoints):
        return {"keep_points": keep.points}
    if isinstance(keep, ladders.KeepPeriods):
        return {"keep_periods": keep.periods}
    if isinstance(keep, ladders.KeepSuperseded):
        return {"keep_superseded_extra": keep.superseded.extra}
    return {"keep_for": keep}


def _route(row: Any, part: routes.Route, keys: Keys) -> None:
    row.save()
    _replace(row.workloads, part.workloads.ids, lambda name: {"workload_id": keys.workloads[name]})
    _replace(row.tags, part.workloads.tags, lambda tag: {"tag": tag})
    row.copies.all().delete()
    own: dict[str, int] = {}
    for position, copy in enumerate(part.copies):
        own[copy.id] = keys.copies[part.id, copy.id] = _copy(row, position, copy, own, keys).pk


def _copy(route: Any, position: int, copy: routes.Copy, own: dict[str, int], keys: Keys) -> models.Copy:
    rotation = copy.rotation
    row = models.Copy.objects.create(
        route=route,
        position=position,
        key=copy.id,
        **_same(copy, "name", "delay", "sweep"),
        target_id=keys.targets[copy.target],
        cadence_id=keys.cadences[copy.cadence] if copy.cadence else None,
        ladder_id=keys.ladders[copy.ladder] if copy.ladder else None,
        source_id=own[copy.from_] if copy.from_ else None,
        **_take(copy.take),
        rotation_scheme=rotation.scheme if rotation else None,
        rotation_sets=rotation.sets if rotation else None,
        rotation_weekly_on=rotation.weekly_on if rotation else None,
        rotation_years=rotation.years if rotation else None,
    )
    _replace(row.locks, copy.lock, _lock)
    for place, step in enumerate(copy.step_downs):
        named = step.which if isinstance(step.which, list) else []
        step_row = models.StepDown.objects.create(
            copy=row,
            position=place,
            **_same(step, "after", "keep_source", "skip_if_short"),
            target_id=keys.targets[step.target],
            which="named" if named else str(step.which),
            rungs=named,
            arrives_as=step.as_,
        )
        _replace(step_row.locks, step.lock, _lock)
    return row


def _take(take: Any) -> dict[str, Any]:
    if take is None or take == "all":
        return {"take_by": take}
    (by,) = type(take).model_fields
    return {"take_by": by, "take_names": getattr(take, by)}


def _lock(lock: routes.Lock) -> dict[str, Any]:
    return {"lasts": lock.for_, **_same(lock, "mode", "runs", "kinds", "rungs")}


def write_stock(design: document.Design, row: models.Design, keys: Keys) -> None:
    """Write the holds and the opening stock of a design in place of what there was."""
    models.Hold.objects.filter(design=row).delete()
    for position, hold in enumerate(design.holds):
        dates = _same(hold, "taken_from", "taken_to", "placed", "released")
        held: Any = models.Hold.objects.create(design=row, position=position, **dates)
        _replace(held.workloads, hold.workloads.ids, lambda name: {"workload_id": keys.workloads[name]})
        _replace(held.tags, hold.workloads.tags, lambda tag: {"tag": tag})
    _replace(row.opening, design.opening, lambda point: _opening(point, keys))
    models.Unknown.objects.filter(design=row).delete()
    for position, unknown in enumerate(design.unknowns):
        named: Any = models.Unknown.objects.create(design=row, position=position, **_unknown(unknown))
        _replace(named.workloads, unknown.workloads.ids, lambda name: {"workload_id": keys.workloads[name]})
        _replace(named.tags, unknown.workloads.tags, lambda tag: {"tag": tag})


def _unknown(unknown: Unknown) -> dict[str, Any]:
    ranges = {
        "growth": unknown.annual_growth_percent,
        "change": unknown.daily_change_percent,
        "reduction": unknown.reduction,
    }
    columns: dict[str, Any] = {"key": unknown.id, "name": unknown.name}
    for name, found in ranges.items():
        if found is not None:
            columns |= {f"{name}_low": found.low, f"{name}_high": found.high, f"{name}_by_factors": found.factors}
    return columns


def _opening(point: document.Opening, keys: Keys) -> dict[str, Any]:
    return {
        "copy_id": keys.copies[point.route, point.copy_],
        "workload_id": keys.workloads[point.workload],
        **_same(point, "taken", "kind"),
        "size": size_column(point.size),
    }


_WRITERS: dict[str, Callable[[Any, Any, Keys], None]] = {
    "sites": _site,
    "targets": _target,
    "cadences": _cadence,
    "ladders": _ladder,
    "routes": _route,
}
