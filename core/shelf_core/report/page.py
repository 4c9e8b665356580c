"""The report: one HTML page that stands alone, to read or to print."""

from html import escape

from shelf_core.cost.overview import Overview, overview
from shelf_core.cost.parts import cost_by
from shelf_core.design.document import Design
from shelf_core.design.routes import Route
from shelf_core.design.workloads import Workload
from shelf_core.digits import grouped
from shelf_core.forecast.figure_words import bytes_words, money_words
from shelf_core.forecast.route_words import copy_sentence
from shelf_core.forecast.series import series
from shelf_core.forecast.wording import sentence
from shelf_core.formats.digest import digest
from shelf_core.proof.loss_findings import all_findings
from shelf_core.reasons.sums import explain
from shelf_core.report.asked import Asked
from shelf_core.report.markup import figures
from shelf_core.report.pictures import bytes_picture, cost_picture, swatch
from shelf_core.report.plans import plans_page
from shelf_core.report.proof import lines_page, losses_page, nights_page, verdicts_page
from shelf_core.report.standing import buying_page, cadences_page, protection_page, tape_page
from shelf_core.style import names_like_figures, restyled_page

STYLE = """
@page { size: A4; margin: 18mm 16mm 20mm;
  @bottom-right { content: counter(page) " of " counter(pages); font-size: 8pt; color: #6B6672 }
  @bottom-left { content: string(foot); font-size: 8pt; color: #6B6672 } }
body { font-family: "Source Sans 3", "Source Sans 3 Variable", sans-serif; font-size: 10pt; color: #22202A;
  max-width: 190mm; margin: 0 auto; padding: 4mm; font-variant-numeric: tabular-nums; line-height: 1.35 }
h1, h2, h3 { font-family: "Fraunces", "Fraunces Variable", serif; font-weight: 600; margin: 0.9em 0 0.3em; break-after: avoid }
h1 { font-size: 22pt } h2 { font-size: 14pt; border-bottom: 0.4pt solid #A8772B; padding-bottom: 2pt } h3 { font-size: 11pt }
table { border-collapse: collapse; width: 100%; font-size: 8.5pt } th { text-align: left; color: #6B6672; font-weight: 600 }
td, th { padding: 1.5pt 5pt 1.5pt 0; border-bottom: 0.4pt solid #E2DCD0; vertical-align: top } td.n, th.n { text-align: right }
th.of { color: inherit; font-weight: 400 } tr { break-inside: avoid }
.bad { color: #B3422E } .good { color: #3F6148 } .quiet { color: #6B6672 }
.foot { string-set: foot content(); font-size: 8pt; color: #6B6672; overflow-wrap: anywhere }
section.target { break-inside: avoid } svg { width: 100% } ul { padding-left: 1.1em; margin: 0.3em 0 }
.swatch { display: inline-block; width: 8pt; height: 8pt; margin-right: 3pt }
"""
MOST_WORKLOADS = 60


def report(asked: Asked, fonts: str = "") -> str:
    """The report as HTML. `fonts` is CSS that names the files of the fonts, empty for those that the reader has."""
    design = asked.result.design
    found = overview(asked.result, asked.cost, asked.on, asked.today)
    parts = [
        _head(asked, found),
        verdicts_page(asked),
        protection_page(asked),
        _all_targets(found),
        buying_page(asked),
        _targets(asked, found),
        tape_page(asked),
        _cost(asked, found),
        nights_page(asked),
        losses_page(asked),
        plans_page(asked),
        _findings(asked),
        _assumptions(asked.result.document),
    ]
    title = escape(design.name)
    names = names_like_figures(asked.result.document.canonical())
    return (
        f'<!doctype html><html lang="en"><head><meta charset="utf-8"><title>{title}: forecast</title>'
        f"<style>{fonts}{STYLE}</style></head><body>{restyled_page(''.join(parts), asked.style, names)}</body></html>"
    )


def _head(asked: Asked, found: Overview) -> str:
    design = asked.result.design
    full = [row for row in found.rows if row.full_on]
    first = f" The first is {escape(full[0].name)}, on {full[0].full_on}." if full else ""
    return (
        f"<h1>{escape(design.name)}</h1>"
        f"<p>Forecast of {len(found.rows)} targets from {asked.result.day(0)} to {found.end}, as of the end of {found.on}; "
        f"made on {asked.today}.</p>"
        f'<p>{len(full)} of {len(found.rows)} targets run full in this time.<span class="bad">{first}</span> '
        f"{found.on[:7]} costs {money_words(found.cost_month, found.currency)}, all years together "
        f"{money_words(found.cost_whole, found.currency)}.</p>"
        f'<p class="foot">Digest of the design (SHA-256): {digest(asked.result.document)}</p>'
    )


def _all_targets(found: Overview) -> str:
    heads = ["target", *(f"{day}<br>points, stored" for day in (found.today, found.on)), "peak"]
    heads += [f"{found.end}<br>points, stored", "full on", found.on[:7]]
    rows = [
        [
            escape(row.name),
            f"{grouped(row.points_today)}<br>{bytes_words(row.stored_today)}",
            f"{grouped(row.points_on)}<br>{bytes_words(row.stored_on)}",
            f"{bytes_words(row.peak)}<br>{row.peak_on}",
            f"{grouped(row.points_end)}<br>{bytes_words(row.stored_end)}",
            _full_words(row.full_on, found.end, has_room=row.room_on is not None),
            money_words(row.cost_month, found.currency),
        ]
        for row in found.rows
    ]
    return f"<h2>All targets</h2>{figures(heads, rows)}"


def _full_words(full_on: str | None, end: str, *, has_room: bool) -> str:
    if full_on:
        return f'<span class="bad">{full_on}</span>'
    return f"not by {end}" if has_room else "grows with use"


def _targets(asked: Asked, found: Overview) -> str:
    drawn = {one.target: one for one in series(asked.result, 300)}
    parts = []
    for row in found.rows:
        why = explain(asked.result, row.target, asked.on)
        sentences = " ".join(escape(text) for text in why.sentences)
        picture = bytes_picture(asked.result, drawn[row.target], row.full_on)
        parts.append(f'<section class="target"><h3>{escape(row.name)}</h3>{picture}<p>{sentences}</p></section>')
    return f"<h2>Each target</h2>{''.join(parts)}"


def _cost(asked: Asked, found: Overview) -> str:
    cost = asked.cost
    names = {row.target: row.name for row in found.rows}
    if not found.cost_whole:
        return "<h2>Cost</h2><p>No prices are given.</p>"
    years = sorted({month[:4] for month in cost.months})
    rows = []
    for number, one in enumerate(cost.targets):
        by_year = _by_year(cost.months, one.per_month().tolist(), years)
        mark = f'<span class="swatch" style="background:{swatch(number)}"></span>'
        rows.append([mark + escape(names[one.target]), *(grouped(amount, 0) for amount in by_year)])
    for number, beside in enumerate(cost.beside, start=len(cost.targets)):
        by_year = _by_year(cost.months, beside.per_month.tolist(), years)
        mark = f'<span class="swatch" style="background:{swatch(number)}"></span>'
        rows.append([mark + escape(beside.name), *(grouped(amount, 0) for amount in by_year)])
    picture = cost_picture(asked.result, cost)
    whole = figures([f"{found.currency} a year", *years], rows)
    return f'<section class="target"><h2>Cost</h2>{picture}</section>{whole}{_cost_by_route(asked, found.currency, years)}'


def _cost_by_route(asked: Asked, currency: str, years: list[str]) -> str:
    rows = [
        [escape(part.name), *(grouped(amount, 0) for amount in _by_year(asked.cost.months, part.per_month.tolist(), years))]
        for part in cost_by(asked.result, asked.cost, "route")
    ]
    return f"<h3>What each route costs</h3>{figures([f'{currency} a year', *years], rows)}"


def _by_year(months: list[str], amounts: list[float], years: list[str]) -> list[float]:
    by_year = dict.fromkeys(years, 0.0)
    for month, amount in zip(months, amounts, strict=True):
        by_year[month[:4]] += amount
    return list(by_year.values())


def _findings(asked: Asked) -> str:
    found = all_findings(asked.result)
    if not found:
        return "<h2>What was found</h2><p>Nothing that asks for attention.</p>"
    lines = "".join(f"<li>{escape(one.sentence)} {escape(one.way_out)}</li>" for one in found)
    return f"<h2>What was found</h2><ul>{lines}</ul>"


def _assumptions(design: Design) -> str:
    ladders = "".join(f"<li><b>{escape(one.name or one.id)}</b>: {escape(sentence(one))}</li>" for one in design.ladders)
    routes = "".join(f"<li><b>{escape(route.name or route.id)}</b>: {_route(route, design)}</li>" for route in design.routes)
    return (
        f"<h2>Assumptions</h2><h3>Workloads</h3>{_workloads(design)}<h3>Targets</h3>{_places(design)}{lines_page(design)}"
        f"{cadences_page(design)}<h3>Ladders</h3><ul>{ladders}</ul><h3>Routes</h3><ul>{routes}</ul>{_unknowns(design)}"
    )


def _workloads(design: Design) -> str:
    heads = ["workload", "count", "size", "change a day", "growth a year", "reduction"]
    rows = [
        [
            escape(one.name or one.id),
            grouped(one.count),
            escape(str(one.size)),
            f"{one.daily_change_percent:g} % {one.change_pattern}",
            _growth_words(one),
            f"{one.reduction:g}",
        ]
        for one in design.workloads[:MOST_WORKLOADS]
    ]
    more = len(design.workloads) - len(rows)
    return figures(heads, rows) + (f"<p>and {grouped(more)} workloads more.</p>" if more else "")


def _growth_words(workload: Workload) -> str:
    """How it grows a year, and what comes on a date."""
    grows = f"{workload.annual_growth_percent:g} %" if workload.annual_growth is None else escape(str(workload.annual_growth))
    steps = [f"{step.add} on {step.on}" for step in workload.steps]
    machines = [f"{step.add} machines more on {step.on}" for step in workload.count_steps]
    return ", ".join([grows, *map(escape, steps), *machines])


def _places(design: Design) -> str:
    heads = ["target", "medium", "packing", "capacity", "reserve", f"{design.currency} per TB and month", "minimum stay"]
    rows = [
        [
            escape(one.name or one.id),
            one.media,
            one.packing,
            escape(str(one.capacity or "")),
            f"{one.reserve_percent:g} %" if one.reserve_percent else "",
            f"{one.prices.capacity_tb_month:g}" if one.prices else "",
            f"{one.minimum_days} days" if one.minimum_days else "",
        ]
        for one in design.targets
    ]
    return figures(heads, rows, 3)


def _route(route: Route, design: Design) -> str:
    return " ".join(escape(f"{copy.id}: {copy_sentence(copy, route, design)}") for copy in route.copies)


def _unknowns(design: Design) -> str:
    if not design.unknowns:
        return ""
    words = {"annual_growth_percent": "growth a year, %", "daily_change_percent": "change a day, %", "reduction": "reduction"}
    lines = []
    for one in design.unknowns:
        named = ((what, getattr(one, name)) for name, what in words.items())
        ranges = [
            f"{what}{': times' if found.factors else ''} {found.low:g} to {found.high:g}" for what, found in named if found
        ]
        lines.append(f"<li><b>{escape(one.name or one.id)}</b>: {'; '.join(ranges)}</li>")
    return f"<h3>What is not known</h3><ul>{''.join(lines)}</ul><p>Correlation {design.correlation:g}.</p>"
