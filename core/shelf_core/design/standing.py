"""What a design must stand: plans of recovery, cases of loss, duties with what each asks, and rehearsals that were held."""

from typing import Annotated, Any, Literal

from pydantic import BeforeValidator, Field, model_validator

from shelf_core.design.base import Part
from shelf_core.design.routes import Selection
from shelf_core.design.targets import Media
from shelf_core.design.values import Day, DurationText, Id, LocalTime, Text

Source = Annotated[str, Field(max_length=500)]


def _as_selection(value: Any) -> Any:
    """A bare list of workloads names them by their ids."""
    return {"ids": value} if isinstance(value, list) else value


Workloads = Annotated[Selection, BeforeValidator(_as_selection)]


class PlanGroup(Part):
    """Workloads that are restored together; `then` is how long starting and checking them takes before the next group."""

    workloads: Workloads
    then: DurationText | None = None


class RecoveryPlan(Part):
    """Groups of workloads that are restored one after another at a place, each workload's own where none is named.

    It begins `ready` after it is called for. `in_place` says that the originals are there, only wrong.
    """

    id: Id
    name: Text = ""
    place: Id | None = None
    ready: DurationText | None = None
    groups: list[PlanGroup] = Field(min_length=1)
    in_place: bool = False


class Lost(Part):
    """Sites and targets that are lost, and whether the originals are."""

    sites: list[Id] = []
    targets: list[Id] = []
    source: bool = True


class Intruder(Part):
    """Who deletes all that no lock holds on targets with one of these accounts, with that account's rights or special ones."""

    accounts: list[Id] = Field(min_length=1)
    rights: Literal["account", "special"] = "account"


class LossCase(Part):
    """What is lost at once, since when what was taken is bad (`unnoticed`), and the plan by which all is brought back."""

    id: Id
    name: Text = ""
    lost: Lost = Lost()
    intruder: Intruder | None = None
    unnoticed: DurationText | None = None
    plan: Id | None = None


class Counted(Part):
    """Which points count for an ask: those of which all holds that is said here."""

    targets: list[Id] | None = Field(default=None, min_length=1)
    not_targets: list[Id] | None = Field(default=None, min_length=1)
    sites: list[Id] | None = Field(default=None, min_length=1)
    off_site: bool = False
    media: list[Media] | None = Field(default=None, min_length=1)
    locked: Literal["any", "final"] | None = None
    locked_for: DurationText | None = None

    @model_validator(mode="after")
    def _lock_is_named(self) -> "Counted":
        if self.locked_for is not None and self.locked is None:
            raise ValueError("expected locked beside locked_for, got locked_for alone")
        return self


PERIODS = ("hour", "day", "week", "month", "quarter", "year")
ASKS = ("stands", "rpo", "history", "copies", "gone_after", "rehearsed")


class Ask(Part):
    """One thing that a duty asks of each of its workloads on each day.

    It is one of: `rpo` (how old the newest point may be, with `spare` of them missing), `history` with `every`, `copies` with
    `media`, `off_site` and `fresh`, `gone_after`, `stands` (a loss case) with `rpo` or `rto`, `rehearsed`.
    """

    stands: Id | None = None
    rpo: DurationText | None = None
    spare: Literal[0, 1] = 0
    rto: DurationText | None = None
    degraded: bool = False
    history: DurationText | None = None
    every: DurationText | Literal["hour", "day", "week", "month", "quarter", "year"] | None = None
    copies: int | None = Field(default=None, ge=1, le=100)
    media: int = Field(default=0, ge=0, le=4)
    off_site: int = Field(default=0, ge=0, le=100)
    fresh: DurationText | None = None
    gone_after: DurationText | None = None
    readable: bool = True
    rehearsed: DurationText | None = None
    acted: bool = False
    counted: Counted | None = None
    first_by: DurationText | None = None

    @property
    def kind(self) -> str:
        """Which of the things it asks."""
        return next(name for name in ASKS if getattr(self, name) is not None)

    @model_validator(mode="after")
    def _asks_one_thing(self) -> "Ask":
        named = [name for name in ASKS if getattr(self, name) is not None]
        if named == ["stands", "rpo"]:
            named = ["stands"]
        if len(named) != 1:
            raise ValueError(f"expected one of {', '.join(ASKS)}, got {', '.join(named) or 'none'}")
        _check_beside(self, named[0])
        return self


def _check_beside(ask: Ask, kind: str) -> None:
    if kind == "stands" and (ask.rpo is None) == (ask.rto is None):
        raise ValueError("expected either rpo or rto beside stands, got " + ("neither" if ask.rpo is None else "both"))
    if kind != "stands" and ask.rto is not None:
        raise ValueError("expected rto beside stands alone")
    if (kind == "history") != (ask.every is not None):
        raise ValueError("expected history and every beside each other, got one of them")
    if kind in ("stands", "rehearsed") and ask.counted is not None:
        raise ValueError(f"expected no counted beside {kind}")


class Duty(Part):
    """What a law, a contract or a house asks of workloads, with its `source`.

    Between `from` and `until` alone; what has to begin first is asked `first_by` (7 days) after a workload begins.
    """

    id: Id
    name: Text = ""
    workloads: Workloads
    from_: Day | None = Field(default=None, alias="from")
    until: Day | None = None
    source: Source = ""
    first_by: DurationText | None = None
    asks: list[Ask] = Field(min_length=1)


class Rehearsal(Part):
    """A rehearsal of a plan that was held: when, whether it passed, and whether it was acted by stand-ins."""

    plan: Id
    at: LocalTime
    passed: bool
    acted: bool = False
    note: Source = ""
