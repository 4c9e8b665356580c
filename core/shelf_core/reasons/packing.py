"""The same design with a target's packing the other way."""

from shelf_core.design.document import Design
from shelf_core.design.faults import DesignError, fault
from shelf_core.design.reading import design_of


def other_packing(design: Design, target: str) -> Design:
    """The design with `shared` in place of `separate` on one target, or the other way round.

    Raises DesignError for a target that there is not, or whose rules ask for the packing it has.
    """
    place = next((at for at, one in enumerate(design.targets) if one.id == target), None)
    if place is None:
        raise DesignError([fault("target", message=f'expected the id of a target, got "{target}"')])
    other = "separate" if design.targets[place].packing == "shared" else "shared"
    document = design.canonical()
    targets = [dict(one.plain()) for one in design.targets]
    targets[place]["packing"] = other
    return design_of({**document, "targets": targets})
