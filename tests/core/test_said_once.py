"""What the core says is not said again in the page: no length of time, date, weekday or rule of its own stands in TypeScript."""

import re
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[2]
SOURCE = ROOT / "web" / "src"
FILES = sorted(one for one in SOURCE.rglob("*.ts*") if "generated" not in one.parts)
NOT_IN_THE_PAGE = {
    "a duration": re.compile(r"""["'`]P(T?\d|\$\{|T\$\{)"""),
    "the code of a weekday": re.compile(r"""["'](MO|TU|WE|TH|FR|SA|SU)["']"""),
    "the name of a weekday or a month": re.compile(
        r"""["'`](Mon|Tues|Wednes|Thurs|Fri|Satur|Sun)day|["'`](January|February|March)"""
    ),
    "days of a month or a year": re.compile(r"\b(365|366|30\.4|36[0-9]{2}|91\.3)"),
    "a clock or a calendar": re.compile(
        r"new Date\(|Date\.(now|UTC|parse)\(|\.(get|set)(UTC)?(Date|Month|FullYear|Day|Hours)\("
    ),
    "what a rung may choose from": re.compile(r"self-contained"),
    "a part of a rule of recurrence": re.compile(r"FREQ=|BYDAY|BYMONTH"),
    "bytes of a unit": re.compile(r"\b1024\b|[KMGTP]iB['\"]|1e(9|12|15)\b"),
}
ALLOWED = {
    # For how long a token is good is said in days, and the days are what is sent.
    ("designs/TokensDialog.tsx", "days of a month or a year"),
    # When somebody did something is shown in the clock of whoever looks; nothing is computed with it.
    ("designs/HistoryDrawer.tsx", "a clock or a calendar"),
}


@pytest.mark.parametrize("what", NOT_IN_THE_PAGE)
def test_it_is_said_in_the_core_alone(what: str) -> None:
    found = []
    for file in FILES:
        name = file.relative_to(SOURCE).as_posix()
        if (name, what) in ALLOWED:
            continue
        lines = enumerate(file.read_text().splitlines(), start=1)
        found += [f"{name}:{number}: {line.strip()}" for number, line in lines if NOT_IN_THE_PAGE[what].search(line)]
    assert found == []


@pytest.mark.parametrize(
    ("what", "line"),
    [
        ("a duration", 'const week = "P7D";'),
        ("a duration", "const text = `P${count}D`;"),
        ("the code of a weekday", 'weekly_on: "FR"'),
        ("the name of a weekday or a month", 'MO: "Monday",'),
        ("days of a month or a year", "const year = 365.24;"),
        ("a clock or a calendar", "const year = new Date().getFullYear();"),
        ("what a rung may choose from", 'any: "self-contained",'),
        ("a part of a rule of recurrence", "`FREQ=${freq}`"),
        ("bytes of a unit", "size / 1024"),
    ],
)
def test_it_would_be_found(what: str, line: str) -> None:
    assert NOT_IN_THE_PAGE[what].search(line)


def test_every_exception_is_still_one() -> None:
    for name, what in ALLOWED:
        assert NOT_IN_THE_PAGE[what].search((SOURCE / name).read_text())
