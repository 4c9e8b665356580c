"""What tests of nights share."""

import csv
import io
from typing import Any

import pytest

from shelf_core.design.reading import design_of
from shelf_core.forecast.forecast import forecast
from shelf_core.nights.followed import Followed, NightSpan
from shelf_core.nights.following import follow
from shelf_core.nights.tables import Row, night_rows, seconds_of


def night(plain: dict[str, Any], begin: str, end: str) -> list[Row]:
    """The rows of a night of a design."""
    result = forecast(design_of(plain))
    first, last = seconds_of(result, begin), seconds_of(result, end)
    return list(night_rows(follow(result, NightSpan(first, last)), first, last))


def whole(plain: dict[str, Any]) -> Followed:
    """All nights of a design."""
    return follow(forecast(design_of(plain)))


def held_of(row: Row) -> dict[str, float]:
    """Seconds by label."""
    return {one.rsplit("=", 1)[0]: float(one.rsplit("=", 1)[1]) for one in row.held.split(";") if one}


def alike(found: list[dict[str, str]], expected: list[dict[str, str]]) -> None:
    """Rows that are equal whatever their order: texts to the letter, bytes and rates to one in a million."""
    keys = ("route", "copy", "workload", "machine", "taken", "how", "to_target", "resource")

    def key(row: dict[str, str]) -> tuple[str, ...]:
        return tuple(row.get(name, "") for name in keys)

    assert sorted(map(key, found)) == sorted(map(key, expected))
    for mine, theirs in zip(sorted(found, key=key), sorted(expected, key=key), strict=True):
        for name, value in theirs.items():
            if (name.endswith(("bytes", "per_second")) or name == "load") and value:
                assert float(mine[name]) == pytest.approx(float(value), rel=1e-6), (name, mine)
            else:
                assert mine[name] == value, (name, mine)


def table(text: str) -> list[dict[str, str]]:
    """Rows of a CSV."""
    return list(csv.DictReader(io.StringIO(text)))
