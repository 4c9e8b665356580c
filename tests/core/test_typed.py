"""What people type and bring: read where it means one thing, asked about where it can mean two, refused before it costs.

How numbers and sizes are written is common practice, no source; units are those of the SI Brochure and IEC 80000-13.
"""

import io
import re
import time
import tracemalloc
import zipfile
from collections.abc import Callable
from typing import Any

import openpyxl
import pytest
from hypothesis import given
from hypothesis import strategies as st

from shelf_core.design.cells import FIELDS, ordered_by, with_cells
from shelf_core.design.faults import DesignError
from shelf_core.design.reading import design_of
from shelf_core.design.targets import Site
from shelf_core.design.typed import decimals_in, typed_duration, typed_number, typed_size, typed_speed, typed_whole
from shelf_core.design.typed_dates import typed_date
from shelf_core.design.values import bytes_of
from shelf_core.design.workloads import Workload
from shelf_core.formats.calendar_reading import read_cadence
from shelf_core.formats.csv_text import table_of
from shelf_core.formats.documents import read_document
from shelf_core.formats.workbook_table import tables_of
from shelf_core.formats.workload_rows import WorkloadRows, workload_rows
from tests.designs import NEWEST_14, WEEKLY_FULL, design

SITES = [Site(id="here", name="Here"), Site(id="there")]
DATA = Workload(id="data", site="here", size="3 TB", count=4)


@pytest.mark.parametrize(
    ("text", "size"),
    [
        ("34", "34 TB"),
        ("34 GB", "34 GB"),
        ("12tb", "12 TB"),
        ("12T", "12 TB"),
        ("12 To", "12 TB"),
        ("1.5tib", "1.5 TiB"),
        ("12,5 TB", "12.5 TB"),
        ("1 250 GB", "1250 GB"),
        ("1\u202f250 GB", "1250 GB"),
        ("1'250'000 GB", "1250000 GB"),
        ("1.250,5", "1250.5 TB"),
        ("1,250.5 GB", "1250.5 GB"),
        ("1,250,000 GB", "1250000 GB"),
        ("0,125 TB", "0.125 TB"),
        ("-5 TB", "-5 TB"),
    ],
)
def test_sizes_as_people_type_them(text: str, size: str) -> None:
    assert typed_size(text, "TB") == size


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("1,250 GB", '"1,250" may be 1250 or 1.2500'),
        ("1.250 GB", '"1.250" may be 1250 or 1.2500'),
        ("12 Tb", "may mean bits"),
        ("12 xb", "expected a unit"),
        ("12,34,5", "in groups of three"),
        ("1e3", "expected a size"),
        ("plenty", "expected a size"),
    ],
)
def test_what_can_be_read_two_ways_is_asked_about(text: str, said: str) -> None:
    with pytest.raises(ValueError, match="expected") as error:
        typed_size(text, "TB")
    assert said in str(error.value)


def test_a_bare_size_needs_a_unit_from_somewhere() -> None:
    with pytest.raises(ValueError, match="with its unit"):
        typed_size("34", None)


@given(st.floats(0.001, 1e9), st.sampled_from([".", ","]), st.sampled_from(["", " ", "\u00a0"]))
def test_no_number_is_read_wrong_by_a_factor(number: float, mark: str, group: str) -> None:
    """However it is written, it is read as what it is, or it is asked about: never as a thousand times that."""
    written = f"{number:,.3f}".replace(",", "G").replace(".", mark).replace("G", group)
    try:
        found = typed_number(written, dot_is_decimal=False)
    except ValueError as error:
        assert "may be" in str(error)  # noqa: PT017 - what is asked is one of two right outcomes
        return
    assert found == pytest.approx(number, abs=0.0006)


def test_numbers_and_whole_numbers() -> None:
    assert [typed_number(text) for text in ("12 %", "-3,5", "1.125", "2")] == [12, -3.5, 1.125, 2]
    assert typed_whole("1 250") == 1250
    for text in ("2.5", "many", "1e3"):
        with pytest.raises(ValueError, match=f'got "{text}"'):
            typed_whole(text)
    assert [decimals_in(texts) for texts in (["1,250", "3,5"], ["1,250", "1.5"], ["1.250"], ["1,5", "1.5"])] == [
        ",",
        ".",
        None,
        None,
    ]


def test_cells_are_read_one_by_one() -> None:
    changed = with_cells(DATA, {"size": "34", "site": "there", "count": "", "tags": "a, b c"}, SITES)
    assert (changed.size, changed.site, changed.count, changed.tags) == ("34 TB", "there", 1, ["a", "b c"])
    with pytest.raises(DesignError) as error:
        with_cells(DATA, {"size": "1,250", "count": "many", "name": "Mail"}, SITES)
    assert [fault.path for fault in error.value.faults] == [("size",), ("count",)]
    with pytest.raises(DesignError, match="expected a size, got nothing"):
        with_cells(DATA, {"size": " "}, SITES)


def test_workloads_are_ordered_by_value() -> None:
    sizes = {"a": "900 GB", "b": "1.5 TB", "c": "1 TiB", "d": 5}
    workloads = [Workload(id=key, name=f"m{12 - at}", site="here", size=size) for at, (key, size) in enumerate(sizes.items())]
    assert ordered_by(workloads, "size") == sorted(sizes, key=lambda key: bytes_of(sizes[key])) == ["d", "a", "c", "b"]
    assert ordered_by(workloads, "name") == ["d", "c", "b", "a"]
    assert ordered_by([*workloads[:1], workloads[1].model_copy(update={"until": "2027-03-01"})], "until") == ["b", "a"]
    assert all(len(ordered_by(workloads, field)) == 4 for field in FIELDS)
    with pytest.raises(ValueError, match="expected a field"):
        ordered_by(workloads, "colour")


def test_workloads_are_ordered_by_several_fields_and_either_way() -> None:
    """Of equal sites the larger first; what says nothing comes last whichever way a field goes."""
    made = [
        ("a", "x", "1 TB", None),
        ("b", "y", "2 TB", "2027-03-01"),
        ("c", "x", "3 TB", "2027-02-01"),
        ("d", "x", "1 TB", None),
    ]
    workloads = [Workload(id=key, site=site, size=size, until=until) for key, site, size, until in made]
    assert ordered_by(workloads, "site", "-size") == ["c", "a", "d", "b"]
    assert ordered_by(workloads, "-site", "size") == ["b", "a", "d", "c"]
    assert ordered_by(workloads, "until") == ["c", "b", "a", "d"]
    assert ordered_by(workloads, "-until") == ["b", "c", "a", "d"]


def rows_of(text: str, **more: Any) -> WorkloadRows:
    document = design_of(design(WEEKLY_FULL, NEWEST_14))
    return workload_rows(table_of(text, block=more.pop("block", False)), document, **more)


def test_titles_and_sums_around_a_table_are_left_out_and_shown() -> None:
    text = "Inventory 2027;;\nprinted by hand;;\nName;Size (GB);Site\nMail;1 250;here\nFiles;900;here\nTotal;2150;\n"
    found = rows_of(text)
    assert [(row.value.name, row.value.size) for row in found.rows] == [("Mail", "1250 GB"), ("Files", "900 GB")]
    assert [(one.line, one.words) for one in found.skipped] == [
        (1, "Inventory 2027"),
        (2, "printed by hand"),
        (6, "Total, 2150"),
    ]
    assert found.faults == []


def test_the_decimal_mark_of_one_cell_tells_that_of_the_others() -> None:
    text = "Name;Size (GB);Site\nMail;1.250;here\nFiles;900,5;here\n"
    assert [row.value.size for row in rows_of(text).rows] == ["1250 GB", "900.5 GB"]
    unclear = rows_of("Name;Size (GB);Site\nMail;1.250;here\n")
    assert ([fault.field for fault in unclear.faults], unclear.rows) == (["size"], [])


def test_a_pasted_column_with_commas_is_one_column() -> None:
    found = rows_of("12,5 TB\n1,5 TB\n", columns=["size"], keys=["data"], header=False, block=True)
    assert found.rows[0].value.size == "12.5 TB"
    assert table_of("Size\n1,250 GB\n900 GB\n").separator == "\t"


@pytest.mark.parametrize(
    ("content", "read_as"),
    [
        ("Größe;1".encode("cp1252"), "Windows-1252"),
        ("Größe;1".encode("utf-16"), "UTF-16"),
        ("Größe;1".encode("utf-16-le"), "UTF-16"),
        ("Größe;1".encode(), "UTF-8"),
        ("\ufeffGröße;1".encode(), "UTF-8"),
    ],
)
def test_letters_of_text_files_are_recognised_and_said(content: bytes, read_as: str) -> None:
    (sheet,) = tables_of(content)
    assert (sheet.text, sheet.read_as) == ("Größe;1", read_as)


def test_what_is_no_table_is_refused() -> None:
    with pytest.raises(ValueError, match="expected a table as text or a workbook"):
        tables_of(bytes(range(256)) * 3)


def workbook_with(part: str, content: bytes) -> bytes:
    book = openpyxl.Workbook()
    assert book.active is not None
    book.active.append(["a"])
    plain, out = io.BytesIO(), io.BytesIO()
    book.save(plain)
    with zipfile.ZipFile(plain) as source, zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as target:
        for name in source.namelist():
            target.writestr(name, content if name.endswith(part) else source.read(name))
    return out.getvalue()


def with_shared_texts(texts: bytes) -> bytes:
    """The same workbook with the part its kind of file keeps its texts in."""
    named = {
        "[Content_Types].xml": b'<Override PartName="/xl/sharedStrings.xml" ContentType='
        b'"application/vnd.openxmlformats-officedocument.spreadsheetml.sharedStrings+xml"/></Types>',
        "xl/_rels/workbook.xml.rels": b'<Relationship Id="rId99" Target="sharedStrings.xml" Type='
        b'"http://schemas.openxmlformats.org/officeDocument/2006/relationships/sharedStrings"/></Relationships>',
    }
    out = io.BytesIO()
    plain = io.BytesIO(workbook_with("none", b""))
    with zipfile.ZipFile(plain) as source, zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as target:
        for name in source.namelist():
            content = source.read(name)
            if name in named:
                content = content[: content.rindex(b"</")] + named[name]
            target.writestr(name, content)
        target.writestr("xl/sharedStrings.xml", b"<sst " + MAIN + b">" + texts + b"</sst>")
    return out.getvalue()


MAIN = b'xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"'
EVENT = "BEGIN:VEVENT\r\nUID:1\r\nDTSTART:20270101T000000\r\nEND:VEVENT\r\n"
HARMFUL: dict[str, Callable[[], Any]] = {
    "empty rows": lambda: tables_of(
        workbook_with(
            "sheet1.xml", b"<worksheet " + MAIN + b"><sheetData>" + b"<row/>" * 3_000_000 + b"</sheetData></worksheet>"
        )
    ),
    "shared texts": lambda: tables_of(with_shared_texts(b"<si><t>a</t></si>" * 3_000_000)),
    "a row far below": lambda: tables_of(
        workbook_with(
            "sheet1.xml", b"<worksheet " + MAIN + b'><sheetData><row r="1048576"><c><v>1</v></c></row></sheetData></worksheet>'
        )
    ),
    "events": lambda: read_cadence(f"BEGIN:VCALENDAR\r\nVERSION:2.0\r\n{EVENT * 14_000}END:VCALENDAR\r\n", "key", "UTC"),
    "parameters": lambda: read_cadence(
        f"BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\nDTSTART{';X-P=a' * 150_000}:20270101\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n",
        "k",
        "UTC",
    ),
    "keys of YAML": lambda: read_document("\n".join(f"k{number}: 1" for number in range(600_000)), "yaml"),
}


@pytest.mark.parametrize("name", HARMFUL)
def test_files_that_would_cost_much_are_refused_before_they_do(name: str) -> None:
    """Some hundred kilobytes that took half a minute to read. The bound is generous here: machines differ, kinds of cost do not."""
    began = time.process_time()
    with pytest.raises((ValueError, DesignError), match="expected"):
        HARMFUL[name]()
    took = time.process_time() - began
    tracemalloc.start()
    with pytest.raises((ValueError, DesignError), match="expected"):
        HARMFUL[name]()
    _, most = tracemalloc.get_traced_memory()
    tracemalloc.stop()
    assert took < 12
    assert most < 200 * 2**20


@pytest.mark.parametrize(
    ("text", "speed"),
    [
        ("400 MB/s", "400 MB/s"),
        ("400mB/s", "400 MB/s"),
        ("1gbit/s", "1 Gbit/s"),
        ("1 Gbit", "1 Gbit/s"),
        ("120 MiB/s", "120 MiB/s"),
        ("1,5 Gbit/s", "1.5 Gbit/s"),
        ("80", "80 MB/s"),
        ("0 MB / sec", "0 MB/s"),
    ],
)
def test_a_speed_is_read_as_people_write_it(text: str, speed: str) -> None:
    assert typed_speed(text, "20 MB/s") == speed


@pytest.mark.parametrize("text", ["100 Mb/s", "100 mb/s", "1 Gb/s"])
def test_bits_or_bytes_are_asked_about(text: str) -> None:
    with pytest.raises(ValueError, match="may mean either"):
        typed_speed(text)


@pytest.mark.parametrize("text", ["fast", "100 XB/s", "100", "1,250 MB/s", "-3 MB/s"])
def test_what_is_no_speed_is_refused(text: str) -> None:
    with pytest.raises(ValueError, match="expected"):
        typed_speed(text)


@pytest.mark.parametrize(
    ("text", "duration"),
    [
        ("20 min", "PT20M"),
        ("7 h 45 min", "PT7H45M"),
        ("7h45min", "PT7H45M"),
        ("2 weeks", "P2W"),
        ("1 month and 3 days", "P1M3D"),
        ("90 s", "PT90S"),
        ("pt20m", "PT20M"),
        ("P1DT12H", "P1DT12H"),
    ],
)
def test_a_duration_is_read_as_people_write_it(text: str, duration: str) -> None:
    """ISO 8601-1:2019, 5.5.2: the designators of a duration."""
    assert typed_duration(text) == duration


@pytest.mark.parametrize("text", ["20", "20 m", "soon", "2 h 3 h", "h", "1 fortnight"])
def test_what_is_no_duration_is_refused(text: str) -> None:
    with pytest.raises(ValueError, match="expected"):
        typed_duration(text)


@pytest.mark.parametrize(
    ("text", "day"),
    [
        ("2027-03-31", "2027-03-31"),
        ("2027/3/31", "2027-03-31"),
        (" 31 March 2027 ", "2027-03-31"),
        ("31. Mar 2027", "2027-03-31"),
        ("March 31st, 2027", "2027-03-31"),
        ("sept 1 2028", "2028-09-01"),
        ("31.3.2027", "2027-03-31"),
        ("3.4.2027", "2027-04-03"),
        ("31/03/2027", "2027-03-31"),
        ("03/31/2027", "2027-03-31"),
        ("4/4/2027", "2027-04-04"),
        ("29 February 2028", "2028-02-29"),
    ],
)
def test_dates_are_read_as_people_write_them(text: str, day: str) -> None:
    """Common practice, no source: points stand where the day comes first, a number above 12 is the day."""
    assert typed_date(text) == day


@pytest.mark.parametrize(
    ("text", "why"),
    [
        ("03/04/2027", "which may be 2027-04-03 or 2027-03-04"),
        ("29 February 2027", "which there is not"),
        ("2027-13-01", "which there is not"),
        ("31 Ma 2027", 'there is no month "Ma"'),
        ("3 Julember 2027", 'there is no month "Julember"'),
        ("soon", 'expected a date such as 2027-03-31 or "31 March 2027", got "soon"'),
        ("31.3.27", "expected a date"),
        ("", "expected a date"),
    ],
)
def test_what_is_no_date_or_two_is_asked_about(text: str, why: str) -> None:
    with pytest.raises(ValueError, match=re.escape(why)):
        typed_date(text)
