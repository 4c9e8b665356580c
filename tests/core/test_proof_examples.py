"""Worked examples of restores, losses and duties, computed by hand from the rules.

`restore-back-again` (London, 14 April 2027, 10:00): plans at home and away, another moment, a lost disk, a fire. `home`: begins
at 11:00; db reads 858.46 GB and writes 1,221 GB at 300 MB/s: 4,070 s. `away`: over two lines of 125 MB/s the full and five logs
are sooner (826.15 GB). `disk`: arc's cartridges are away: a day of fetching, three mounts. `duties-what-is-asked` (Madrid, two
years): daily at 22:00 holds with P1D, PT24H fails on the two days of 25 hours; and so on for 21 asks of two workloads.
"""

import pytest

from shelf_core.cli import main
from tests.core.nights import table
from tests.designs import ROOT

EXAMPLES = ROOT / "tests" / "examples" / "proof"
BACK, DUTIES = (str(EXAMPLES / f"{name}.json") for name in ("restore-back-again", "duties-what-is-asked"))
AT = "2027-04-14T10:00"
NUMBERS = {"read_bytes", "stored_bytes", "cost"}


def same(found: str, name: str) -> None:
    """All rows to the letter, bytes and money within one part in a million; in any order."""
    mine, theirs = table(found), table((EXAMPLES / name).read_text())

    def ordered(rows: list[dict[str, str]]) -> list[dict[str, str]]:
        return sorted(rows, key=lambda row: [value for field, value in row.items() if field not in NUMBERS])

    assert len(mine) == len(theirs) > 0
    for one, other in zip(ordered(mine), ordered(theirs), strict=True):
        for field, value in other.items():
            if field in NUMBERS and value:
                assert float(one[field]) == pytest.approx(float(value), rel=1e-6), (field, other)
            else:
                assert one[field] == value, (field, other)


@pytest.mark.parametrize(("plan", "moment"), [("home", None), ("away", None), ("home", "2027-04-12T13:00")])
def test_a_plan_comes_to_what_was_worked_out(capsys: pytest.CaptureFixture[str], plan: str, moment: str | None) -> None:
    assert main(["restore", BACK, "--plan", plan, "--at", AT, *(["--moment", moment] if moment else [])]) == 0
    name = f"restore-back-again.restore_{plan}_{AT}{f'_{moment}' if moment else ''}.csv".replace(":", "")
    same(capsys.readouterr().out, name)


@pytest.mark.parametrize("case", ["disk", "fire"])
def test_a_case_leaves_what_was_worked_out(capsys: pytest.CaptureFixture[str], case: str) -> None:
    assert main(["losses", BACK, "--case", case, "--at", AT]) == 0
    same(capsys.readouterr().out, f"restore-back-again.losses_{case}_{AT}.csv".replace(":", ""))


def test_a_case_on_every_day_is_the_case_at_each_day_s_end(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["losses", BACK, "--case", "disk", "--every-day"]) == 0
    rows = {(row["date"], row["workload"]): row for row in table(capsys.readouterr().out)}
    assert main(["losses", BACK, "--case", "disk", "--at", "2027-06-01T00:00"]) == 0
    single = {row["id"]: row for row in table(capsys.readouterr().out) if row["what"] == "workload"}
    for workload, row in single.items():
        mine = rows["2027-05-31", workload]
        assert [mine[field] for field in ("loss_seconds", "moments", "target", "moment")] == [
            row[field] for field in ("loss_seconds", "moments", "target", "moment")
        ]
    assert len({day for day, _ in rows}) > 350


def test_duties_are_met_as_was_worked_out(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["duties", DUTIES]) == 0
    same(capsys.readouterr().out, "duties-what-is-asked.duties.csv")


def test_a_failing_duty_stops_a_pipeline(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["duties", DUTIES, "--check"]) == 1
    assert main(["duties", BACK, "--check"]) == 0
    capsys.readouterr()


def test_every_day_of_a_duty_adds_up_to_its_sum(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["duties", DUTIES, "--every-day"]) == 0
    days = table(capsys.readouterr().out)
    for row in table((EXAMPLES / "duties-what-is-asked.duties.csv").read_text()):
        mine = [day for day in days if (day["duty"], day["workload"], day["ask"]) == (row["duty"], row["workload"], row["ask"])]
        failed = [day["date"] for day in mine if day["verdict"] == "fails"]
        assert (len(mine), len(failed)) == (int(row["days_asked"]), int(row["days_failed"]))
        assert (failed or [""])[0] == row["first_failed"]
