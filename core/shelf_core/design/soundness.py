"""Whether the parts of a design make sense together."""

from shelf_core.design.document import Design
from shelf_core.design.faults import Fault
from shelf_core.design.fitting import fitting_faults
from shelf_core.design.references import reference_faults


def design_faults(design: Design) -> list[Fault]:
    """What only shows when the parts are seen together: first what leads nowhere, and if all does, what does not fit."""
    return reference_faults(design) or fitting_faults(design)
