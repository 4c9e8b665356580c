"""What a report says of how a design stands: 3-2-1 of every route, what to buy when, cartridges and slots, cadences."""

from collections.abc import Iterator
from html import escape
from itertools import groupby

import numpy as np

from shelf_core.arrays import Bytes
from shelf_core.cost.cartridges import CartridgeDays
from shelf_core.design.cadences import Run
from shelf_core.design.document import Design
from shelf_core.design.patterns import rule_sentence
from shelf_core.digits import grouped
from shelf_core.forecast.figure_words import bytes_words
from shelf_core.forecast.forecast import Forecast, TargetForecast
from shelf_core.forecast.protection import protection_on
from shelf_core.report.asked import Asked
from shelf_core.report.markup import figures


def protection_page(asked: Asked) -> str:
    """How well the workloads of every route are protected at the end of the day that is looked at."""
    found = protection_on(asked.result, asked.on)
    lines = []
    for route in asked.result.design.routes:
        for group in found[route.id]:
            count = len(group.workloads)
            whose = f", {grouped(count)} {'workload' if count == 1 else 'workloads'}" if len(found[route.id]) > 1 else ""
            mood = "bad" if group.missing else "good"
            lines.append(
                f'<li><b>{escape(route.name or route.id)}</b>{whose}: <span class="{mood}">{escape(group.verdict)}</span></li>'
            )
    return f"<h2>Three copies, two media, one elsewhere</h2><ul>{''.join(lines)}</ul>" if lines else ""


def buying_page(asked: Asked) -> str:
    """What each target that runs full lacks by the end of every year, and so what has to be there when."""
    result = asked.result
    years = [list(days) for _, days in groupby(range(result.frame.days), key=lambda place: result.day(place)[:4])]
    rows = [
        list(_lacking(result, one, years)) for one in result.targets if one.full_on is not None and one.room_bytes is not None
    ]
    if not rows:
        return "<h2>What to buy when</h2><p>No target runs full in this time: nothing has to be bought for room.</p>"
    heads = ["target", "full on", *(result.day(days[0])[:4] for days in years)]
    lead = "What the peak of each year lacks beyond the room there is. It has to be there before the day named."
    return f"<h2>What to buy when</h2><p>{lead}</p>{figures(heads, rows)}"


def _lacking(result: Forecast, one: TargetForecast, years: list[list[int]]) -> Iterator[str]:
    yield escape(one.target.name or one.target.id)
    yield result.day(one.full_on or 0)
    over: Bytes = one.totals.peak_bytes - (0.0 if one.room_bytes is None else one.room_bytes)
    for days in years:
        most = float(over[days[0] : days[-1] + 1].max())
        yield bytes_words(most) if most > 0 else ""


def tape_page(asked: Asked) -> str:
    """Cartridges by year: in use, bought, away, beside the slots. Empty without a tape library that says what one holds."""
    result = asked.result
    last = {result.day(place)[:4]: place for place in range(result.frame.days)}
    targets = {target.id: target for target in result.design.targets}
    parts = []
    for cost in asked.cost.targets:
        days: CartridgeDays | None = cost.cartridges
        if days is None:
            continue
        target = targets[cost.target]
        rows = [[year, *_cartridges(days, place, target.slots)] for year, place in last.items()]
        heads = ["at the end of", "in use", "free", "away", "bought since the start", "in slots"]
        parts.append(f"<h3>{escape(target.name or target.id)}</h3>{figures(heads, rows)}")
    return f"<h2>Cartridges and slots</h2>{''.join(parts)}" if parts else ""


def _cartridges(days: CartridgeDays, place: int, slots: int | None) -> list[str]:
    in_use, free, away = (int(one[place]) for one in (days.in_use, days.free, days.away))
    inside = in_use + free - away
    words = grouped(inside) if slots is None else f"{grouped(min(inside, slots))} of {grouped(slots)} slots"
    lacking = 0 if days.lacking_slots is None else int(days.lacking_slots[place])
    more = f', <span class="bad">{grouped(lacking)} have none</span>' if lacking else ""
    return [
        grouped(in_use),
        grouped(free),
        grouped(away),
        grouped(int(np.max(days.bought[: place + 1]))),
        words + more,
    ]


def cadences_page(design: Design) -> str:
    """What each cadence takes and when, run by run."""
    lines = "".join(
        f"<li><b>{escape(one.name or one.id)}</b>: {'; '.join(escape(_run_words(run)) for run in one.runs)}</li>"
        for one in design.cadences
    )
    return f"<h3>Cadences</h3><ul>{lines}</ul>" if lines else ""


def _run_words(run: Run) -> str:
    if run.rrule is None:
        return f"{run.name or run.id}, {run.kind}, once at {', '.join(one.replace('T', ' ') for one in run.once or ())}"
    return f"{run.name or run.id}, {run.kind}, {rule_sentence(run.rrule)} at {', '.join(run.at)}"
