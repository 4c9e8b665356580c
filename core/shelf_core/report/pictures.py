"""Pictures of a forecast as SVG, for the report: drawn without a browser."""

from collections.abc import Callable
from html import escape

from shelf_core.cost.charts import cost_drawing
from shelf_core.cost.cost import Cost
from shelf_core.forecast.charts import Box, Drawing
from shelf_core.forecast.figure_words import bytes_words, money_words
from shelf_core.forecast.forecast import Forecast
from shelf_core.forecast.series import Series
from shelf_core.forecast.target_charts import bytes_drawing
from shelf_core.inks import PART_INKS

INK, MUTED, HAIRLINE, PLUM, BRICK = "#22202A", "#6B6672", "#E2DCD0", "#5A3E63", "#B3422E"
WIDTH, HEIGHT = 640, 170
BOX = Box(left=70, right=WIDTH - 6, top=8, foot=HEIGHT - 18)
LOOKS = {
    "stored": 'fill="#CDBBD3" fill-opacity="0.55"',
    "peak": f'fill="none" stroke="{PLUM}" stroke-width="1.2"',
    "room": f'fill="none" stroke="{BRICK}" stroke-dasharray="6 4"',
}
"""How each shape of a target's chart is painted."""


def bytes_picture(result: Forecast, one: Series, full_on: str | None) -> str:
    """Peak and stored bytes of a target through time, with its room and the day it is full."""
    drawing = bytes_drawing(result.frame, one)
    lines = _axes(drawing, bytes_words)
    lines += [f'<path d="{shape.path(BOX)}" {LOOKS[shape.name]}/>' for shape in drawing.outlines]
    if full_on is not None:
        at = BOX.across(drawing.across(result.place_of(full_on)))
        lines.append(f'<line x1="{at:.1f}" x2="{at:.1f}" y1="{BOX.top}" y2="{BOX.foot}" stroke="{BRICK}"/>')
        lines.append(f'<text x="{at + 4:.1f}" y="{BOX.top + 8}" fill="{BRICK}">full on {escape(full_on)}</text>')
    return _svg(lines, "Bytes through time")


def cost_picture(result: Forecast, cost: Cost) -> str:
    """What all targets cost in each month, stacked."""
    drawing = cost_drawing(result.frame, cost, {})
    lines = _axes(drawing, lambda amount: money_words(amount, result.design.currency))
    lines += [f'<path d="{shape.path(BOX)}" fill="{swatch(number)}"/>' for number, shape in enumerate(drawing.outlines)]
    return _svg(lines, "Cost of each month")


def swatch(number: int) -> str:
    """The colour of a target in the picture of the cost, for its legend."""
    return PART_INKS[number % len(PART_INKS)]


def _axes(drawing: Drawing, words: Callable[[float], str]) -> list[str]:
    """Amounts with a line each, and the days that are named along the foot."""
    found = []
    for amount in drawing.marks:
        y = BOX.down(amount / drawing.top)
        found.append(f'<line x1="{BOX.left}" x2="{BOX.right}" y1="{y:.1f}" y2="{y:.1f}" stroke="{HAIRLINE}"/>')
        text = escape(words(amount))
        found.append(f'<text x="{BOX.left - 6}" y="{y + 3:.1f}" text-anchor="end" fill="{MUTED}">{text}</text>')
    for day in drawing.days:
        at = BOX.across(drawing.across(day.place))
        found.append(f'<text x="{at:.1f}" y="{HEIGHT - 5}" fill="{MUTED}">{day.text}</text>')
    return found


def _svg(lines: list[str], label: str) -> str:
    size = f'viewBox="0 0 {WIDTH} {HEIGHT}" font-size="9"'
    return f'<svg xmlns="http://www.w3.org/2000/svg" {size} role="img" aria-label="{label}">{"".join(lines)}</svg>'
