"""What goes over the wire about long work, beside the core's own models."""

from typing import Literal

from ninja import Schema
from pydantic import Field

from shelf_core.chance.bands import Bands
from shelf_core.design.values import Day
from shelf_core.nights.picture import YearsOfNights
from shelf_core.proof.case_months import MonthsOfCase
from shelf_core.proof.mending import Mending
from shelf_core.proof.sheet import DutySheet
from shelf_core.reasons.keeps import LongestKeep
from shelf_core.reasons.longer import Longer
from shelf_core.reasons.marginals import Marginal
from shelf_server.api.schemas import Strict
from shelf_server.jobs.kinds import Kind


class JobIn(Strict):
    """What to compute in the background.

    `draws` and `seed` are of bands alone, `target`, `ladder` and `rung` of the longest keep that fits until `on`; `file` names
    the file of a job that makes one.
    """

    kind: Kind
    on: Day
    draws: int = Field(default=1000, ge=1000, le=5000)
    seed: int = Field(default=1, ge=0, le=2**31)
    target: str = Field(default="", max_length=100)
    ladder: str = Field(default="", max_length=100)
    rung: str = Field(default="", max_length=100)
    file: str = Field(default="", max_length=40)
    duty: str = Field(default="", max_length=100)
    ask: int = Field(default=0, ge=0, le=1000)


class JobsOut(Schema):
    """The latest job of each kind about a design, without results."""

    jobs: list["JobOut"]


class JobOut(Schema):
    """Work in the background, and its result once it is done; a file is fetched by itself.

    It is waiting until a worker has taken it, then running, then done, stopped or failed.
    """

    id: str
    kind: Kind
    revision: int
    on: str
    target: str
    ladder: str
    rung: str
    file: str
    duty: str
    ask: int
    state: Literal["waiting", "running", "done", "stopped", "failed"]
    done: int
    of: int
    failure: str
    bands: Bands | None = None
    rules: list[Marginal] | None = None
    longer: list[Longer] | None = None
    keep: LongestKeep | None = None
    nights: YearsOfNights | None = None
    duties: DutySheet | None = None
    months: list[MonthsOfCase] | None = None
    mend: Mending | None = None
