"""Sites and targets: where points lie."""

from typing import Annotated, Any, Literal

from pydantic import BeforeValidator, Field, model_validator

from shelf_core.calendar.rules import RuleText
from shelf_core.design.base import Part
from shelf_core.design.values import Clock, DurationText, GrowthPercent, Id, Percent, Price, Size, Speed, Text
from shelf_core.design.version_steps import RENAMED_OF_TARGET

Media = Literal["disk", "snapshot", "object", "tape"]
Packing = Literal["separate", "shared"]


class Site(Part):
    """A place that can be lost as a whole.

    `read_speed` and `write_speed` are what the storage of all workloads there gives and takes together, `network` what all
    transfers that begin, end or stay there pass.
    """

    id: Id
    name: Text = ""
    read_speed: Speed | None = None
    write_speed: Speed | None = None
    network: Speed | None = None


class Use(Part):
    """Bytes on a target that are not ours, with their own growth."""

    size: Size
    annual_growth_percent: GrowthPercent = 0


def _as_use(value: Any) -> Any:
    """A bare size is a use that does not grow."""
    return {"size": value} if isinstance(value, (str, int, float)) else value


class Reclaim(Part):
    """When the space of what went is given back."""

    rrule: RuleText
    at: list[Clock] = Field(default=["00:00"], min_length=1)


class Device(Part):
    """One of several devices of a disk target."""

    name: Text
    capacity: Size


class Prices(Part):
    """What a target costs, in the design's currency. What is not given costs nothing.

    `capacity_tb_month` is per decimal TB stored for a month (of capacity that is rented or written off), `requests_thousand`
    per thousand requests of `part_size` each, `retrieval_tb` per TB read back, `traffic_tb` per TB that leaves for another
    site, `cartridge` for one cartridge to buy and `cartridge_month` for one in storage.
    """

    capacity_tb_month: Price = 0
    requests_thousand: Price = 0
    part_size: Size = "16 MiB"
    retrieval_tb: Price = 0
    traffic_tb: Price = 0
    cartridge: Price = 0
    cartridge_month: Price = 0


class Target(Part):
    """Where points lie: disk, snapshot space on the source's own storage, object storage, tape.

    `lock` is what the target can do: a copy's lock holds nothing where it is `none`, and a final one is liftable where it is
    `liftable`. `fill_order` says how its devices fill, `batch_closes` when cartridges that are written together are closed.
    `storage_class` and `generation` are names for people; what they mean for the sums is said by the other fields. `account`
    names whose rights can delete what lies there: targets with the same name are lost to the same intruder.

    `read_speed` and `write_speed` are those of all streams together, `stream_speed` that of one alone, `streams` how many
    transfers there may be at once (those of `drives` if it is not said). `thaw` is from asking until the first byte, `mount`
    the time to load, thread and position a cartridge, `fetch` that to bring one that is away, at `away_site`. `feed` is the
    slowest speed at which a drive streams; `run_from` how long after its group has started a machine runs from a point here.
    """

    id: Id
    name: Text = ""
    media: Media
    site: Id
    capacity: Size | None = None
    reserve_percent: Percent = 0
    used_otherwise: Annotated[Use, BeforeValidator(_as_use)] | None = None
    packing: Packing = "separate"
    lock: Literal["none", "liftable", "final"] = "none"
    minimum_days: int = Field(default=0, ge=0, le=3660)
    reclaim: Reclaim | None = None
    devices: list[Device] = []
    fill_order: Literal["in-order", "even", "with-chain"] = "in-order"
    cartridge: Size | None = None
    slots: int | None = Field(default=None, ge=0)
    drives: int | None = Field(default=None, ge=0)
    batch_closes: Literal["run", "day", "week", "month", "full"] | None = None
    returns_after: DurationText | None = None
    storage_class: Text = ""
    generation: Text = ""
    account: Id | None = None
    read_speed: Speed | None = None
    write_speed: Speed | None = None
    stream_speed: Speed | None = None
    streams: int | None = Field(default=None, ge=1, le=1_000_000)
    thaw: DurationText | None = None
    mount: DurationText | None = None
    fetch: DurationText | None = None
    away_site: Id | None = None
    feed: Speed | None = None
    run_from: DurationText | None = None
    prices: Prices | None = None

    @model_validator(mode="before")
    @classmethod
    def _by_todays_names(cls, value: Any) -> Any:
        """Two fields are read by the names that they had in version 1, too."""
        if not isinstance(value, dict):
            return value
        renamed = {old: new for old, new in RENAMED_OF_TARGET.items() if old in value and new not in value}
        return {renamed.get(name, name): one for name, one in value.items()}
