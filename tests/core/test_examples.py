"""The worked examples, through the command line as anybody would run it."""

import csv
import io
import subprocess
from pathlib import Path

import pytest

from tests.designs import ROOT

EXAMPLES = ROOT / "tests" / "examples"


def shelf(*arguments: str, text: str | None = None) -> subprocess.CompletedProcess[str]:
    return subprocess.run([str(ROOT / "shelf"), *arguments], capture_output=True, text=True, input=text, check=False)


def rows(text: str) -> list[dict[str, str]]:
    return list(csv.DictReader(io.StringIO(text)))


def test_forecast_of_one_disk_equals_its_table() -> None:
    printed = shelf("forecast", str(EXAMPLES / "one-disk.json"))
    assert (printed.returncode, printed.stderr) == (0, "")
    expected = {(row["date"], row["target"]): row for row in rows((EXAMPLES / "one-disk.forecast.csv").read_text())}
    ours = {(row["date"], row["target"]): row for row in rows(printed.stdout)}
    assert list(ours) == list(expected)
    for place, row in expected.items():
        assert ours[place]["points"] == row["points"], place
        for column in ("stored_bytes", "peak_bytes"):
            assert float(ours[place][column]) == pytest.approx(float(row[column]), rel=1e-6), place


def test_points_of_one_disk_equal_their_list() -> None:
    printed = shelf("points", str(EXAMPLES / "one-disk.json"), "--on", "2027-06-30")
    expected = rows((EXAMPLES / "one-disk.points-2027-06-30.csv").read_text())
    ours = [{name: row[name] for name in expected[0]} for row in rows(printed.stdout)]
    assert sorted(map(str, ours)) == sorted(map(str, expected))


@pytest.mark.parametrize(
    ("name", "expected"),
    [
        ("three-copies", "routes[0].copies[1].from: not computed yet: copies of copies"),
        ("chains-and-machines", "targets[0].reclaim: not computed yet: reclaim"),
        ("shared-then-cold", "routes[0].copies[0].step_downs: not computed yet: step-downs"),
    ],
)
def test_what_is_not_computed_yet_is_refused_by_name(name: str, expected: str) -> None:
    printed = shelf("forecast", str(EXAMPLES / f"{name}.json"))
    assert (printed.returncode, printed.stdout) == (2, "")
    assert expected in printed.stderr.splitlines()


@pytest.mark.parametrize(
    ("text", "line"),
    [
        ("{", "design: expected JSON, got a fault at line 1, column 2"),
        ("[]", "design: expected an object, got an empty list"),
        ('{"format": "x", "format": "x"}', "design: expected each key once"),
        ('{"format": "rested-shelf-design", "version": 2}', "version: expected 1, got 2"),
        ("[" * 100_000, "design: expected"),
    ],
)
def test_bad_input_ends_with_two_and_a_line_per_fault(text: str, line: str) -> None:
    printed = shelf("forecast", "-", text=text)
    assert (printed.returncode, printed.stdout) == (2, "")
    assert printed.stderr.startswith(line)
    assert "Traceback" not in printed.stderr


def test_missing_file_and_wrong_day_are_bad_input(tmp_path: Path) -> None:
    assert shelf("forecast", str(tmp_path / "nothing.json")).returncode == 2
    printed = shelf("points", str(EXAMPLES / "one-disk.json"), "--on", "2031-01-01")
    assert printed.returncode == 2
    assert "expected a date from 2027-01-01 to 2027-12-31, got 2031-01-01" in printed.stderr
