"""The named edits of a design: each is a small part that says what is meant, and becomes the changes that it takes.

>>> from shelf_core.design.edits.commands import RenameRung, changes_by
>>> from shelf_core.design.reading import design_of
>>> plain = {"name": "Small", "timezone": "UTC", "starts": "2027-01-01", "years": 1}
>>> ladder = {"id": "house", "rungs": [{"name": "weekly", "every": "week", "keep": "P5W"}]}
>>> design = design_of({"format": "rested-shelf-design", "version": 2, **plain, "ladders": [ladder]})
>>> command = RenameRung(do="rename-rung", ladder="house", rung="weekly", name="Sundays")
>>> [(one.part, one.key) for one in changes_by(design, command)]
[('ladders', 'house')]
"""

from typing import Annotated, Any, Literal

from pydantic import Field, TypeAdapter, ValidationError

from shelf_core.design.base import Part
from shelf_core.design.document import Design
from shelf_core.design.editing import Change
from shelf_core.design.edits import copies, replacing, rungs
from shelf_core.design.faults import DesignError
from shelf_core.design.reading import faults_of
from shelf_core.design.values import Id, LocalTime

ListName = Literal[
    "sites", "links", "targets", "workloads", "cadences", "ladders", "routes", "recovery_plans", "loss_cases", "duties", "costs"
]


class TakeOut(Part):
    """Take an entry out, with another of its list in its place wherever it is referred to.

    Without `instead`, a workload is taken out of what names it by id, and opening stock goes with its workload or route.
    """

    do: Literal["take-out"]
    part: ListName
    key: Id
    instead: Id | None = None


class RenameRung(Part):
    """Give a rung another name, wherever it is named: in its ladder, in locks, in step-downs and in what copies take."""

    do: Literal["rename-rung"]
    ladder: Id
    rung: Id
    name: Id


class AddRoute(Part):
    """Add a route with its first copy on a target; the first route takes what workloads there are, if they are few."""

    do: Literal["add-route"]
    target: Id


class AddCopy(Part):
    """Put a copy of a route on a target. It follows the first copy, or has a cadence of its own where there is none.

    A cadence or ladder that it needs and the design has not is added with it.
    """

    do: Literal["add-copy"]
    route: Id
    target: Id


class OfCopy(Part):
    """What every edit of one copy names: the route, and the copy in it."""

    route: Id
    copy_: Id = Field(alias="copy")


class MoveCopy(OfCopy):
    """Let a copy lie on another target."""

    do: Literal["move-copy"]
    target: Id


class TakeOutCopy(OfCopy):
    """Take a copy out of its route: what followed it follows its source; of several with none the first takes its cadence."""

    do: Literal["take-out-copy"]


class AddStepDown(OfCopy):
    """Let older points of a copy step down to another target, after half a year until it is said otherwise."""

    do: Literal["add-step-down"]
    target: Id


class Seed(OfCopy):
    """Say that a full of each workload of a copy, taken then, is there when the design starts; None for none of them."""

    do: Literal["seed"]
    taken: LocalTime | None = None


Command = Annotated[
    TakeOut | RenameRung | AddRoute | AddCopy | MoveCopy | TakeOutCopy | AddStepDown | Seed, Field(discriminator="do")
]


_COMMAND: TypeAdapter[Command] = TypeAdapter(Command)


def command_of(value: Any) -> Command:
    """A command from plain values. Raises DesignError with every fault at its field.

    >>> command_of({"do": "add-route", "target": "disk"}).target
    'disk'
    """
    try:
        return _COMMAND.validate_python(value, by_alias=True, by_name=False)
    except ValidationError as error:
        raise DesignError(faults_of(error, value)) from None


def changes_by(design: Design, command: Command) -> list[Change]:
    """All the changes of entries that a command takes, to be made at once.

    Raises DesignError at the field that names what there is not, or what cannot be.
    """
    match command:
        case TakeOut():
            return replacing.replacing(design, command.part, command.key, command.instead)
        case RenameRung():
            return rungs.renaming(design, command.ladder, command.rung, command.name)
        case AddRoute():
            return copies.adding_route(design, command.target)
        case AddCopy():
            return copies.adding_copy(design, command.route, command.target)
        case MoveCopy():
            return copies.moving_copy(design, command.route, command.copy_, command.target)
        case TakeOutCopy():
            return copies.taking_copy_out(design, command.route, command.copy_)
        case AddStepDown():
            return copies.adding_step_down(design, command.route, command.copy_, command.target)
        case Seed():
            return copies.seeding(design, command.route, command.copy_, command.taken)
