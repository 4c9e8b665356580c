"""The command line as people and pipelines use it: what it prints where, and with which status it ends."""

import calendar
import csv
import gc
import io
import json
import os
import pty
import re
import shlex
import subprocess
import sys
import tomllib
from collections.abc import Sequence
from contextlib import redirect_stderr, redirect_stdout
from pathlib import Path
from typing import Any
from unittest import mock

import icalendar
import jsonschema
import numpy as np
import openpyxl
import pyarrow.parquet
import pytest

from docs.helps import completions
from shelf_core.cli import HELPS, main
from shelf_core.commands.names import COMMANDS
from shelf_core.commands.whole import helps, whole_parser
from shelf_core.cost.cost import cost_of
from shelf_core.design.reading import design_of, read_design
from shelf_core.forecast.forecast import forecast
from shelf_core.forecast.points import Chosen, points_on
from shelf_core.formats.digest import digest
from shelf_core.formats.documents import document_text, read_document
from shelf_core.proof.loss_findings import all_findings
from shelf_core.reasons.comparison import compare
from shelf_core.reasons.sums import explain
from tests.designs import DEMO, ROOT

ONE_DISK = ROOT / "tests" / "examples" / "one-disk.json"
ENVIRONMENT = {**os.environ, "PYTHONPATH": str(ROOT / "core")}
DAY = "2027-06-30"


def shelf(*arguments: str | Path, stdin: str | None = None, status: int = 0) -> tuple[str, str]:
    """What a command prints to standard output and standard error; it must end with the status.

    It is run here and not in a process of its own, which takes a second each; the examples of the guides are run as processes.
    """
    out, error = io.StringIO(), io.StringIO()
    given = io.TextIOWrapper(io.BytesIO((stdin or "").encode()))
    with redirect_stdout(out), redirect_stderr(error), mock.patch.object(sys, "stdin", given):
        try:
            ended = main(list(map(str, arguments)))
        except SystemExit as left:  # argparse has said what is wrong, or has helped
            ended = int(left.code or 0)
    assert ended == status, error.getvalue()
    return out.getvalue(), error.getvalue()


def rows_of(text: str) -> list[dict[str, str]]:
    return list(csv.DictReader(io.StringIO(text)))


@pytest.fixture(scope="module")
def dearer(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The example with fewer points kept and a target more."""
    document = json.loads(ONE_DISK.read_text())
    document["ladders"][0]["recent"] = [{"keep": {"points": 7}}]
    document["targets"].append({"id": "spare", "media": "disk", "site": document["sites"][0]["id"], "capacity": "1 TB"})
    file = tmp_path_factory.mktemp("designs") / "dearer.json"
    file.write_text(json.dumps(document))
    return file


def test_validate_says_what_is_wrong_and_where(tmp_path: Path) -> None:
    out, _ = shelf("validate", DEMO)
    assert out == "Lindmoor Botanic Trust is sound: 42 workloads, 9 targets.\n"
    broken = json.loads(DEMO.read_text())
    broken["workloads"][1]["size"] = "much"
    broken["years"] = 0
    file = tmp_path / "broken.json"
    file.write_text(json.dumps(broken))
    out, error = shelf("validate", file, status=2)
    assert out == ""
    assert 'workloads[1].size: expected a size such as "12 TB"' in error
    answer = json.loads(shelf("validate", file, "--json", status=2)[0])
    assert answer["sound"] is False
    assert {one["path"] for one in answer["faults"]} == {"workloads[1].size", "years"}
    assert "No such file" in shelf("validate", tmp_path / "nowhere.json", status=2)[1]


def test_validate_finds_rules_that_never_act() -> None:
    found = all_findings(forecast(read_design(DEMO.read_bytes())))
    answer = json.loads(shelf("validate", DEMO, "--findings", "--json")[0])
    assert [one["sentence"] for one in answer["findings"]] == [one.sentence for one in found]
    assert answer["digest"] == digest(read_design(DEMO.read_bytes()))
    out, _ = shelf("validate", DEMO, "--findings", "--strict", status=1)
    assert found[0].way_out in out


def test_a_design_is_read_from_standard_input_in_both_languages() -> None:
    text = document_text(read_design(ONE_DISK.read_bytes()), "yaml")
    assert shelf("forecast", "-", stdin=text)[0] == shelf("forecast", ONE_DISK)[0]
    assert shelf("forecast", "-", stdin=ONE_DISK.read_text())[0] == shelf("forecast", ONE_DISK)[0]
    assert shelf("forecast", "-", stdin="[1, 2]", status=2)[1].startswith("design: expected an object")
    assert shelf("forecast", "-", stdin="- 1", status=2)[1].startswith("design: expected an object")


def test_forecast_prints_rows_objects_or_a_sum() -> None:
    result = forecast(read_design(ONE_DISK.read_bytes()))
    rows = rows_of(shelf("forecast", ONE_DISK)[0])
    lines = [json.loads(line) for line in shelf("forecast", ONE_DISK, "--json")[0].splitlines()]
    assert len(rows) == len(lines) == result.frame.days * len(result.targets)
    assert [float(row["stored_bytes"]) for row in rows] == [line["stored_bytes"] for line in lines]
    assert [line["points"] for line in lines] == result.targets[0].totals.points.tolist()
    answer = json.loads(shelf("forecast", ONE_DISK, "--summary", "--json")[0])
    assert answer["digest"] == digest(result.design)
    (one,) = answer["targets"]
    assert one["peak_bytes"] == float(result.targets[0].totals.peak_bytes.max())
    assert one["cost_of_all_years"] == float(cost_of(result).per_month().sum())
    assert "expected the id of a target" in shelf("forecast", ONE_DISK, "--target", "no", status=2)[1]


@pytest.mark.parametrize(
    ("more", "status"),
    [
        (["--full-within", "P1Y"], 0),
        (["--full-within", "P2Y"], 1),
        (["--full-within", "P1Y", "--from", "2027-06-01"], 1),
        (["--full-within", "P2Y", "--target", "wall-pool"], 0),
        (["--full-within", "P1Y3M", "--target", "fern-disk"], 0),  # from 2027-01-01 until 2028-03-31, the day before it is full
        (["--full-within", "P1Y3M1D", "--target", "fern-disk"], 1),
    ],
)
def test_forecast_fails_when_a_target_is_full_too_soon(more: Sequence[str], status: int) -> None:
    demo = forecast(read_design(DEMO.read_bytes()))
    fern = next(one for one in demo.targets if one.target.id == "fern-disk")
    assert fern.full_on is not None
    assert demo.day(fern.full_on) == "2028-04-01"
    _, error = shelf("forecast", DEMO, "--summary", *more, status=status)
    assert ("fern-disk: full on 2028-04-01" in error) == bool(status)


@pytest.mark.parametrize(
    ("more", "words"),
    [
        (["--full-within", "a year"], '--full-within: expected a time such as "20 min"'),
        (["--full-within", "P1Y", "--from", "2050-01-01"], "expected a date from"),
        (["--from", "2027-01-01"], "--from: expected it beside --full-within"),
        (["--colour"], "unrecognized arguments: --colour"),
    ],
)
def test_bad_options_are_bad_input(more: Sequence[str], words: str) -> None:
    assert words in shelf("forecast", ONE_DISK, *more, status=2)[1]


def test_points_are_chosen_and_streamed() -> None:
    result = forecast(read_design(DEMO.read_bytes()))
    wanted = [one for one in points_on(result, DAY) if one.target == "cold-cellar" and one.state == "kept"]
    lines = shelf("points", DEMO, "--on", DAY, "--target", "cold-cellar", "--state", "kept", "--json")[0].splitlines()
    assert wanted
    assert [json.loads(line)["taken"] for line in lines] == [one.taken for one in wanted]
    reader = subprocess.Popen(
        [sys.executable, "-m", "shelf_core.cli", "points", str(DEMO), "--on", DAY], env=ENVIRONMENT, stdout=subprocess.PIPE, stderr=subprocess.PIPE
    )  # fmt: skip
    assert reader.stdout
    assert reader.stderr
    assert reader.stdout.readline().startswith(b"workload,route")
    reader.stdout.close()
    assert reader.stderr.read() == b""
    reader.stderr.close()
    assert reader.wait(30) == 0
    assert "expected a date from" in shelf("points", DEMO, "--on", "2050-01-01", status=2)[1]


def test_points_are_narrowed_by_rule_kind_and_day() -> None:
    more = ("--rule", "monthly", "--kind", "full", "--taken-from", "2027-03-01", "--taken-to", "2027-06-15")
    lines = shelf("points", DEMO, "--on", DAY, *more, "--json")[0].splitlines()
    chosen = Chosen(rule="monthly", kind="full", taken_from="2027-03-01", taken_to="2027-06-15")
    rows = list(points_on(forecast(read_design(DEMO.read_bytes())), DAY, chosen))
    assert rows
    assert [(one["workload"], one["taken"], one["why"]) for one in map(json.loads, lines)] == [
        (row.workload, row.taken, row.why) for row in rows
    ]
    said = shelf("points", DEMO, "--on", DAY, "--target", "nowhere", status=2)[1]
    assert said.startswith('--target: expected the id of a target of this design, got "nowhere" (fern-disk, ')
    assert (
        'expected a date such as 2027-01-31, got "soon"'
        in shelf("points", DEMO, "--on", DAY, "--taken-to", "soon", status=2)[1]
    )


def test_explain_says_the_sum() -> None:
    found = explain(forecast(read_design(DEMO.read_bytes())), "fern-disk", DAY)
    assert shelf("explain", DEMO, "--target", "fern-disk", "--on", DAY)[0].splitlines() == found.sentences
    answer = json.loads(shelf("explain", DEMO, "--target", "fern-disk", "--on", DAY, "--json")[0])
    assert answer["points"] == found.points == sum(one["points"] for one in answer["states"])
    assert (
        'expected the id of a target of this design, got "x" ('
        in shelf("explain", DEMO, "--target", "x", "--on", DAY, status=2)[1]
    )


def test_compare_counts_what_is_lost(dearer: Path) -> None:
    days = ["--on", "2027-03-31", "--on", DAY]
    answer = json.loads(shelf("compare", ONE_DISK, dearer, *days, "--json")[0])
    one, other = (forecast(read_design(file.read_bytes())) for file in (ONE_DISK, dearer))
    by_hand = []
    for day in ("2027-03-31", DAY):
        before, after = (
            {(row.workload, row.taken) for row in points_on(result, day) if row.kind != "log"} for result in (one, other)
        )
        by_hand.append((len(before - after), len(after - before)))
    assert by_hand[0][0] > 0
    disk, spare = answer["targets"]
    assert [(on["lost_moments"], on["gained_moments"]) for on in disk["dates"]] == by_hand
    assert list(zip(answer["lost_everywhere"], answer["gained_everywhere"], strict=True)) == by_hand
    assert disk["sides"][0]["peak_bytes"] == float(one.targets[0].totals.peak_bytes.max())
    assert disk["sides"][1]["peak_bytes"] == float(other.targets[0].totals.peak_bytes.max())
    assert disk["dates"][1]["points"] == [int(side.targets[0].totals.points[side.place_of(DAY)]) for side in (one, other)]
    assert spare["sides"][0] is None
    assert spare["dates"][0]["points"] == [None, 0]
    rows = rows_of(shelf("compare", ONE_DISK, dearer, *days, "--fail-on-loss", status=1)[0])
    assert [int(row["lost_moments"]) for row in rows] == [by_hand[0][0], by_hand[1][0], 0, 0]
    shelf("compare", ONE_DISK, ONE_DISK, "--fail-on-loss")
    assert "at most one of the designs on standard input" in shelf("compare", "-", "-", stdin="", status=2)[1]
    broken = dearer.with_name("broken.json")
    broken.write_text("{}")
    assert f"{broken}.format: expected" in shelf("compare", ONE_DISK, broken, status=2)[1]
    assert "expected a date within one of the designs" in shelf("compare", ONE_DISK, dearer, "--on", "2099-01-01", status=2)[1]


def test_a_design_beside_itself_loses_nothing_and_a_copy_less_only_its_target() -> None:
    document = json.loads((ROOT / "tests" / "examples" / "three-copies.json").read_text())
    whole = forecast(design_of(document))
    last = document["routes"][0]["copies"].pop()
    less = forecast(design_of(document))
    day = whole.day(300)
    both = [(one, cost_of(one)) for one in (whole, less)]
    same = compare(both[0], both[0], [day])
    assert same.lost_everywhere == same.gained_everywhere == [0]
    found = compare(both[0], both[1], [day])
    assert {one.target for one in found.targets if one.dates[0].lost_moments} == {last["target"]}
    back = compare(both[1], both[0], [day])
    assert [one.dates[0].gained_moments for one in back.targets] == [one.dates[0].lost_moments for one in found.targets]


def test_convert_goes_there_and_back(tmp_path: Path) -> None:
    text = shelf("convert", DEMO, "--to", "yaml")[0]
    assert read_document(text) == read_design(DEMO.read_bytes())
    again = shelf("convert", "-", "--to", "json", stdin=text)[0]
    assert again == shelf("convert", DEMO, "--to", "json")[0]
    assert icalendar.Calendar.from_ical(shelf("convert", ONE_DISK, "--to", "ics")[0]).walk("VEVENT")
    rows = rows_of(shelf("convert", DEMO, "--to", "csv", "--table", "workloads")[0])
    assert [row["id"] for row in rows] == [one.id for one in read_design(DEMO.read_bytes()).workloads]
    book, series = tmp_path / "f.xlsx", tmp_path / "f.parquet"
    shelf("convert", ONE_DISK, "--to", "xlsx", "--out", book)
    assert "Workloads" in openpyxl.load_workbook(book).sheetnames
    shelf("convert", ONE_DISK, "--to", "parquet", "--out", series)
    stored = pyarrow.parquet.read_table(series).column("stored_bytes").to_numpy()
    assert np.array_equal(stored, forecast(read_design(ONE_DISK.read_bytes())).targets[0].totals.stored_bytes)
    assert not list(tmp_path.glob("*.part"))


@pytest.mark.parametrize(
    ("more", "words"),
    [
        (["--to", "xlsx"], "--out: expected a file for xlsx"),
        (["--to", "csv"], "--table: expected one of targets"),
        (["--to", "csv", "--table", "no"], "expected a table"),
        (["--to", "ics", "--cadence", "no"], "expected the id of a cadence"),
        (["--to", "odt"], "invalid choice"),
        (["--to", "json", "--out", "/nowhere/at/all.json"], "No such file"),
    ],
)
def test_convert_refuses_what_it_cannot_do(more: Sequence[str], words: str) -> None:
    assert words in shelf("convert", ONE_DISK, *more, status=2)[1]


def test_the_schema_is_printed() -> None:
    schema = json.loads(shelf("schema")[0])
    jsonschema.Draft202012Validator(schema).validate(json.loads(DEMO.read_text()))


def test_bench_measures_one_design() -> None:
    figures = json.loads(shelf("bench", ONE_DISK, "--rounds", "1", "--json")[0])
    result = forecast(read_design(ONE_DISK.read_bytes()))
    assert (figures["days"], figures["workloads"]) == (result.frame.days, 1)
    assert figures["points_of_distinct_rules"] == sum(len(one.life) for one in result.holdings)
    assert figures["forecast_seconds"] > 0
    assert "expected 1 to 1\u202f000 rounds" in shelf("bench", ONE_DISK, "--rounds", "0", status=2)[1]


@pytest.mark.parametrize("name", COMMANDS)
def test_every_command_explains_itself(name: str) -> None:
    out, _ = shelf(name, "--help")
    assert out.startswith(f"usage: ./shelf {name}")
    assert COMMANDS[name].words.split(",")[0] in " ".join(out.split())
    assert name in shelf("--help")[0]


def test_shells_complete_what_the_commands_take() -> None:
    """When this fails on purpose: python -m docs.helps writes it anew."""
    for shell, lines in completions().items():
        assert shelf("completion", shell)[0].splitlines() == lines


def test_help_is_what_the_commands_take_and_waits_for_no_computation() -> None:
    """When the first fails on purpose: python -m docs.helps writes it anew. Line breaks are those of a version of Python."""
    kept = json.loads(HELPS.read_text())
    assert {name: " ".join(lines).split() for name, lines in kept.items()} == {
        name: " ".join(lines).split() for name, lines in helps().items()
    }
    asks = "import sys; from shelf_core.cli import main; main(['points', '-h']); sys.exit('pydantic' in sys.modules)"
    printed = subprocess.run([sys.executable, "-c", asks], capture_output=True, text=True, check=True, env=ENVIRONMENT).stdout
    assert printed.splitlines() == kept["points"]


@pytest.mark.parametrize("arguments", [["points", "--help"], ["forecast", str(ONE_DISK)]])
def test_who_reads_no_more_is_no_failure(arguments: list[str]) -> None:
    reading, writing = os.pipe()
    os.close(reading)
    command = [sys.executable, "-m", "shelf_core.cli", *arguments]
    done = subprocess.run(command, stdout=writing, stderr=subprocess.PIPE, check=False, env=ENVIRONMENT)
    os.close(writing)
    assert (done.returncode, done.stderr) == (0, b"")


def test_an_unknown_command_or_none_is_bad_input() -> None:
    assert 'expected a command, got "frcast"; did you mean forecast?' in shelf("frcast", status=2)[1]
    assert 'expected a command, got "xyz" (' in shelf("xyz", status=2)[1]
    assert "required: COMMAND" in shelf(status=2)[1]


def test_bash_completes_commands_and_options(tmp_path: Path) -> None:
    script = tmp_path / "complete.bash"
    script.write_text(shelf("completion", "bash")[0])

    def completed(*words: str) -> set[str]:
        asked = f'COMP_WORDS=(./shelf {" ".join(words)}); COMP_CWORD={len(words)}; _shtab_shelf ./shelf "${{COMP_WORDS[-1]}}"'
        ask = f'source {script}; {asked}; printf "%s\\n" "${{COMPREPLY[@]}}"'
        return set(subprocess.run(["bash", "-c", ask], capture_output=True, text=True, check=True).stdout.split())

    assert completed("co") == {"compare", "convert", "completion"}
    assert completed("forecast", "--f") == {"--from", "--full-within"}
    assert {"--table", "--to"} <= completed("convert", "--t")


@pytest.mark.parametrize(("shell", "words"), [("zsh", "#compdef shelf"), ("fish", "complete -c shelf")])
def test_other_shells_know_every_command(shell: str, words: str) -> None:
    script = shelf("completion", shell)[0]
    assert words in script
    assert all(name in script for name in COMMANDS)
    assert "invalid choice" in shelf("completion", "tcl", status=2)[1]


def test_the_manual_page_tells_every_command() -> None:
    page = shelf("manual")[0]
    assert page.startswith(".TH SHELF")
    assert all(command.words.split(",")[0] in page for command in COMMANDS.values())


@pytest.mark.parametrize(("name", "example"), [(name, one) for name, command in COMMANDS.items() for one in command.examples])
def test_every_example_of_the_help_is_sound(name: str, example: str) -> None:
    """It begins with its command and is taken by that command's own options; what is behind `>` is the shell's."""
    first, *rest = shlex.split(example.split(" > ", maxsplit=1)[0])
    assert first == name
    assert whole_parser().parse_args([first, *rest]).command == name
    assert f"./shelf {example}" in shelf(name, "--help")[0]


def test_an_id_that_there_is_not_is_told_with_what_may_be_meant() -> None:
    for command in (
        ["forecast", "--target"],
        ["points", "--on", "2027-06-30", "--target"],
        ["explain", "--on", "2027-06-30", "--target"],
    ):
        error = shelf(command[0], ONE_DISK, *command[1:], "dsk", status=2)[1]
        assert error.strip() == '--target: expected the id of a target of this design, got "dsk"; did you mean disk?'
    assert "(disk)" in shelf("forecast", ONE_DISK, "--target", "tape", status=2)[1]


def test_the_report_is_a_page_of_the_day_that_is_asked_for(tmp_path: Path) -> None:
    page = shelf("report", ONE_DISK, "--on", "2027-06-30")[0]
    assert page.startswith("<!doctype html>")
    assert "30 June 2027" in page
    out = tmp_path / "report.html"
    shelf("report", ONE_DISK, "--on", "2027-06-30", "--out", out)
    assert out.read_text() == page
    assert shelf("report", ONE_DISK, "--on", "2040-01-01", status=2)[1].startswith("--on: expected a date from")
    many = shelf("report", DEMO, "--on", "2027-06-30")[0]
    assert "\u202f" in many
    assert shelf("report", DEMO, "--on", "2027-06-30", "--digits", "comma")[0] == many.replace("\u202f", ",")
    assert "1 April 2028" in many
    plain = shelf("report", DEMO, "--on", "2027-06-30", "--dates", "iso")[0]
    assert "2028-04-01" in plain
    # Each way has all dates in its own way alone, and is the other but for them.
    months = "|".join(name for names in (calendar.month_name, calendar.month_abbr) for name in names if name)
    in_iso, in_words = re.compile(r"\b\d{4}-\d{2}(?:-\d{2})?\b"), re.compile(rf"(?:\b\d{{1,2}} )?\b(?:{months}) \d{{4}}")
    assert not in_iso.search(many)
    assert not in_words.search(plain)
    assert in_iso.split(plain) == in_words.split(many)


def test_a_time_is_typed_as_people_write_it() -> None:
    assert (
        shelf("forecast", ONE_DISK, "--summary", "--full-within", "1 year")[0]
        == shelf("forecast", ONE_DISK, "--summary", "--full-within", "P1Y")[0]
    )
    assert 'write "min" or "months"' in shelf("forecast", ONE_DISK, "--full-within", "3 m", status=2)[1]


def test_a_person_at_a_terminal_gets_a_table_and_a_pipe_gets_csv() -> None:
    """Bytes in their units, names without them, figures at the right."""
    piped = shelf("forecast", ONE_DISK, "--summary")[0].splitlines()
    assert piped[1].startswith("disk,14,5600000000000.0,")
    ours, theirs = pty.openpty()
    command = [sys.executable, "-m", "shelf_core.cli", "forecast", str(ONE_DISK), "--summary"]
    subprocess.run(command, env=ENVIRONMENT, stdout=theirs, stderr=subprocess.DEVNULL, check=True)
    os.close(theirs)
    head, row = os.read(ours, 65536).decode().splitlines()
    assert head.split("  ")[0] == "target"
    assert "stored at end" in head
    assert "5.60 TB" in row
    assert head.index("stored at end") + len("stored at end") == row.index("5.60 TB") + len("5.60 TB")


def on_a_terminal(*arguments: str | Path) -> tuple[str, str]:
    """What a command prints to standard output, and what a person sees beside it."""
    ours, theirs = pty.openpty()
    done = subprocess.run(
        [sys.executable, "-m", "shelf_core.cli", *map(str, arguments)], env=ENVIRONMENT, stdout=subprocess.PIPE, stderr=theirs, text=True, check=True
    )  # fmt: skip
    os.close(theirs)
    seen = b""
    while True:
        try:
            part = os.read(ours, 4096)
        except OSError:  # the other end is closed
            break
        if not part:
            break
        seen += part
    os.close(ours)
    return done.stdout, seen.decode()


def test_progress_is_for_terminals_only() -> None:
    out, seen = on_a_terminal("forecast", DEMO)
    assert "forecasting Lindmoor Botanic Trust: 100 %" in seen
    assert out == shelf("forecast", DEMO)[0]
    assert shelf("forecast", DEMO)[1] == ""


def loaded(*arguments: str | Path) -> set[str]:
    """The modules that a command loads."""
    ask = "import sys; from shelf_core.cli import main; status = main(sys.argv[1:]); print(*sys.modules, file=sys.stderr)"
    done = subprocess.run(
        [sys.executable, "-c", ask, *map(str, arguments)], env=ENVIRONMENT, capture_output=True, text=True, check=True
    )
    return set(done.stderr.split())


@pytest.mark.parametrize("arguments", [["schema"]])
def test_what_needs_no_arrays_does_not_wait_for_them(arguments: Sequence[Any]) -> None:
    """Start-up is measured in the bench; here it is held what makes it short."""
    assert not {"numpy", "icalendar", "openpyxl", "pyarrow"} & loaded(*arguments)


def test_a_format_waits_for_no_package_of_another() -> None:
    others = {"icalendar", "openpyxl", "xlsxwriter", "pyarrow", "shelf_core.report.tables"}
    assert not others & loaded("convert", ONE_DISK, "--to", "yaml")
    assert others & loaded("convert", ONE_DISK, "--to", "ics") == {"icalendar"}
    assert not {"icalendar", "pyarrow"} & loaded("convert", ONE_DISK, "--to", "csv", "--table", "targets")


@pytest.mark.parametrize("arguments", [["report"], ["losses", "--case", "fire", "--every-day"]])
def test_what_cannot_be_read_is_refused_before_more_is_loaded(arguments: list[str], tmp_path: Path) -> None:
    name, *rest = arguments
    found = loaded(name, tmp_path / "no such design.json", *rest)
    assert "shelf_core.forecast.forecast" in found
    assert not {"shelf_core.report.page", "shelf_core.proof.every_day", "shelf_core.nights.following"} & found


@pytest.mark.parametrize(("arguments", "status"), [(["forecast", "--nonsense"], 2), (["schema"], 0)])
def test_garbage_is_looked_for_again_once_a_command_is_loaded(arguments: list[str], status: int) -> None:
    shelf(*arguments, status=status)
    assert gc.isenabled()


def test_it_says_its_version() -> None:
    """The one that the package is built with."""
    with (ROOT / "core" / "pyproject.toml").open("rb") as file:
        built = tomllib.load(file)["project"]["version"]
    assert shelf("--version")[0] == f"shelf-core {built}\n"
