"""Rules and routes as the API reads them out."""

from ninja import Schema

from shelf_core.design.ladders import Recent, Rung
from shelf_core.design.patterns import Pattern, Window
from shelf_core.forecast.line_words import LinkReading
from shelf_core.forecast.protection import Protection
from shelf_core.forecast.wording import Bar
from shelf_server.api.design_schemas import UseOut


class LadderReading(Schema):
    """A ladder in words, as bars on the age axis, and where it is used; what is added to it first when somebody asks."""

    sentence: str
    bars: list[Bar]
    next_recent: Recent
    next_rung: Rung
    uses: list[UseOut]


class RunReading(Schema):
    """A run in words; the pattern is null for a rule that only RRULE can say."""

    id: str
    sentence: str
    pattern: Pattern | None
    window: Window | None


class CadenceReading(Schema):
    """A cadence in words, and the routes that use it."""

    runs: list[RunReading]
    uses: list[UseOut]


class Readings(Schema):
    """All rules of a design in words."""

    ladders: dict[str, LadderReading]
    cadences: dict[str, CadenceReading]
    links: dict[str, LinkReading]


class RuleOut(Schema):
    """A pattern as a recurrence rule, and in words."""

    rrule: str
    sentence: str


class WindowOut(Schema):
    """The times of day of a window."""

    at: list[str]


class RouteReading(Schema):
    """A route in words: the workloads it takes, a sentence for each copy, and how its workloads are protected at the date."""

    workloads: list[str]
    copies: dict[str, str]
    protection: list[Protection]


class RoutesOut(Schema):
    """All routes in words at a date, the workloads that none takes, and every tag with how many have it.

    `before_start` is the last minute before the design starts: what is there by then is opening stock.
    """

    on: str
    revision: int
    routes: dict[str, RouteReading]
    taken_by_none: list[str]
    tags: dict[str, int]
    before_start: str
