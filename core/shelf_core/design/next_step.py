"""What comes next in a design that is not yet whole: one step, in the order in which an architect works."""

from dataclasses import dataclass
from typing import Literal

from shelf_core.design.document import Design, selected


@dataclass(frozen=True)
class NextStep:
    """The station at which the next step is done, and the step in a sentence."""

    station: Literal["workloads", "targets", "routes"]
    words: str


def next_step(design: Design) -> NextStep | None:
    """What a design lacks first before it says anything; None once points are brought to a target.

    >>> next_step(Design(name="New", timezone="UTC", starts="2027-01-01", years=5)).words
    'First say where things stand: add a site.'
    """
    if not design.sites:
        return NextStep("targets", "First say where things stand: add a site.")
    if not design.workloads:
        return NextStep("workloads", "First say what is to be protected: add a workload, or import a table of them.")
    if not design.targets:
        return NextStep("targets", "Next say where its points lie: add a target.")
    if not design.routes:
        return NextStep("routes", "Next bring both together: add a route, which takes workloads to targets.")
    if not any(selected(route.workloads, design.workloads) for route in design.routes):
        return NextStep("routes", "Next say what the route takes: choose workloads or a tag.")
    return None
