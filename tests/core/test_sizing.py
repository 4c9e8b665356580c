"""Sizing help: what was put into a made-up past comes out of the fit, and too little is refused."""

from datetime import datetime, timedelta

import numpy as np
import pytest

from shelf_core.engine.volume.sizes import Behaviour, changed_share
from shelf_core.formats.csv_text import table_of
from shelf_core.sizing.listing import sizing_of
from shelf_core.sizing.past import Fit, fit_of

TB = 10**12


def past(
    change: float, *, fresh: bool, reduction: float = 2.0, growth: float = 0.0, weeks: int = 12, noise: float = 0.0
) -> str:
    """Weekly fulls, and incrementals in between at 1, 2 and 3 days' distance, from the model of the page docs/model.md."""
    draw = np.random.default_rng(7)
    behaviour = Behaviour(base=1.0, steps=(), growth=0.0, change=change, hot=1.0, fresh=fresh)
    start, end = datetime(2027, 1, 2, 20), datetime(2027, 1, 2, 20) + timedelta(weeks=weeks - 1)
    lines = ["taken,kind,size"]
    for week in range(weeks):
        taken, gaps = start + timedelta(weeks=week), iter((1, 2, 3))
        source = 10 * TB * (1 + growth) ** ((taken - end).days / 365)
        lines.append(f"{taken.isoformat()},full,{source / reduction:.0f}")
        for gap in gaps if week < weeks - 1 else ():
            taken += timedelta(days=gap)
            source = 10 * TB * (1 + growth) ** ((taken - end).days / 365)
            share = float(changed_share(behaviour, np.array([gap * 86_400]))[0])
            size = source * share / reduction * (1 + noise * draw.standard_normal())
            lines.append(f"{taken.isoformat()},incremental,{size:.0f}")
    return "\n".join(lines)


def fit(text: str) -> Fit:
    return fit_of(table_of(text), "10 TB")


@pytest.mark.parametrize(("change", "fresh"), [(0.004, True), (0.05, False), (0.2, False)])
def test_what_was_put_in_comes_out(change: float, fresh: bool) -> None:
    found = fit(past(change, fresh=fresh))
    assert found.refused == ""
    assert found.daily_change_percent == pytest.approx(100 * change, rel=1e-3)
    assert found.reduction == pytest.approx(2, rel=1e-9)
    assert found.pattern == ("fresh" if fresh else "scattered")
    assert found.spread_percent == pytest.approx(0, abs=0.05)
    assert len(found.points) == 33


def test_growth_is_told_from_fulls_that_span_enough_time() -> None:
    found = fit(past(0.03, fresh=False, growth=0.3, weeks=30))
    assert found.annual_growth_percent == pytest.approx(30, rel=0.01)
    assert fit(past(0.03, fresh=False, weeks=6)).annual_growth_percent is None


def test_residuals_are_shown_as_they_are() -> None:
    found = fit(past(0.05, fresh=False, noise=0.1))
    assert found.daily_change_percent == pytest.approx(5, rel=0.1)
    assert found.spread_percent == pytest.approx(10, rel=0.35)
    first = found.points[0]
    assert first.residual_percent == pytest.approx(100 * (first.stored_bytes / first.fitted_bytes - 1))


def test_too_little_is_refused_with_the_reason() -> None:
    table = "taken,kind,size\n2027-01-01T20:00,full,5 TB\n2027-01-02T20:00,incremental,1 TB"
    assert fit(table).refused == "There is too little to fit: 1 fulls, at least 2 are needed."
    more = table + "\n2027-01-08T20:00,full,5 TB"
    assert fit(more).refused == "There is too little to fit: 1 incrementals or differentials, at least 5 are needed."
    assert fit_of(table_of(more), 0).refused.startswith("The size of the source is needed")
    assert fit(more).reduction is None


def test_faulty_rows_of_the_past_are_named() -> None:
    found = fit(past(0.05, fresh=False) + "\nsoon,full,1 TB\n2027-05-01T20:00,copy,1 TB\n2027-05-01T20:00,full,-1 TB")
    assert [fault.line for fault in found.faults] == [47, 48, 49]
    with pytest.raises(ValueError, match="got none named kind"):
        fit("taken,size\n1,2")


LISTING = """path,size,changed
/data/a.tif,600,2027-03-01
/data/b.tif,300,2027-06-29T10:00
/data/c.tif,90,2027-06-30
/data/cache/d.tmp,50,2027-06-30
/etc/e.conf,10,2027-05-01
"""


def test_listing_gives_size_and_change_within_its_patterns() -> None:
    """By hand: of 1,000 bytes 390 changed in the last seven days, 39 % in seven days or 5.571 % a day."""
    found = sizing_of(table_of(LISTING), (), ["*.tmp"])
    assert (found.files, found.size_bytes, found.left_out_files, found.left_out_bytes) == (4, 1000, 1, 50)
    assert (found.oldest, found.newest) == ("2027-03-01", "2027-06-30")
    assert [(span.days, span.changed_bytes) for span in found.spans] == [(1, 90), (7, 390), (30, 390), (90, 400)]
    assert found.daily_change_percent == pytest.approx(39 / 7)
    assert sizing_of(table_of(LISTING), ["/data/*"]).files == 4


def test_listing_without_dates_apart_is_refused() -> None:
    found = sizing_of(table_of("path,size,changed\na,1,2027-01-01\nb,1,2027-01-03"))
    assert (found.daily_change_percent, found.size_bytes) == (None, 2)
    assert found.refused == "The files' dates span 2 days; a change per day needs at least 7."
    assert sizing_of(table_of(LISTING), ["/none/*"]).refused == "No file is counted."


def test_faulty_rows_of_a_listing_are_named() -> None:
    found = sizing_of(table_of("path,size,changed\na,big,2027-01-01\nb,1,never\nc,-1 GB,2027-01-01\n"))
    assert [(fault.line, fault.field) for fault in found.faults] == [(2, "size"), (3, "changed"), (4, "size")]
