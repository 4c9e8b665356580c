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


@pytest.mark.parametrize("name", ["one-disk", "three-copies", "chains-and-machines", "shared-then-cold"])
def test_forecast_equals_its_table(name: str) -> None:
    printed = shelf("forecast", str(EXAMPLES / f"{name}.json"))
    assert (printed.returncode, printed.stderr) == (0, "")
    expected = {(row["date"], row["target"]): row for row in rows((EXAMPLES / f"{name}.forecast.csv").read_text())}
    ours = {(row["date"], row["target"]): row for row in rows(printed.stdout)}
    assert list(ours) == list(expected)
    for place, row in expected.items():
        assert ours[place]["points"] == row["points"], place
        for column in ("stored_bytes", "peak_bytes"):
            assert float(ours[place][column]) == pytest.approx(float(row[column]), rel=1e-6), place


@pytest.mark.parametrize(
    ("name", "day"),
    [
        ("one-disk", "2027-06-30"),
        ("three-copies", "2028-04-12"),
        ("chains-and-machines", "2027-06-10"),
        ("shared-then-cold", "2028-02-20"),
    ],
)
def test_points_equal_their_list(name: str, day: str) -> None:
    printed = shelf("points", str(EXAMPLES / f"{name}.json"), "--on", day)
    expected = rows((EXAMPLES / f"{name}.points-{day}.csv").read_text())
    ours = [{column: row[column] for column in expected[0]} for row in rows(printed.stdout)]
    assert sorted(map(str, ours)) == sorted(map(str, expected))


@pytest.mark.parametrize(
    ("text", "line"),
    [
        ("{", "design: expected JSON, got a fault at line 1, column 2"),
        ("[]", "design: expected an object, got an empty list"),
        ('{"format": "x", "format": "x"}', "design: expected each key once"),
        ('{"format": "rested-shelf-design", "version": 3}', "version: expected a version from 1 to 2, got 3"),
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
