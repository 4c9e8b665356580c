"""Routes: workloads, and the chain of copies made of them."""

from typing import Annotated, Any, Literal

from pydantic import BeforeValidator, Discriminator, Field, Tag, model_validator

from shelf_core.design.base import Part
from shelf_core.design.cadences import Kind
from shelf_core.design.values import Clock, DurationText, Id, Text


class Selection(Part):
    """Workloads by id, by tag, or both; one that is named twice counts once."""

    ids: list[Id] = []
    tags: list[Id] = []


class TakeKinds(Part):
    """Points of these kinds."""

    kinds: list[Kind] = Field(min_length=1)


class TakeRuns(Part):
    """Points of these runs."""

    runs: list[Id] = Field(min_length=1)


class TakeRungs(Part):
    """Points that one of these rungs of the source picked."""

    rungs: list[Id] = Field(min_length=1)


def _kind_of_take(value: Any) -> str:
    if isinstance(value, str):
        return "all"
    keys = value if isinstance(value, dict) else type(value).model_fields if isinstance(value, Part) else ()
    return next((key for key in ("kinds", "runs", "rungs") if key in keys), "unknown")


Take = Annotated[
    Annotated[Literal["all"], Tag("all")]
    | Annotated[TakeKinds, Tag("kinds")]
    | Annotated[TakeRuns, Tag("runs")]
    | Annotated[TakeRungs, Tag("rungs")],
    Discriminator(
        _kind_of_take,
        custom_error_type="take",
        custom_error_message='"all", {"kinds": [...]}, {"runs": [...]} or {"rungs": [...]}',
    ),
]
UNION_TAGS = ("all", "kinds", "runs", "rungs")


class Lock(Part):
    """A time during which a point cannot be deleted, from when it was written."""

    for_: DurationText | Literal["kept"] = Field(alias="for")
    mode: Literal["liftable", "final"] = "liftable"
    runs: list[Id] | None = Field(default=None, min_length=1)
    kinds: list[Kind] | None = Field(default=None, min_length=1)
    rungs: list[Id] | None = Field(default=None, min_length=1)


def _as_list(value: Any) -> Any:
    """One lock may stand without a list around it."""
    return [value] if isinstance(value, (dict, Lock)) else value


Locks = Annotated[list[Lock], BeforeValidator(_as_list)]


class StepDown(Part):
    """A move of older points of a copy to a colder target."""

    after: DurationText
    target: Id
    which: list[Id] | Literal["rungs", "all"] = "rungs"
    as_: Literal["full", "chain"] = Field(default="full", alias="as")
    keep_source: bool = False
    skip_if_short: bool = True
    lock: Locks = []


class Rotation(Part):
    """A tape rotation in place of a ladder."""

    scheme: Literal["fifo", "hanoi", "gfs"]
    sets: int | None = Field(default=None, ge=1, le=64)
    weekly_on: Literal["MO", "TU", "WE", "TH", "FR", "SA", "SU"] | None = None
    years: int | None = Field(default=None, ge=0, le=150)


class CopyWindow(Part):
    """From when until when transfers may start, in local time; past midnight where it does not close later than it opens."""

    opens: Clock
    closes: Clock


class Copy(Part):
    """One stop of a route: a target, what it takes and when, how long it keeps it.

    `window` is when its transfers, but for logs, may start; `at_close` whether what runs is finished or stopped when it closes.
    With `spread` those of one run are asked for one after another within that time; with `verify` they are read back.
    """

    id: Id
    name: Text = ""
    target: Id
    cadence: Id | None = None
    from_: Id | None = Field(default=None, alias="from")
    take: Take | None = None
    delay: DurationText | None = None
    ladder: Id | None = None
    rotation: Rotation | None = None
    sweep: Literal["daily", "with-runs"] = "daily"
    lock: Locks = []
    step_downs: list[StepDown] = []
    window: CopyWindow | None = None
    at_close: Literal["finish", "stop"] = "finish"
    spread: DurationText | None = None
    verify: bool = False
    priority: int | None = Field(default=None, ge=1, le=9)

    @model_validator(mode="after")
    def _complete(self) -> "Copy":
        if self.cadence is None and self.from_ is None:
            raise ValueError("expected a cadence, or from with the copy that it follows, got neither")
        if (self.ladder is None) == (self.rotation is None):
            raise ValueError("expected either ladder or rotation, got " + ("neither" if self.ladder is None else "both"))
        if self.from_ is None and (self.take is not None or self.delay is not None):
            raise ValueError("expected take and delay only on a copy with from")
        if self.cadence is None and self.spread is not None:
            raise ValueError("expected spread only on a copy with a cadence")
        return self


class Route(Part):
    """Workloads and the copies made of them, the first from a cadence."""

    id: Id
    name: Text = ""
    workloads: Selection
    copies: list[Copy] = Field(min_length=1)
