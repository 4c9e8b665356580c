"""A worked example of nights: one line of 100 MB/s, limits by the hour, priorities, and a target to which no way leads.

Wednesday: x (360 GB) and y (720 GB) share, 50 MB/s each until 22:30; z (180 GB, priority 1) takes all until 23:00; then 50
each, x is over at 00:30, y alone at 100 until 01:30: at the closing is not late. Friday: 40 MB/s from 23:00 to 01:00, y ends
at 02:12. Saturday: a pause from 22:30 to 23:00. Sunday: 60 MB/s all day, 20 from 23:00 to 23:30. Worked out by hand.
"""

import pytest

from shelf_core.cli import main
from tests.core.nights import alike, table
from tests.designs import ROOT

EXAMPLES = ROOT / "tests" / "examples" / "proof"
DESIGN = str(EXAMPLES / "night-one-link.json")
NIGHTS = [("2027-03-03T12:00", "2027-03-08T12:00"), ("2027-03-10T00:00", "2027-03-11T00:00")]


@pytest.mark.parametrize(("begin", "end"), NIGHTS)
def test_a_night_is_what_was_worked_out(capsys: pytest.CaptureFixture[str], begin: str, end: str) -> None:
    assert main(["night", DESIGN, "--from", begin, "--to", end]) == 0
    name = f"night-one-link.night_{begin}_{end}.csv".replace(":", "")
    alike(table(capsys.readouterr().out), table((EXAMPLES / name).read_text()))


def test_loads_are_what_was_worked_out(capsys: pytest.CaptureFixture[str]) -> None:
    """28 days ask 30.96 TB; all hours count: 241.92 TB less 1.728 (Fridays), 0.72 (Saturdays), 14.112 (Sundays) = 225.36."""
    assert main(["loads", DESIGN]) == 0
    alike(table(capsys.readouterr().out), table((EXAMPLES / "night-one-link.loads.csv").read_text()))


def test_the_nights_of_each_copy_are_summed_up(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["nights", DESIGN]) == 0
    rows = {(one["night"], one["route"], one["copy"]): one for one in table(capsys.readouterr().out)}
    friday = rows["2027-03-05", "r", "one"]
    assert (friday["transfers"], friday["last_end"], friday["late"]) == ("2", "2027-03-06T02:12:00.000+00:00", "1")
    assert rows["2027-03-03", "r", "one"]["late"] == "0"
    lost = rows["2027-03-10", "s", "lost"]
    assert (lost["transfers"], lost["last_end"], lost["late"]) == ("1", "", "1")


def test_the_use_of_the_line_is_said_through_time(capsys: pytest.CaptureFixture[str]) -> None:
    """Saturday: full but for the pause, in which it carries nothing and could carry nothing."""
    span = ["--from", "2027-03-06T12:00", "--to", "2027-03-07T12:00", "--use"]
    assert main(["night", DESIGN, *span]) == 0
    rows = table(capsys.readouterr().out)
    said = [
        (one["from"][11:16], one["to"][11:16], float(one["used_bytes_per_second"]), float(one["speed_bytes_per_second"]))
        for one in rows
    ]
    assert said == [("22:00", "22:30", 1e8, 1e8), ("22:30", "23:00", 0.0, 0.0), ("23:00", "01:30", 1e8, 1e8)]
    assert {one["resource"] for one in rows} == {"link ab a-b"}
