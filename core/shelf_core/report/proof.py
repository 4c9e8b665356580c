"""Proof in reports and workbooks: the verdicts of all duties, what lies between places and how fast, what nights come to."""

from collections.abc import Iterator
from html import escape

from shelf_core.design.document import Design
from shelf_core.design.values import duration_of
from shelf_core.digits import grouped
from shelf_core.forecast.figure_words import length_words
from shelf_core.forecast.line_words import link_reading
from shelf_core.forecast.wording import duration_words
from shelf_core.formats.csv_text import Cell
from shelf_core.nights.picture import YearsOfNights
from shelf_core.proof.arrived import Arrivals, takes_time
from shelf_core.proof.case_months import MonthOfCase, MonthRow, month_rows
from shelf_core.proof.duties import FAILS, Duties
from shelf_core.proof.sheet import DutyRow, DutySheet, sheet_of
from shelf_core.report.asked import Asked, Table
from shelf_core.report.markup import figures

DUTY_COLUMNS = (
    "duty", "source", "asks", "workloads", "verdict", "days_asked", "days_failed", "first_failed", "worst", "reason",
)  # fmt: skip
SPEED_COLUMNS = ("what", "name", "of", "speed")
NIGHT_COLUMNS = ("copy", "transfers", "late_transfers", "late_nights", "first_late")
LOSS_COLUMNS = ("case", "plan", *MonthRow._fields)
_LOSS_FIGURES = ("worst_loss_seconds", "back_seconds", "over_seconds", "not_back", "cost")
_LENGTHS = ("scan", "mount", "fetch", "thaw")
_SPEEDS = ("read_speed", "write_speed", "stream_speed", "network", "feed", "scan", "mount", "fetch", "thaw")


def duties_of(asked: Asked) -> DutySheet:
    """All duties, by the nights where they have been followed, else as if no transfer took time: so beyond the design too."""
    known = asked.arrivals or Arrivals({})
    return sheet_of(Duties(asked.result, known, further=lambda _longer: Arrivals({})))


def duty_table(asked: Asked) -> Table:
    """The verdict of every ask, for the workloads that meet it alike."""
    return Table("duties", "Duties", DUTY_COLUMNS, map(_duty_cells, duties_of(asked).rows))


def _duty_cells(row: DutyRow) -> tuple[Cell, ...]:
    names = ", ".join(row.workload_names)
    first = row.first_failed
    about = (row.duty_name, row.source, row.asks, names)
    return (*about, row.verdict, row.days_asked, row.days_failed, first, row.worst, row.reason)


def speed_table(asked: Asked) -> Table:
    """Every speed, and every time that passes first, as it is written in the design."""
    return Table("speeds", "Speeds", SPEED_COLUMNS, _speeds(asked.result.document))


def _speeds(design: Design) -> Iterator[tuple[Cell, ...]]:
    for what, parts in (("site", design.sites), ("target", design.targets), ("workload", design.workloads)):
        for one in parts:
            for field in _SPEEDS:
                value = getattr(one, field, None)
                if value is not None:
                    said = duration_words(duration_of(value)) if field in _LENGTHS else str(value)
                    yield what, one.name or one.id, field.replace("_", " "), said
    for link in design.links:
        yield "line", link.name or link.id, "reading", link_reading(link, design).sentence


def night_table(asked: Asked) -> Table:
    """What all nights come to, copy by copy; nothing where they have not been followed."""
    rows = [] if asked.nights is None else list(_nights(asked.nights))
    return Table("nights", "Nights", NIGHT_COLUMNS, rows)


def _nights(years: YearsOfNights) -> Iterator[tuple[Cell, ...]]:
    for one in years.copies:
        yield one.name, sum(one.transfers), sum(one.late), sum(late > 0 for late in one.late), one.first_late


def loss_table(asked: Asked) -> Table:
    """Each case of loss through the months; nothing where they have not been looked through."""
    rows = ((case.name, case.plan, *_with_numbers(row)) for case in asked.months or () for row in month_rows(case))
    return Table("losses", "Losses by month", LOSS_COLUMNS, rows)


def _with_numbers(row: MonthRow) -> Iterator[Cell]:
    """Figures as numbers, so that they can be reckoned with."""
    for name, cell in zip(row._fields, row, strict=True):
        yield float(cell) if cell and name in _LOSS_FIGURES else cell


def verdicts_page(asked: Asked) -> str:
    """The section that a report leads with: every duty in sentences, what fails first. Empty for a design without duties."""
    if not asked.result.design.duties:
        return ""
    sheet = duties_of(asked)
    rows = sorted(sheet.rows, key=lambda row: row.verdict != FAILS)
    lines = "".join(
        f"<li><b>{escape(row.duty_name)}</b> ({escape(_some(row.workload_names))}): {escape(row.asks)}. "
        f'<span class="{"bad" if row.verdict == FAILS else "good"}">{escape(row.reason)}</span></li>'
        for row in rows
    )
    return f"<h2>Duties</h2><p>{_grounds(asked)}</p><ul>{lines}</ul>"


def _some(names: list[str]) -> str:
    return ", ".join(names) if len(names) <= 4 else f"{', '.join(names[:3])} and {len(names) - 3} more"


def _grounds(asked: Asked) -> str:
    if not takes_time(asked.result.design):
        return "Nothing in this design says how long transfers take: points count from when they are written."
    if asked.arrivals is None:
        return "Judged as if no transfer took time, since the nights of this design have not been followed."
    return "Judged by the nights as they were followed: a point counts from when its transfer has ended."


def nights_page(asked: Asked) -> str:
    """What is late from when on, and what was found. Empty where the nights have not been followed."""
    years = asked.nights
    if years is None:
        return ""
    lead = (
        "Every night ends in time."
        if years.first_late is None
        else f"Something is late from the night of {years.first_late} on."
    )
    late = "".join(
        f"<li>{escape(one.name)}: late on {_nights_words(sum(count > 0 for count in one.late))}, first on {one.first_late}</li>"
        for one in years.copies
        if one.first_late
    )
    found = "".join(f"<li>{escape(one.sentence)} {escape(one.way_out)}</li>" for one in years.findings)
    return f"<h2>Nights</h2><p>{lead}</p><ul>{late}{found}</ul>"


def _nights_words(count: int) -> str:
    return f"{grouped(count)} {'night' if count == 1 else 'nights'}"


def losses_page(asked: Asked) -> str:
    """What each case of loss takes at worst, and how long its plan needs, at the ends of the years; empty where not known."""
    if not asked.months:
        return ""
    parts = []
    for case in asked.months:
        ends = [one for one in case.months if one.date[5:7] == "12"] or case.months[-1:]
        heads = ["at the end of", "most that is lost", "of", "nothing is left of"]
        rows = [_worst(one) for one in ends]
        if case.plan:
            heads.append(f"back by {escape(case.plan)}")
            rows = [[*row, _back(one)] for row, one in zip(rows, ends, strict=True)]
        parts.append(f"<h3>{escape(case.name)}</h3>{figures(heads, rows, words=len(heads))}")
    return f"<h2>Losses</h2>{''.join(parts)}"


def _worst(one: MonthOfCase) -> list[str]:
    return [one.date, _length(one.worst_loss_seconds), escape(one.worst_workload), escape(_some(one.nothing_left))]


def _length(seconds: float | None) -> str:
    return "" if seconds is None else length_words(seconds)


def _back(one: MonthOfCase) -> str:
    if one.back_seconds is None:
        return '<span class="bad">never</span>'
    missing = f", {one.not_back} {'is' if one.not_back == 1 else 'are'} not restored" if one.not_back else ""
    return f"{length_words(one.back_seconds)}{missing}"


def lines_page(design: Design) -> str:
    """What lies between the places, line by line. Empty without lines."""
    if not design.links:
        return ""
    lines = "".join(
        f"<li><b>{escape(link.name or link.id)}</b>: {escape(link_reading(link, design).sentence)}</li>"
        for link in design.links
    )
    return f"<h3>Lines between places</h3><ul>{lines}</ul>"
