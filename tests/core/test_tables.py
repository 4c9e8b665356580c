"""Tables that people bring: every row is read or named with its line, nothing is guessed silently."""

import json
from typing import Any

import pytest

from shelf_core.design.document import Design
from shelf_core.design.reading import read_design
from shelf_core.formats.csv_text import table_of
from shelf_core.formats.opening_rows import opening_rows
from shelf_core.formats.workload_rows import WorkloadRows, workload_rows
from tests.designs import NEWEST_14, WEEKLY_FULL, design


def small(**more: Any) -> Design:
    return read_design(json.dumps(design(WEEKLY_FULL, NEWEST_14, **more)))


def read(text: str, document: Design | None = None, **more: Any) -> WorkloadRows:
    return workload_rows(table_of(text), document or small(), **more)


def test_separators_quotes_and_lines() -> None:
    """RFC 4180, sections 2.5 to 2.7: quoted cells hold separators, line breaks and doubled quotes."""
    table = table_of('\ufeffa;b\r\n"x;1";"two\r\nlines ""here"""\r\n\r\n ;last \r\n')
    assert [(row.line, row.cells) for row in table.rows] == [
        (1, ["a", "b"]),
        (2, ["x;1", 'two\r\nlines "here"']),
        (5, ["", "last"]),
    ]
    assert table_of("a\tb,c").separator == "\t"
    with pytest.raises(ValueError, match="fault on line 2"):
        table_of('a,b\n"x"y,z')
    with pytest.raises(ValueError, match="at most"):
        table_of("x" * (64 * 2**20 + 1))


def test_columns_are_found_by_their_names_and_units() -> None:
    found = read("Server;Used (GB);Change %/day;growth;Colour;Tags\nMail;900;1,5;10;blue;a, b")
    assert found.columns == ["name", "size", "daily_change_percent", "annual_growth_percent", None, "tags"]
    (row,) = found.rows
    value = row.value
    assert (row.action, row.line, value.id, value.size, value.site) == ("new", 2, "mail", "900 GB", "here")
    assert (value.daily_change_percent, value.annual_growth_percent, value.tags) == (1.5, 10, ["a", "b"])


def test_rows_meet_what_is_there_by_id_or_name() -> None:
    document = small(workload={"name": "Data store", "tags": ["old"]})
    found = read("name,size\nData store,12 TB\nOther,1 TB\nOther,2 TB", document)
    assert [(row.action, row.value.id) for row in found.rows] == [("changed", "data"), ("new", "other"), ("new", "other-2")]
    assert found.rows[0].value.tags == ["old"], "what no column names stays"
    assert read("id,size\ndata,10 TB", document).rows[0].action == "same"


def test_each_faulty_row_is_named_with_line_and_field() -> None:
    found = read(
        "name,size,count,site,change_pattern\n"
        "a,plenty,1,here,\n"
        "b,1 TB,1.5,here,\n"
        "c,1 TB,1,nowhere,\n"
        "d,1 TB,1,here,often\n"
        "e,-1 TB,1,here,\n"
        "f,1 TB,1,here,fresh\n"
    )
    assert [(fault.line, fault.field) for fault in found.faults] == [
        (2, "size"),
        (3, "count"),
        (4, "site"),
        (5, "change_pattern"),
        (6, "size"),
    ]
    assert found.faults[0].message == 'expected a size such as "12 TB" or "1.5 TiB", got "plenty"'
    assert [row.value.id for row in found.rows] == ["f"]


def test_a_workload_that_comes_twice_is_a_fault() -> None:
    found = read("id,size\ndata,1 TB\ndata,2 TB")
    assert [(fault.line, fault.message) for fault in found.faults] == [
        (3, "expected each workload once, got data as on line 2")
    ]


def test_blocks_without_a_header_are_for_the_rows_they_stand_beside() -> None:
    document = small()
    found = read("1 TB\t3\n2 TB\t4", document, columns=["size", "count"], keys=["data"], header=False)
    assert [(row.action, row.value.id, row.value.size, row.value.count) for row in found.rows] == [
        ("changed", "data", "1 TB", 3),
        ("new", "workload", "2 TB", 4),
    ]


def test_unknown_and_double_fields_are_refused() -> None:
    for columns, words in [(["colour"], "expected columns out of"), (["size", "size"], "expected each field once")]:
        with pytest.raises(ValueError, match=words):
            read("1\t2", columns=columns, header=False)


def test_sites_are_asked_for_where_there_are_several() -> None:
    document = small(sites=[{"id": "here"}, {"id": "there", "name": "Far away"}])
    found = read("name,size,site\na,1 TB,Far away\nb,1 TB,", document)
    assert [row.value.site for row in found.rows] == ["there"]
    assert [(fault.line, fault.field) for fault in found.faults] == [(3, "site")]


def test_opening_stock_is_read_by_name_or_id() -> None:
    text = (
        "route,copy,workload,taken,kind,size\n"
        "way,first,data,2026-12-30 22:00,Full,4 TB\n"
        "way,first,data,2026-12-31T22:00,incremental,\n"
        "way,second,data,2026-12-31T22:00,full,\n"
        "way,first,data,yesterday,full,\n"
    )
    found = opening_rows(table_of(text), small())
    assert [(point.taken, point.kind, point.size) for point in found.points] == [
        ("2026-12-30T22:00", "full", "4 TB"),
        ("2026-12-31T22:00", "incremental", None),
    ]
    assert [(fault.line, fault.field) for fault in found.faults] == [(4, "copy"), (5, "taken")]
    with pytest.raises(ValueError, match="got none named route"):
        opening_rows(table_of("a,b\n1,2"), small())
