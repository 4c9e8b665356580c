"""Plans of recovery in reports and workbooks: called for at the end of the day that is looked at, with nothing lost."""

from collections.abc import Iterator
from html import escape

from shelf_core.forecast.figure_words import bytes_words, length_words, money_words
from shelf_core.formats.csv_text import Cell
from shelf_core.proof.arrived import Arrivals
from shelf_core.proof.cases import as_it_is
from shelf_core.proof.lying import lying_of
from shelf_core.proof.picture import PlanPicture, RestoreBar, plan_picture
from shelf_core.proof.plans import carry_out_plan
from shelf_core.report.asked import Asked, Table
from shelf_core.report.markup import figures

PLAN_COLUMNS = (
    "plan", "group", "workload", "source", "moment", "kind", "lost_seconds", "read_bytes", "first_byte", "back_at", "in_use_at",
    "held_most", "reason", "cost",
)  # fmt: skip
MOST_ROWS = 40
"""So many workloads of a plan stand in a report; the table has them all."""


def plans_of(asked: Asked) -> Iterator[PlanPicture]:
    """Every plan carried out, by the nights where they have been followed, else as if no transfer took time."""
    result = asked.result
    plans = result.design.recovery_plans
    lyings = lying_of(result, asked.arrivals or Arrivals({})) if plans else {}
    called = int(result.frame.midnights[result.place_of(asked.on) + 1])
    for plan in plans:
        carried_out = carry_out_plan(as_it_is(result, called, called), plan, lyings)
        yield plan_picture(result, plan.id, carried_out, called, called)


def plan_table(asked: Asked) -> Table:
    """How each workload of each plan is restored; times are local, empty for never."""
    rows = (_cells(plan, bar) for plan in plans_of(asked) for bar in plan.bars)
    return Table("plans", f"Plans of recovery, called for at the end of {asked.on}", PLAN_COLUMNS, rows)


def _cells(plan: PlanPicture, bar: RestoreBar) -> tuple[Cell, ...]:
    moment, *times = (text.replace(" ", "T") for text in (bar.moment, bar.first_byte_text, bar.back_text, bar.in_use_text))
    about = (plan.name, bar.group, bar.name, bar.source, moment, bar.kind)
    return (*about, bar.lost_seconds, bar.read_bytes, *times, bar.held_most, bar.reason, bar.cost)


def plans_page(asked: Asked) -> str:
    """Every plan: when all is back and what it costs, then each of its workloads. Empty without plans."""
    parts = [_plan(asked, plan) for plan in plans_of(asked)]
    if not parts:
        return ""
    return f"<h2>Plans of recovery</h2><p>Each called for at the end of {asked.on}, with nothing lost.</p>{''.join(parts)}"


def _plan(asked: Asked, plan: PlanPicture) -> str:
    heads = ["workload", "from", "moment", "is lost", "reads", "is back"]
    rows = [_row(bar) for bar in plan.bars[:MOST_ROWS]]
    more = len(plan.bars) - len(rows)
    rest = f"<p>and {more} workloads more.</p>" if more > 0 else ""
    return f"<h3>{escape(plan.name)}</h3><p>{_lead(asked, plan)}</p>{figures(heads, rows, words=len(heads))}{rest}"


def _lead(asked: Asked, plan: PlanPicture) -> str:
    back = f"All is back on {plan.back_text}" if plan.back_text else '<span class="bad">Not all is ever back</span>'
    held = f", held most by {escape(plan.held_most)}" if plan.held_most else ""
    cost = f"; it costs {money_words(plan.cost, asked.result.design.currency)}" if plan.cost else ""
    return f"{back}{held}{cost}."


def _row(bar: RestoreBar) -> list[str]:
    if bar.reason:
        return [escape(bar.name), "", "", "", "", f'<span class="bad">{escape(bar.reason)}</span>']
    lost = "" if bar.lost_seconds is None else length_words(bar.lost_seconds)
    return [escape(bar.name), escape(bar.source), bar.moment, lost, bytes_words(bar.read_bytes), bar.back_text or "never"]
