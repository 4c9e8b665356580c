"""Cases of loss month by month: worked by hand; common practice, no source."""

import io
import json
from pathlib import Path
from typing import Any

import pytest
from openpyxl import load_workbook

from shelf_core.cli import main
from shelf_core.cost.cost import cost_of
from shelf_core.design.reading import design_of
from shelf_core.forecast.forecast import forecast
from shelf_core.proof.arrived import Arrivals
from shelf_core.proof.case_months import CaseMonthsWork, MonthRow, MonthsOfCase
from shelf_core.report.asked import Asked
from shelf_core.report.page import report
from shelf_core.report.tables import table
from shelf_core.report.workbook import write_workbook
from tests.core.test_proof_facts import house

DAY, HOUR = 86_400, 3_600


def burnt(**more: Any) -> dict[str, Any]:
    """10 TB at a, a full each night at 22:00, its copy at b a day later, read back at 200 MB/s; a burns."""
    plain = house(
        workload={"daily_change_percent": 0, "until": "2027-06-14"},
        loss_cases=[
            {"id": "fire", "name": "Fire at a", "lost": {"sites": ["a"]}, "plan": "back"},
            {"id": "disk", "lost": {"targets": ["d", "e"]}},
        ],
        recovery_plans=[
            {"id": "back", "place": "b", "ready": "PT6H", "groups": [{"workloads": {"ids": ["w"]}, "then": "PT20M"}]}
        ],
        **more,
    )
    plain["targets"].append({"id": "e", "media": "object", "site": "b", "read_speed": "200 MB/s"})
    plain["routes"][0]["copies"].append({"id": "two", "from": "one", "target": "e", "ladder": "k", "delay": "P1D"})
    return plain


def months(plain: dict[str, Any]) -> list[MonthsOfCase]:
    """All cases of a design, as what takes no time."""
    work = CaseMonthsWork(forecast(design_of(plain)), lambda: Arrivals({}))
    return work.joined([work.part(number) for number in range(len(work))])


def test_a_fire_takes_a_day_and_two_hours_and_all_is_back_after_the_reading() -> None:
    """At a day's end the newest at b was taken the night before last: 26 h. 6 h, then 10 TB at 200 MB/s: 50,000 s."""
    fire, _ = months(burnt())
    assert (fire.case, fire.name, fire.plan, len(fire.months)) == ("fire", "Fire at a", "back", 12)
    february = fire.months[1]
    assert (february.date, february.worst_loss_seconds, february.worst_workload) == ("2027-02-28", 26 * HOUR, "w")
    assert february.nothing_left == []
    assert february.back_seconds == pytest.approx(6 * HOUR + 50_000)
    assert february.over_seconds == pytest.approx(6 * HOUR + 50_000 + 1_200)
    assert (february.not_back, february.back_text) == (0, "2027-03-01 19:53")


def test_after_a_workloads_end_nothing_is_asked_and_the_month_of_its_end_counts_to_it() -> None:
    fire, _ = months(burnt())
    assert fire.months[5].worst_loss_seconds == 26 * HOUR
    assert [one.worst_loss_seconds for one in fire.months[6:]] == [None] * 6


def test_where_all_is_lost_nothing_is_left_and_without_a_plan_none_is_told() -> None:
    _, disk = months(burnt())
    assert disk.plan == ""
    assert [one.nothing_left for one in disk.months[:7]] == [["w"]] * 6 + [[]]
    assert {(one.back_seconds, one.back_text, one.not_back) for one in disk.months} == {(None, "", 0)}


def test_the_command_prints_a_row_a_month(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    (path := tmp_path / "design.json").write_text(json.dumps(burnt()))
    assert main(["losses", str(path), "--case", "fire", "--every-month"]) == 0
    head, first, second, *rest = capsys.readouterr().out.splitlines()
    assert head == "date,worst_loss_seconds,worst_workload,nothing_left,back_seconds,over_seconds,not_back,held_most,cost"
    assert second == '2027-02-28,93600,w,,71600,72800,0,"e, read",0.0000'
    assert (first[:10], len(rest)) == ("2027-01-31", 10)


def test_losses_by_month_stand_in_the_report_and_the_workbook() -> None:
    found, result = months(burnt()), forecast(design_of(burnt()))
    asked = Asked(result, cost_of(result), "2027-06-30", "2026-11-24", months=found)
    page = report(asked)
    assert "<h2>Losses</h2>" in page
    assert "Fire at a" in page
    assert "back by back" in page
    out = io.BytesIO()
    write_workbook(asked, out)
    rows = [[cell.value for cell in row] for row in load_workbook(io.BytesIO(out.getvalue()))["Losses"].iter_rows()]
    head = next(row for row in rows if row[0] == "case")
    assert head == [name.replace("_", " ") for name in ("case", "plan", *MonthRow._fields)]
    fires = [row for row in rows if row[0] == "Fire at a"]
    assert [row[3] for row in fires[:6]] == [26 * HOUR] * 6
    assert len(fires) == 12
    unknown = Asked(result, cost_of(result), "2027-06-30", "2026-11-24")
    assert "<h2>Losses</h2>" not in report(unknown)
    assert list(table(unknown, "losses").rows) == []


def test_plans_stand_in_the_report_and_the_tables() -> None:
    """10 TB at 200 MB/s read: 50,000 s, after 6 h; called for at the end of 28 February, the newest was taken at 22:00."""
    result = forecast(design_of(burnt()))
    asked = Asked(result, cost_of(result), "2027-02-28", "2026-11-24")
    found = table(asked, "plans")
    (row,) = (dict(zip(found.columns, cells, strict=True)) for cells in found.rows)
    assert (row["plan"], row["workload"], row["moment"], row["lost_seconds"]) == ("back", "w", "2027-02-28T22:00", 2 * HOUR)
    assert (row["read_bytes"], row["reason"]) == (pytest.approx(10e12), "")
    page = report(asked)
    assert "<h2>Plans of recovery</h2>" in page
    assert row["back_at"] == "2027-03-01T06:00"
    assert "All is back on 1 March 2027 06:00" in page
    without = forecast(design_of({**burnt(), "recovery_plans": [], "loss_cases": []}))
    assert "Plans of recovery" not in report(Asked(without, cost_of(without), "2027-02-28", "2026-11-24"))
