"""Ladders: how long points stay."""

import re
from typing import Annotated, Any, Literal

from pydantic import Discriminator, Field, Tag, field_validator, model_validator

from shelf_core.design.base import Part
from shelf_core.design.cadences import Kind
from shelf_core.design.faults import expected
from shelf_core.design.values import LONGEST_YEARS, DurationText, Id, Text

Every = Literal["hour", "day", "week", "month", "quarter", "year"]
WEEKDAYS = ("MO", "TU", "WE", "TH", "FR", "SA", "SU")
PERIODS_A_YEAR = {"hour": 8766.0, "day": 365.2425, "week": 52.1775, "month": 12.0, "quarter": 4.0, "year": 1.0}
RESERVED_CLAIMS = ("recent", "hold", "log")


MOST_COUNTED = 1_000_000
"""Points or periods that one rule may count."""


class KeepPoints(Part):
    """The newest so many points."""

    points: int = Field(ge=0, le=MOST_COUNTED)


class KeepPeriods(Part):
    """The picks of the newest so many periods that have a candidate."""

    periods: int = Field(ge=0, le=MOST_COUNTED)


class Extra(Part):
    """How many newer points beyond one must hold a part."""

    extra: int = Field(default=0, ge=0)


class KeepSuperseded(Part):
    """Until each part of an index has been taken again."""

    superseded: Extra


def _kind_of_keep(value: Any) -> str:
    if isinstance(value, str):
        return "forever" if value == "forever" else "duration"
    keys = value if isinstance(value, dict) else type(value).model_fields if isinstance(value, Part) else ()
    return next((key for key in ("points", "periods", "superseded") if key in keys), "unknown")


Forever = Annotated[Literal["forever"], Tag("forever")]
_Duration = Annotated[DurationText, Tag("duration")]


def _expect_keep(example: str) -> Discriminator:
    return Discriminator(
        _kind_of_keep,
        custom_error_type="keep",
        custom_error_message=f'an ISO 8601 duration such as P14D, "forever" or {example}',
    )


RecentKeep = Annotated[
    Annotated[KeepPoints, Tag("points")] | Annotated[KeepSuperseded, Tag("superseded")] | _Duration | Forever,
    _expect_keep('{"points": 14}'),
]
RungKeep = Annotated[Annotated[KeepPeriods, Tag("periods")] | _Duration | Forever, _expect_keep('{"periods": 12}')]
UNION_TAGS = ("points", "periods", "superseded", "duration", "forever")


class Recent(Part):
    """One rule of the recent part, perhaps for some runs or kinds alone."""

    keep: RecentKeep
    runs: list[Id] | None = Field(default=None, min_length=1)
    kinds: list[Kind] | None = Field(default=None, min_length=1)


class Rung(Part):
    """One rung: in each period a point is picked, and the picks stay."""

    name: Id
    every: Every
    pick: Literal["first", "last"] = "first"
    on: str | int | None = None
    from_: Id = Field(default="self-contained", alias="from")
    keep: RungKeep

    @field_validator("on")
    @classmethod
    def _day_of_month_is_a_number(cls, value: str | int | None) -> str | int | None:
        return int(value) if isinstance(value, str) and re.fullmatch(r"\d{1,2}", value) else value

    @field_validator("name")
    @classmethod
    def _not_a_word_of_ours(cls, value: str) -> str:
        if value in (*RESERVED_CLAIMS, "self-contained", "any") or "+" in value:
            raise expected('a name without "+" that is none of recent, hold, log, self-contained, any', value)
        return value

    @model_validator(mode="after")
    def _on_suits_every(self) -> "Rung":
        if self.on is not None:
            check_on(self.every, self.on)
        if isinstance(self.keep, KeepPeriods) and self.keep.periods / PERIODS_A_YEAR[self.every] > LONGEST_YEARS:
            raise ValueError(f"keep: expected at most {LONGEST_YEARS} years, got {self.keep.periods} periods of a {self.every}")
        return self


class Ladder(Part):
    """How long points stay: a recent part and rungs."""

    id: Id
    name: Text = ""
    recent: list[Recent] = []
    rungs: list[Rung] = []
    floor: int = Field(default=1, ge=0, le=1_000_000)
    logs: DurationText | None = None


def check_on(every: str, on: str | int) -> None:
    """Raise ValueError unless `on` names a day of such a period."""
    if every == "week" and on in WEEKDAYS:
        return
    if every == "month" and _is_day_of_month(on):
        return
    if every == "year" and isinstance(on, str) and _is_day_of_year(on):
        return
    wanted = {
        "week": "a weekday such as SU",
        "month": "a day of the month such as 15, or an n-th weekday such as 1SU or -1FR",
        "year": "a day such as 03-31",
    }
    raise ValueError(f"on: {expected(wanted.get(every, f'nothing for a rung every {every}'), on)}")


def _is_day_of_month(on: str | int) -> bool:
    if isinstance(on, int):
        return not isinstance(on, bool) and 1 <= on <= 31
    return bool(re.fullmatch(r"-?[1-5](MO|TU|WE|TH|FR|SA|SU)", on))


def _is_day_of_year(on: str) -> bool:
    match = re.fullmatch(r"(\d\d)-(\d\d)", on)
    if match is None:
        return False
    month, day = int(match[1]), int(match[2])
    lengths = (31, 29, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31)
    return 1 <= month <= 12 and 1 <= day <= lengths[month - 1]
