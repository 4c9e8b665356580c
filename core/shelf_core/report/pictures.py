"""Pictures of a forecast as SVG, for the report: drawn without a browser."""

import math
from collections.abc import Callable, Sequence
from html import escape

from shelf_core.cost.cost import Cost
from shelf_core.forecast.figure_words import bytes_words, money_words
from shelf_core.forecast.forecast import Forecast
from shelf_core.forecast.series import Series

INK, MUTED, HAIRLINE, PLUM, BRICK = "#22202A", "#6B6672", "#E2DCD0", "#5A3E63", "#B3422E"
RAMP = ("#704F7B", "#CDB894", "#3C5C78", "#B79FBE", "#2F5452", "#DBA79C", "#8C8578", "#9DB3C4")
WIDTH, HEIGHT, LEFT, FOOT, TOP = 640, 170, 70, 18, 8


def bytes_picture(result: Forecast, one: Series, full_on: str | None) -> str:
    """Peak and stored bytes of a target through time, with its room and the day it is full."""
    days = max(1, result.frame.days - 1)
    highest = _round_top(max([1.0, *one.peak_bytes, *(one.room_bytes or [])]))
    x = [_across(place / days) for place in one.places]
    marks = _ticks(highest, bytes_words) + _years(result)
    stored = _line(x, one.stored_bytes, highest)
    shape = f"M{x[0]:.1f},{_down(0):.1f} L{stored[1:]} L{x[-1]:.1f},{_down(0):.1f} Z"
    lines = [
        f'<path d="{shape}" fill="#CDBBD3" fill-opacity="0.55"/>',
        f'<path d="{_line(x, one.peak_bytes, highest)}" fill="none" stroke="{PLUM}" stroke-width="1.2"/>',
    ]
    if one.room_bytes is not None:
        room = _line(x, [max(0.0, value) for value in one.room_bytes], highest)
        lines.append(f'<path d="{room}" fill="none" stroke="{BRICK}" stroke-dasharray="6 4"/>')
    if full_on is not None:
        at = _across(result.place_of(full_on) / days)
        lines.append(f'<line x1="{at:.1f}" x2="{at:.1f}" y1="{TOP}" y2="{_down(0)}" stroke="{BRICK}"/>')
        lines.append(f'<text x="{at + 4:.1f}" y="{TOP + 8}" fill="{BRICK}">full on {escape(full_on)}</text>')
    return _svg(marks + lines, "Bytes through time")


def cost_picture(result: Forecast, cost: Cost) -> str:
    """What all targets cost in each month, stacked."""
    highest = _round_top(max(1e-9, float(cost.per_month().max(initial=0.0))))
    months = max(1, len(cost.months) - 1)
    x = [_across(place / months) for place in range(len(cost.months))]
    currency = result.design.currency
    lines = _ticks(highest, lambda amount: money_words(amount, currency)) + _years(result)
    below = [0.0] * len(cost.months)
    parts = [*(one.per_month() for one in cost.targets), *(one.per_month for one in cost.beside)]
    for number, amounts in enumerate(parts):
        above = [low + float(more) for low, more in zip(below, amounts, strict=True)]
        upper, lower = _line(x, above, highest), _line(x[::-1], below[::-1], highest)
        lines.append(f'<path d="{upper} L{lower[1:]} Z" fill="{RAMP[number % len(RAMP)]}"/>')
        below = above
    return _svg(lines, "Cost of each month")


def swatch(number: int) -> str:
    """The colour of a target in the picture of the cost, for its legend."""
    return RAMP[number % len(RAMP)]


def _across(share: float) -> float:
    return LEFT + share * (WIDTH - LEFT - 6)


def _down(share: float) -> float:
    return HEIGHT - FOOT - share * (HEIGHT - FOOT - TOP)


def _line(x: Sequence[float], values: Sequence[float], highest: float) -> str:
    points = (f"{at:.1f},{_down(value / highest):.1f}" for at, value in zip(x, values, strict=True))
    return "M" + " L".join(points)


def _round_top(highest: float) -> float:
    """The first round number from `highest` on that four parts divide roundly."""
    power = 10.0 ** math.floor(math.log10(highest / 4))
    step = next(one * power for one in (1, 1.5, 2, 2.5, 3, 4, 5, 6, 8, 10) if one * power * 4 >= highest * (1 - 1e-9))
    return 4 * step


def _ticks(top: float, words: Callable[[float], str]) -> list[str]:
    found = []
    for share in (0.0, 0.25, 0.5, 0.75, 1.0):
        y = _down(share)
        found.append(f'<line x1="{LEFT}" x2="{WIDTH - 6}" y1="{y:.1f}" y2="{y:.1f}" stroke="{HAIRLINE}"/>')
        text = escape(words(share * top))
        found.append(f'<text x="{LEFT - 6}" y="{y + 3:.1f}" text-anchor="end" fill="{MUTED}">{text}</text>')
    return found


def _years(result: Forecast) -> list[str]:
    first = int(result.design.starts[:4])
    names = [f"{year}-01-01" for year in range(first, first + result.design.years + 1)]
    step = -(-len(names) // 12)
    found = []
    for name in names[::step]:
        if result.day(0) <= name <= result.day(result.frame.days - 1):
            at = _across(result.place_of(name) / max(1, result.frame.days - 1))
            found.append(f'<text x="{at:.1f}" y="{HEIGHT - 5}" fill="{MUTED}">{name[:4]}</text>')
    return found


def _svg(lines: list[str], label: str) -> str:
    size = f'viewBox="0 0 {WIDTH} {HEIGHT}" font-size="9"'
    return f'<svg xmlns="http://www.w3.org/2000/svg" {size} role="img" aria-label="{label}">{"".join(lines)}</svg>'
