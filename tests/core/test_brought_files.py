"""Tables, workbooks and calendars that people bring: what went out comes back, what is meant to do harm is refused in time."""

import csv
import io
import json
import time
import zipfile
from collections.abc import Callable
from datetime import date, datetime
from typing import Any

import icalendar
import openpyxl
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from shelf_core.cost.cost import cost_of
from shelf_core.design.cadences import Cadence
from shelf_core.design.cells import FIELDS
from shelf_core.design.faults import DesignError
from shelf_core.design.reading import design_of
from shelf_core.engine.schedule.frame import frame_of
from shelf_core.engine.schedule.runs import runs_of
from shelf_core.forecast.forecast import forecast
from shelf_core.formats.calendar_reading import LARGEST_CALENDAR_BYTES, MOST_EVENTS, read_cadence
from shelf_core.formats.calendar_text import calendar_text
from shelf_core.formats.csv_text import safe, table_of
from shelf_core.formats.opening_rows import opening_rows
from shelf_core.formats.workbook_table import LARGEST_WORKBOOK_BYTES, MOST_SHEETS, sheets_of
from shelf_core.formats.workload_rows import workload_cells, workload_rows
from shelf_core.report.asked import Asked
from shelf_core.report.tables import table, write_csv
from tests.core.strategies import designs
from tests.designs import DEMO


def in_time(do: Callable[[], Any], kind: type[Exception], words: str) -> None:
    began = time.monotonic()
    with pytest.raises(kind) as error:
        do()
    assert words in str(error.value), error.value
    assert time.monotonic() - began < 10


def csv_of(document: dict[str, Any], name: str) -> str:
    result = forecast(design_of(document))
    out = io.StringIO()
    write_csv(table(Asked(result, cost_of(result), result.design.starts, result.design.starts), name), out)
    return out.getvalue()


@settings(max_examples=25)
@given(document=designs(), name=st.sampled_from(["", "=1+1", "-x", "@home", "Küche, Keller", 'the "big" one', "a;b"]))
def test_workloads_come_back_from_csv_as_they_went(document: dict[str, Any], name: str) -> None:
    document["workloads"][0]["name"] = name
    read = workload_rows(table_of(csv_of(document, "workloads")), design_of(document))
    assert read.columns == list(FIELDS)
    assert read.faults == []
    assert [(row.action, row.value) for row in read.rows] == [("same", one) for one in design_of(document).workloads]


@settings(max_examples=40)
@given(document=designs())
def test_opening_stock_comes_back_from_csv_as_it_went(document: dict[str, Any]) -> None:
    design = design_of(document)
    if design.opening:
        read = opening_rows(table_of(csv_of(document, "opening")), design)
        assert read.faults == []
        assert read.points == design.opening


def test_tags_with_spaces_come_back() -> None:
    document = json.loads(DEMO.read_text())
    for place, tags in enumerate((["one tag"], ["one tag", "two"], ["two"], [])):
        document["workloads"][place]["tags"] = [*document["workloads"][place].get("tags", [])[:0], *tags]
    document["routes"], document["unknowns"], document["holds"] = [], [], []
    design = design_of(document)
    out = io.StringIO()
    csv.writer(out).writerows([FIELDS, *map(workload_cells, design.workloads)])
    assert [row.value.tags for row in workload_rows(table_of(out.getvalue()), design).rows] == [
        one.tags for one in design.workloads
    ]


@pytest.mark.parametrize("text", ["=HYPERLINK(1)", "+1", "-1+2", "@SUM(A1)", "\tx", "\rx"])
def test_a_formula_is_escaped_on_the_way_out_and_itself_on_the_way_in(text: str) -> None:
    """Common practice, no source: what begins like a formula gets an apostrophe."""
    assert safe(text) == f"'{text}"
    out = io.StringIO()
    csv.writer(out).writerow([safe(text), "x"])
    assert table_of(out.getvalue()).rows[0].cells[0] == text.strip() or text[0] in "\t\r"


def workbook(fill: Callable[[openpyxl.Workbook], None]) -> bytes:
    book = openpyxl.Workbook()
    fill(book)
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def test_sheets_of_a_workbook_become_tables() -> None:
    def fill(book: openpyxl.Workbook) -> None:
        sheet = book.active
        assert sheet is not None
        sheet.title = "Machines"
        for line in (
            ["Name", "Size", "From"],
            ['the "big"\tone', 1500, date(2027, 1, 31)],
            ["b", 1.25, datetime(2027, 1, 31, 22, 30)],
            [],
            ["c", None, True],
        ):
            sheet.append(line)
        book.create_sheet("Empty")

    (sheet,) = sheets_of(workbook(fill))
    assert sheet.name == "Machines"
    rows = table_of(sheet.text).rows
    assert [row.cells for row in rows] == [
        ["Name", "Size", "From"],
        ['the "big" one', "1500", "2027-01-31"],
        ["b", "1.25", "2027-01-31T22:30"],
        ["c", "", "True"],
    ]


def archive(**parts: bytes) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as made:
        for name, content in parts.items():
            made.writestr(name, content)
    return out.getvalue()


def bomb() -> bytes:
    """A sheet of a few hundred kilobytes that unpacks to far more than is taken."""
    real = workbook(lambda book: book.active.append([1]))  # type: ignore[union-attr]
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(real)) as old, zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as new:
        for part in old.infolist():
            new.writestr(part, b"0" * (300 * 2**20) if part.filename.endswith("sheet1.xml") else old.read(part))
    return out.getvalue()


def lying(content: bytes) -> bytes:
    """The same archive, whose directory says that its parts are small."""
    with zipfile.ZipFile(io.BytesIO(content)) as one:
        sizes = {part.file_size for part in one.infolist() if part.file_size > 10**7}
    for size in sizes:
        content = content.replace(size.to_bytes(4, "little"), (1000).to_bytes(4, "little"))
    return content


def with_entities() -> bytes:
    laughs = "".join(f'<!ENTITY l{at} "{f"&l{at - 1};" * 10}">' for at in range(1, 12))
    text = f'<?xml version="1.0"?><!DOCTYPE lol [<!ENTITY l0 "lol">{laughs}]><workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheets>&l11;</sheets></workbook>'
    real = workbook(lambda book: book.active.append([1]))  # type: ignore[union-attr]
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(real)) as old, zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as new:
        for part in old.infolist():
            new.writestr(part, text.encode() if part.filename == "xl/workbook.xml" else old.read(part))
    return out.getvalue()


@pytest.mark.parametrize(
    ("content", "words"),
    [
        (lambda: b"Name,Size\n", "expected a workbook (.xlsx), got another file"),
        (lambda: b"PK\x03\x04 and no more", "got another file"),
        (lambda: b"x" * (LARGEST_WORKBOOK_BYTES + 1), "expected a workbook of at most"),
        (lambda: archive(readme=b"no sheets"), "that cannot be read"),
        (bomb, "expected a workbook that unpacks to at most"),
        (lambda: lying(bomb()), "got another file"),
        (with_entities, "that cannot be read"),
        (lambda: archive(**{f"part{at}": b"" for at in range(3000)}), "expected a workbook of at most 2\u202f000 parts"),
        (lambda: workbook(lambda book: [book.create_sheet(f"s{at}") for at in range(MOST_SHEETS)]), "expected at most 20 sheets"),  # type: ignore[arg-type,return-value]
        (lambda: workbook(lambda book: book.active.cell(1_048_576, 16_384, 1)), "rows in a sheet, got 1\u202f048\u202f576"),  # type: ignore[union-attr,arg-type,return-value]
    ],
    ids=["csv", "cut off", "large", "other archive", "bomb", "lying bomb", "entities", "parts", "sheets", "one far cell"],
)  # fmt: skip
def test_hostile_workbooks_are_refused(content: Callable[[], bytes], words: str) -> None:
    made = content()
    in_time(lambda: sheets_of(made), ValueError, words)


@settings(max_examples=30)
@given(document=designs())
def test_cadences_come_back_from_calendars_with_the_same_runs(document: dict[str, Any]) -> None:
    result = forecast(design_of(document))
    for cadence in result.design.cadences:
        runs = runs_of(cadence, result.frame)
        if len(runs.instants) == 0 or any(run.once for run in cadence.runs):
            continue
        read = read_cadence(calendar_text(result, cadence.id), cadence.id, result.design.timezone)
        again = runs_of(read, result.frame)
        assert again.instants.tolist() == runs.instants.tolist()
        assert again.kind.tolist() == runs.kind.tolist()


def calendar(*events: str, more: str = "") -> str:
    inside = "".join(
        f"BEGIN:VEVENT\r\nUID:{at}\r\nDTSTAMP:20270101T000000Z\r\n{event}\r\nEND:VEVENT\r\n" for at, event in enumerate(events)
    )
    return f"BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//x//EN\r\n{inside}{more}END:VCALENDAR\r\n"


WEEKLY = "DTSTART;TZID=Europe/Oslo:20270102T220000\r\nRRULE:FREQ=WEEKLY;BYDAY=SA\r\nSUMMARY:Differential of the week"


def test_a_calendar_of_another_program_becomes_a_cadence() -> None:
    """Source: RFC 5545, section 3.6.1."""
    text = calendar(
        WEEKLY,
        "DTSTART:20270103T010000Z\r\nRRULE:FREQ=MONTHLY;BYMONTHDAY=3;UNTIL=20270903T010000Z\r\nEXDATE:20270403T010000Z\r\nSUMMARY:Once a month",
        "DTSTART;VALUE=DATE:20270601\r\nSUMMARY:A single day",
    )
    read = read_cadence(text, "read", "Europe/Oslo")
    assert isinstance(read, Cadence)
    assert [run.plain() for run in read.runs] == [
        {"id": "run-1", "name": "Differential of the week", "kind": "differential", "rrule": "FREQ=WEEKLY;BYDAY=SA", "at": ["22:00"], "from": "2027-01-02"},
        {"id": "run-2", "name": "Once a month", "kind": "full", "rrule": "FREQ=MONTHLY;BYMONTHDAY=3", "at": ["01:00"], "timezone": "UTC", "from": "2027-01-03", "until": "2027-09-03", "except": ["2027-04-03"]},
        {"id": "run-3", "name": "A single day", "kind": "full", "once": ["2027-06-01T00:00"]},
    ]  # fmt: skip


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "calendar: expected"),
        ("BEGIN:VCALENDAR\r\n", "calendar: expected"),
        (calendar(WEEKLY, more="BEGIN:VTODO\r\nUID:t\r\nEND:VTODO\r\n"), 'expected events only, got a component "VTODO"'),
        (calendar(WEEKLY, more="BEGIN:VJOURNAL\r\nUID:t\r\nEND:VJOURNAL\r\n"), 'got a component "VJOURNAL"'),
        (calendar(WEEKLY + "\r\nBEGIN:VALARM\r\nACTION:DISPLAY\r\nTRIGGER:-PT1H\r\nEND:VALARM"), 'events[0]: expected an event without alarms, got a component "VALARM"'),
        ("BEGIN:VEVENT\r\nDTSTART:20270101T000000Z\r\nEND:VEVENT\r\n", 'got a component "VEVENT"'),
        (calendar(), "expected 1 to 500 events, got 0"),
        (calendar(*[WEEKLY] * (MOST_EVENTS + 1)), "expected 1 to 500 events, got 501"),
        (calendar("SUMMARY:never"), "events[0]: expected DTSTART once, got none"),
        (calendar(WEEKLY.replace("FREQ=WEEKLY;BYDAY=SA", "FREQ=SECONDLY")), "rrule"),
        (calendar(WEEKLY.replace("FREQ=WEEKLY;BYDAY=SA", "FREQ=DAILY;INTERVAL=" + "9" * 40)), "events[0]: expected RRULE as RFC 5545 has it"),
        (calendar(WEEKLY + "\r\nRECURRENCE-ID:20270109T210000Z"), "expected events without RECURRENCE-ID"),
        (calendar(WEEKLY + "\r\nRDATE;TZID=Europe/Oslo:20270105T220000"), "expected either a rule or single dates"),
        (calendar(WEEKLY.replace("FREQ=WEEKLY;BYDAY=SA", "FREQ=DAILY;BYHOUR=1,2") + "\r\nEXDATE;TZID=Europe/Oslo:20270105T010000"), "exceptions only from a rule that comes once a day"),
        (calendar(WEEKLY + "\r\nRRULE:FREQ=DAILY"), "expected one rule, got 2"),
        (b"BEGIN:VCALENDAR\r\nX:\xff\r\nEND:VCALENDAR\r\n", "expected UTF-8, got another byte at 19"),
        ("x" * (LARGEST_CALENDAR_BYTES + 1), "expected at most"),
        ("BEGIN:VCALENDAR\r\n" + "BEGIN:VEVENT\r\n" * 5000, "calendar: expected"),
        (calendar(WEEKLY.replace("Europe/Oslo", "Nowhere/AtAll")), 'expected a known timezone, got "Nowhere/AtAll"'),
    ],
    ids=lambda value: str(value)[-40:],
)  # fmt: skip
def test_hostile_calendars_are_refused(text: str | bytes, words: str) -> None:
    in_time(lambda: read_cadence(text, "read", "Europe/Oslo"), DesignError, words)


def test_a_rule_that_comes_too_often_is_refused_when_it_is_used() -> None:
    """Reading it costs nothing; spreading it out is what is bounded."""
    read = read_cadence(calendar(WEEKLY.replace("FREQ=WEEKLY;BYDAY=SA", "FREQ=MINUTELY")), "read", "Europe/Oslo")
    document = {**json.loads(DEMO.read_text()), "years": 150, "routes": [], "holds": [], "opening": []}
    in_time(lambda: runs_of(read, frame_of(design_of(document))), ValueError, "expected")


def test_a_calendar_that_was_read_is_one_that_others_read() -> None:
    assert icalendar.Calendar.from_ical(calendar(WEEKLY)).walk("VEVENT")
