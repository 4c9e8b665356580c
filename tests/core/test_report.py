"""Files of a forecast: tables, the workbook as LibreOffice computes it anew, Parquet read back, the report."""

import csv
import io
import json
import re
import shutil
import subprocess
from dataclasses import replace
from datetime import datetime
from pathlib import Path
from typing import Any

import numpy as np
import pandas as pd
import pytest
from openpyxl import load_workbook

from shelf_core.cost.cost import cost_of
from shelf_core.design.reading import design_of, read_design
from shelf_core.forecast.figure_words import bytes_words, money_words
from shelf_core.forecast.forecast import forecast
from shelf_core.forecast.points import Chosen, points_on
from shelf_core.forecast.protection import protection_on
from shelf_core.forecast.splits import split
from shelf_core.formats.csv_text import STARTS_A_FORMULA, safe
from shelf_core.formats.digest import digest
from shelf_core.nights.picture import CopyNights, YearsOfNights
from shelf_core.report.asked import Asked, Table
from shelf_core.report.page import report
from shelf_core.report.parquet import write_parquet
from shelf_core.report.tables import table, table_names, write_csv
from shelf_core.report.workbook import write_workbook
from shelf_core.style import FigureStyle
from tests.designs import DEMO, NEWEST_14, WEEKLY_FULL, design

ON, TODAY = "2028-12-31", "2026-11-24"


def asked_of(document: Any, on: str) -> Asked:
    result = forecast(document)
    return Asked(result, cost_of(result), on, TODAY)


@pytest.fixture(scope="module")
def demo() -> Asked:
    return asked_of(read_design(DEMO.read_bytes()), ON)


@pytest.fixture(scope="module")
def recalculated(demo: Asked, tmp_path_factory: pytest.TempPathFactory) -> Any:
    """The demo's workbook after LibreOffice has computed all of its formulas."""
    folder = tmp_path_factory.mktemp("workbook")
    with (folder / "demo.xlsx").open("wb") as out:
        write_workbook(demo, out)
    program = shutil.which("soffice")
    assert program, "LibreOffice comes with ./shelf test"
    command = [
        program,
        "--headless",
        f"-env:UserInstallation={(folder / 'profile').as_uri()}",
        "--convert-to",
        "xlsx:Calc MS Excel 2007 XML",
    ]
    subprocess.run(
        [*command, "--outdir", str(folder / "out"), str(folder / "demo.xlsx")], check=True, capture_output=True, timeout=180
    )
    return load_workbook(folder / "out" / "demo.xlsx", data_only=True)


def test_libreoffice_computes_the_sums_of_the_forecast(demo: Asked, recalculated: Any) -> None:
    """Every formula of the sheet of sums against the engine's own figures."""
    rows = list(recalculated["Sums"].iter_rows(min_row=2, values_only=True))
    assert len(rows) == 2 * len(demo.result.targets) + 1
    for what, computed, known, apart in rows:
        assert computed == pytest.approx(known, rel=1e-9), what
        assert abs(apart) <= max(1e-9 * known, 1e-6), what
    fern = next(one for one in demo.result.targets if one.target.id == "fern-disk")
    assert rows[0][:2] == ("points of fern-disk", int(fern.totals.points[demo.result.place_of(ON)]))


def test_libreoffice_computes_the_months_and_the_cost(demo: Asked, recalculated: Any) -> None:
    cost = list(recalculated["Cost"].iter_rows(min_row=2, values_only=True))
    assert [f"{row[0]:%Y-%m}" for row in cost[:-1]] == demo.cost.months
    assert cost[-1][0] == "together"
    assert [row[-1] for row in cost[:-1]] == pytest.approx(demo.cost.per_month().tolist())
    assert cost[-1][-1] == pytest.approx(float(demo.cost.per_month().sum()))
    months = {f"{row[0]:%Y-%m}": row for row in recalculated["Months"].iter_rows(min_row=2, values_only=True)}
    count, place = len(demo.result.targets), demo.result.place_of("2028-12-31")
    together = sum(float(one.totals.stored_bytes[place]) for one in demo.result.targets)
    assert months["2028-12"][count + 1] == pytest.approx(together)
    targets = list(recalculated["Targets"].iter_rows(min_row=2, values_only=True))
    assert targets[-1][6] == pytest.approx(sum(row[6] for row in targets[:-1]))
    about = dict(recalculated["About"].iter_rows(values_only=True))
    assert about["digest (SHA-256)"] == digest(demo.result.document)
    no_errors = [
        cell for sheet in recalculated for row in sheet.iter_rows(values_only=True) for cell in row if str(cell).startswith("#")
    ]
    assert no_errors == []


def test_workbook_has_live_formulas(demo: Asked) -> None:
    out = io.BytesIO()
    write_workbook(demo, out)
    book = load_workbook(io.BytesIO(out.getvalue()))
    assert book.sheetnames == [
        *("About", "Duties", "Workloads", "Ladders", "Copies", "Targets", "Speeds", "Nights", "Plans"),
        *("Months", "Cost", "Cost by route", "Points", "Sums"),
    ]
    formulas = [cell.value for cell in book["Sums"]["B"][1:]]
    assert all(str(one).startswith("=") for one in formulas)
    assert str(book["Cost"].cell(2, len(demo.cost.targets) + len(demo.cost.beside) + 2).value).startswith("=SUM(")


def test_the_workbook_holds_dates_units_and_what_every_formula_comes_to(demo: Asked) -> None:
    """Read back by openpyxl without a spreadsheet between: what is stored beside each formula is what it comes to."""
    out = io.BytesIO()
    write_workbook(demo, out)
    book = load_workbook(io.BytesIO(out.getvalue()), data_only=True)
    about = dict(book["About"].iter_rows(values_only=True))
    assert about["made on"] == datetime.fromisoformat(demo.today)
    assert about["as of the end of"] == datetime.fromisoformat(ON)
    targets = list(book["Targets"].iter_rows(min_row=2))
    head = {cell.value: cell.column for cell in book["Targets"][1]}
    stored, peak_on = head["stored"] - 1, head["peak on"] - 1
    assert targets[-1][stored].value == pytest.approx(sum(row[stored].value for row in targets[:-1]))
    assert targets[0][stored].number_format.endswith('"\u00a0TB"')
    assert all(isinstance(row[peak_on].value, datetime) for row in targets[:-1])
    assert book["Sums"]["B2"].value == book["Sums"]["C2"].value
    together = len(demo.cost.targets) + len(demo.cost.beside) + 2
    assert book["Cost"].cell(len(demo.cost.months) + 2, together).value == pytest.approx(float(demo.cost.per_month().sum()))


def test_sentences_of_the_workbook_say_figures_as_its_reader_likes_them(demo: Asked) -> None:
    def texts(style: FigureStyle) -> str:
        out = io.BytesIO()
        write_workbook(replace(demo, style=style), out)
        sheets = load_workbook(out, read_only=True)
        return "\n".join(cell for sheet in sheets for row in sheet.values for cell in row if isinstance(cell, str))

    usual, own = texts(FigureStyle()), texts(FigureStyle("comma", "iso"))
    assert "Fails on 730 days, first on 2 January 2035" in usual
    assert "Holds on all of the 3\u202f646 days" in usual
    assert "Fails on 730 days, first on 2035-01-02" in own
    assert "Holds on all of the 3,646 days" in own
    assert "\u202f" not in own


def test_a_name_that_holds_a_date_stays_as_it_was_given() -> None:
    document = json.loads(DEMO.read_text())
    document["targets"][0]["name"] = "Vault <of> 2028-04-01"
    document["ladders"][0]["name"] = "Rule of 3 May 2027"
    result = forecast(design_of(document))
    for style in (FigureStyle(), FigureStyle("comma", "iso")):
        page = report(Asked(result, cost_of(result), ON, "2026-11-24", style=style))
        assert "Vault &lt;of&gt; 2028-04-01" in page
        assert "Rule of 3 May 2027" in page
        assert ("1 April 2028" in page) == (style.dates == "words")


def test_the_workbook_is_printed_on_pages_and_filtered(demo: Asked) -> None:
    out = io.BytesIO()
    write_workbook(demo, out)
    book = load_workbook(io.BytesIO(out.getvalue()))
    for sheet in book.worksheets:
        assert sheet.page_setup.orientation == "landscape"
        # One page wide, as no number says, and as many long as it takes.
        assert (sheet.page_setup.fitToWidth, sheet.page_setup.fitToHeight) == (None, 0)
        assert sheet.sheet_properties.pageSetUpPr.fitToPage
        assert sheet.oddFooter.right.text == "&P of &N"
        assert "made on 24 November 2026" in sheet.oddFooter.left.text
        if sheet.title != "About" and sheet.max_row > 2:
            assert sheet.freeze_panes == "B2"
            assert sheet.print_title_rows == "$1:$1"
        widths = [one.width for one in sheet.column_dimensions.values()]
        assert all(8 <= width <= 73 for width in widths)
    assert book["Points"].auto_filter.ref.startswith("A1:")


def test_nothing_typed_becomes_a_formula() -> None:
    """Cells that begin with =, +, -, @, tab or return are text (the usual list for CSV; common practice, no source)."""
    document = design(WEEKLY_FULL, NEWEST_14, name="=1+1")
    document["workloads"][0]["name"] = '=HYPERLINK("x")'
    found = asked_of(design_of(document), "2027-06-01")
    out = io.BytesIO()
    write_workbook(found, out)
    book = load_workbook(io.BytesIO(out.getvalue()))
    assert book["About"]["B1"].value == "'=1+1"
    assert book["Workloads"]["B2"].value == '\'=HYPERLINK("x")'
    text = io.StringIO()
    write_csv(Table("one", "One", ("cell",), [(f"{start}x",) for start in "=+-@"]), text)
    assert all(row["cell"].startswith("'") for row in csv.DictReader(io.StringIO(text.getvalue(), newline="")))
    assert [safe(f"{start}x") for start in STARTS_A_FORMULA] == [f"'{start}x" for start in STARTS_A_FORMULA]
    assert [safe(-5), safe("plain"), safe(None)] == [-5, "plain", None]


def test_tables_are_read_back_with_the_core_s_figures(demo: Asked) -> None:
    frames = {}
    for name in table_names(demo.result.design):
        out = io.StringIO()
        write_csv(table(demo, name), out)
        frames[name] = pd.read_csv(io.StringIO(out.getvalue()))
    series = frames["series"]
    for one in demo.result.targets:
        mine = series[series.target == one.target.id]
        assert np.array_equal(mine.points.to_numpy(), one.totals.points)
        # A file for people has whole bytes, rounded once.
        assert np.array_equal(mine.stored_bytes.to_numpy(), np.rint(one.totals.stored_bytes))
        alone = frames[f"series-of-{one.target.id}"]
        assert np.array_equal(alone.peak_bytes.to_numpy(), np.rint(one.totals.peak_bytes))
        # What must stay is never more than what is there.
        assert (alone.least_bytes <= alone.stored_bytes * (1 + 1e-9) + 1).all()
        parts = frames[f"split-of-{one.target.id}-by-route"]
        together = parts.groupby("date")[["points", "stored_bytes"]].sum().reindex(alone.date, fill_value=0)
        assert np.array_equal(together.points.to_numpy(), one.totals.points)
        assert np.allclose(together.stored_bytes, one.totals.stored_bytes, rtol=1e-9, atol=10)  # a byte for each part
    cost = frames["cost"].groupby("month").cost.sum()
    assert cost.to_numpy() == pytest.approx(demo.cost.per_month())
    for by in ("route", "workload", "tag"):
        told = frames[f"cost-by-{by}"].groupby("month").cost.sum()
        assert told.to_numpy() == pytest.approx(demo.cost.per_month())
    points = frames["points"]
    assert points.stored_bytes.dtype == np.int64
    for column in ("claimed_until", "locked_until", "removed", "needed_by"):
        assert points[column].dropna().astype(str).str.fullmatch(r"\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(:\d{2})?").all()
    without_end = {
        row.workload for row in points_on(demo.result, ON, Chosen()) if "forever" in (row.claimed_until, row.locked_until)
    }
    assert set(points[points.for_good.notna()].workload) == without_end
    place = demo.result.place_of(ON)
    for one in demo.result.targets:
        counted = points[(points.target == one.target.id) & (points.kind != "log")]
        assert counted["count"].sum() == one.totals.points[place]
    assert frames["targets"].target.iloc[0] == "fern-disk"
    states = pd.DataFrame(table(demo, "split-of-wall-disk-by-state").rows, columns=["date", "state", "points", "stored_bytes"])
    assert dict(states[states.date == ON][["state", "points"]].to_numpy()) == {
        name: part.points[place] for name, part in split(demo.result, "wall-disk", "state").items() if part.points[place]
    }
    for name in ("series-of-nowhere", "split-of-nowhere-by-route", "split-of-fern-disk-by-colour", "split-of-fern-disk"):
        with pytest.raises(ValueError, match="expected a table"):
            table(demo, name)
    with pytest.raises(ValueError, match="expected a date"):
        table(Asked(demo.result, demo.cost, "2050-01-01", TODAY), "targets")


def test_parquet_is_read_back(demo: Asked, tmp_path: Path) -> None:
    path = tmp_path / "series.parquet"
    with path.open("wb") as out:
        write_parquet(demo, out)
    found = pd.read_parquet(path)
    assert len(found) == demo.result.frame.days * len(demo.result.targets)
    moss = found[found.target == "moss-pool"]
    one = next(one for one in demo.result.targets if one.target.id == "moss-pool")
    assert np.array_equal(moss.stored_bytes.to_numpy(), one.totals.stored_bytes)
    assert np.array_equal(moss.room_bytes.to_numpy(), one.room_bytes)
    assert found[found.target == "cold-cellar"].room_bytes.isna().all()
    assert str(found.date.iloc[0]) == "2027-01-01"


def test_report_names_its_design_and_its_figures(demo: Asked) -> None:
    page = report(demo)
    assert digest(demo.result.document) in page
    for one in demo.result.targets:
        stored = bytes_words(float(one.totals.stored_bytes[demo.result.place_of(ON)]))
        assert stored in page
    assert page.count("<svg") == len(demo.result.targets) + 1
    assert money_words(float(demo.cost.per_month().sum()), "EUR") in page
    # It stands alone: no script, and nothing that a reader would have to fetch.
    assert not re.search(r"<script|<link|src=|url\(|https?://(?!www\.w3\.org/2000/svg)", page)


def test_report_of_an_unpriced_design_with_odd_names_is_sound() -> None:
    document = design(WEEKLY_FULL, NEWEST_14, name="<b>Bold & odd</b>")
    page = report(asked_of(design_of(document), "2027-06-01"))
    assert "&lt;b&gt;Bold &amp; odd&lt;/b&gt;" in page
    assert "<b>Bold" not in page
    assert "No prices are given." in page


def test_digest_is_of_the_meaning_not_of_the_writing() -> None:
    one = design(WEEKLY_FULL, NEWEST_14)
    other = dict(reversed(list(one.items())))
    assert digest(design_of(one)) == digest(design_of(other))
    other["name"] = "Another"
    assert digest(design_of(one)) != digest(design_of(other))


@pytest.mark.parametrize(
    ("size", "words"),
    [(0, "0 B"), (999, "999 B"), (1500, "1.50 kB"), (22.4e12, "22.4 TB"), (999.6e9, "1.00 TB"), (1.086e15, "1.09 PB")],
)
def test_bytes_are_written_with_three_figures(size: float, words: str) -> None:
    assert bytes_words(size) == words


def test_report_and_workbook_lead_with_the_verdicts_of_duties(demo: Asked) -> None:
    page = report(demo)
    assert page.index("<h2>Duties</h2>") < page.index("<h2>All targets</h2>")
    assert "Judged as if no transfer took time, since the nights of this design have not been followed." in page
    assert "Accession law, seven years and a week</b> (" in page
    assert "let go by yearly of Tape, seven years" in page
    listed = list(table(demo, "duties").rows)
    assert {row[4] for row in listed if row[0].startswith("Accession")} == {"fails"}
    assert [row[4] for row in listed if row[0].startswith("Machines")] == ["holds", "holds"]  # one of machines that come later


def test_speeds_and_nights_are_taken_along(demo: Asked) -> None:
    speeds = list(table(demo, "speeds").rows)
    assert ("line", "reading") in {(row[0], row[2]) for row in speeds}
    assert len(speeds) > len(demo.result.design.links)
    assert list(table(demo, "nights").rows) == []
    assert "<h3>Lines between places</h3>" in report(demo)
    assert "<h2>Nights</h2>" not in report(demo)
    nights = CopyNights("r", "c", "Records: disk", [2, 3], [0, 1], [1.0, 2.0], "2027-01-02")
    followed = replace(demo, nights=YearsOfNights(["2027-01-01", "2027-01-02"], [nights], [], "2027-01-02", []))
    assert list(table(followed, "nights").rows) == [("Records: disk", 5, 1, 1, "2027-01-02")]
    assert "Something is late from the night of 2 January 2027 on." in report(followed)
    assert "late on 1 night, first on 2 January 2027" in report(followed)


def test_the_report_says_what_to_buy_when_and_how_well_all_stands(demo: Asked) -> None:
    """Of each target that runs full what its peak lacks in each year, by the engine's own totals."""
    page = report(demo)
    order = [
        page.index(f"<h2>{title}") for title in ("Duties", "Three copies", "All targets", "What to buy when", "Cartridges")
    ]
    assert order == sorted(order)
    fern = next(one for one in demo.result.targets if one.target.id == "fern-disk")
    assert fern.room_bytes is not None
    last = demo.result.place_of("2036-12-31")
    lacks = float((fern.totals.peak_bytes - fern.room_bytes)[last - 365 : last + 1].max())
    row = page[page.index("<h2>What to buy when") :]
    row = row[row.index("Fern disk") : row.index("</tr>", row.index("Fern disk"))]
    assert '<td class="n">1 Apr 2028</td>' in row
    assert row.endswith(f'<td class="n">{bytes_words(lacks)}</td>')
    protected = protection_on(demo.result, ON)["machines"][0]
    assert protected.missing
    assert f'<b>Machines</b>: <span class="bad">{protected.verdict}</span>' in page
    assert re.search(r"of 240 slots", page)
    assert "<h3>Cadences</h3>" in page


def test_a_design_with_room_for_all_has_nothing_to_buy() -> None:
    page = report(asked_of(design_of(design(WEEKLY_FULL, NEWEST_14)), "2027-06-01"))
    assert "No target runs full in this time" in page
    assert "<h2>Cartridges" not in page
