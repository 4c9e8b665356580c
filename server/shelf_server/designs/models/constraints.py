"""What the database itself refuses: the values that the document's own types refuse, and keys that are there twice."""

from collections.abc import Mapping
from typing import Any

from django.db import models
from django.db.models import F, Q

from shelf_core.design.base import Part

BOUNDS = {"minimum": "gte", "exclusiveMinimum": "gt", "maximum": "lte", "exclusiveMaximum": "lt"}
"""The bounds of a number in JSON Schema, as Django compares."""


def unique_key(table: str) -> models.UniqueConstraint:
    """An id of a design's list is there once."""
    return models.UniqueConstraint(fields=["design", "key"], name=f"{table}_key_once_per_design")


def in_order(table: str, first: str, last: str) -> models.CheckConstraint:
    """One date is not after another, where both are given."""
    condition: Any = Q(**{f"{first}__isnull": True}) | Q(**{f"{last}__isnull": True}) | Q(**{f"{first}__lte": F(last)})
    return models.CheckConstraint(condition=condition, name=f"{table}_{first}_before_{last}")


def checks_of(
    table: str, part: type[Part], renamed: Mapping[str, str | None] | None = None, prefix: str = ""
) -> list[models.BaseConstraint]:
    """The words and the ranges that the fields of a part allow, for the columns that hold them.

    A column has the name of its field after the prefix, or the one that it was renamed to; None for a field that no column
    holds as it is. Null is always let through: which
    columns may be null is said by the model.

    >>> from shelf_core.design.targets import Target
    >>> [one.name for one in checks_of("target", Target)][:2]
    ['target_media_is_known', 'target_reserve_percent_in_range']
    """
    found: list[models.BaseConstraint] = []
    for field, schema in part.model_json_schema(by_alias=True)["properties"].items():
        column = (renamed or {}).get(field, f"{prefix}{field}")
        if column is None:
            continue
        allowed = {name: value for one in schema.get("anyOf", [schema]) for name, value in one.items()}
        bounds = {f"{column}__{BOUNDS[name]}": value for name, value in allowed.items() if name in BOUNDS}
        if "enum" in allowed:
            condition = Q(**{f"{column}__in": allowed["enum"]})
            found.append(models.CheckConstraint(condition=condition, name=f"{table}_{column}_is_known"))
        elif bounds:
            found.append(models.CheckConstraint(condition=Q(**bounds), name=f"{table}_{column}_in_range"))
    return found
