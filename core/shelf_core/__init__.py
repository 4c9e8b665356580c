"""The computation of Rested Shelf: no framework, no database, no network, no clock of its own.

What is listed here is for everybody and stays; everything else may move. Each name is loaded when it is first asked for, so
that naming the package costs nothing. The package's README has an example of each.
"""

import importlib
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from shelf_core.chance.bands import bands_of
    from shelf_core.cost.cost import cost_of
    from shelf_core.design.document import Design
    from shelf_core.design.editing import Change, with_changes
    from shelf_core.design.edits.commands import changes_by, command_of
    from shelf_core.design.faults import DesignError
    from shelf_core.design.reading import design_of, read_design
    from shelf_core.engine.memory import Memory
    from shelf_core.forecast.consequences import consequences
    from shelf_core.forecast.findings import findings
    from shelf_core.forecast.forecast import forecast as forecast_of
    from shelf_core.forecast.points import points_on
    from shelf_core.forecast.protection import protection_on
    from shelf_core.forecast.series import series
    from shelf_core.formats.documents import document_text, read_document
    from shelf_core.reasons.comparison import compare
    from shelf_core.reasons.keeps import longest_keep
    from shelf_core.reasons.sums import explain

__all__ = [
    "Change",
    "Design",
    "DesignError",
    "Memory",
    "bands_of",
    "changes_by",
    "command_of",
    "compare",
    "consequences",
    "cost_of",
    "design_of",
    "document_text",
    "explain",
    "findings",
    "forecast_of",
    "longest_keep",
    "points_on",
    "protection_on",
    "read_design",
    "read_document",
    "series",
    "with_changes",
]

_WHERE = {
    "Change": "design.editing",
    "Design": "design.document",
    "DesignError": "design.faults",
    "Memory": "engine.memory",
    "bands_of": "chance.bands",
    "changes_by": "design.edits.commands",
    "command_of": "design.edits.commands",
    "compare": "reasons.comparison",
    "consequences": "forecast.consequences",
    "cost_of": "cost.cost",
    "design_of": "design.reading",
    "document_text": "formats.documents",
    "explain": "reasons.sums",
    "findings": "forecast.findings",
    "forecast_of": "forecast.forecast",
    "longest_keep": "reasons.keeps",
    "points_on": "forecast.points",
    "protection_on": "forecast.protection",
    "read_design": "design.reading",
    "read_document": "formats.documents",
    "series": "forecast.series",
    "with_changes": "design.editing",
}
_CALLED = {"forecast_of": "forecast"}
"""The package of forecasts has the name of the function in it, so that here it needs another."""


def __getattr__(name: str) -> Any:
    if name not in _WHERE:
        raise AttributeError(f"module {__name__!r} has no attribute {name!r}")
    module = importlib.import_module(f"{__name__}.{_WHERE[name]}")
    return getattr(module, _CALLED.get(name, name))
