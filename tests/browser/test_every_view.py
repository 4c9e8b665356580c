"""Every view, opened once: axe in both themes, larger, with wider spacing, on paper, and its labels.

WCAG 2.2, levels A and AA; docs/access.md goes through every criterion and says how each was checked.
"""

import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from shelf_server.designs.models import Design
from tests.browser.access import no_violations
from tests.browser.conftest import ON, Opener
from tests.browser.figures import written
from tests.designs import ROOT

VIEWS = {
    "/workloads": "Workloads",
    "/targets/fern-disk": "Targets",
    "/targets/salt-tape": "Targets",
    "/rules/ladders/house": "Ladders, Rules",
    "/rules/cadences": "Cadences, Rules",
    "/rules/cadences/database": "Cadences, Rules",
    "/rules/holds": "Holds, Rules",
    "/routes": "Routes",
    "/routes/records/house": "Routes",
    "/routes/collections/house": "Routes",
    "/forecast": "All targets, Forecast",
    "/forecast/target/fern-disk": "One target, Forecast",
    "/forecast/target/north-bucket": "One target, Forecast",
    "/forecast/target/moss-pool": "One target, Forecast",
    "/forecast/points": "Points, Forecast",
    "/forecast/cost": "Cost, Forecast",
    "/forecast/nights": "Nights, Forecast",
    "/forecast/unknown": "What is not known, Forecast",
    "/proof": "Duties, Proof",
    "/proof/losses": "Losses, Proof",
    "/proof/plans": "Plans of recovery, Proof",
    "/proof/findings": "Findings, Proof",
}


@pytest.mark.usefixtures("followed")
@pytest.mark.parametrize("path", VIEWS)
def test_a_view_is_open_to_everybody(page_of: Opener, row: Design, path: str) -> None:
    page_of.expected_refusals = {422}
    page = page_of(f"/designs/{row.pk}{path}")
    expect(page).to_have_title(f"{VIEWS[path]} - Lindmoor Botanic Trust - Rested Shelf")
    expect(page.locator("main").locator("h2, h3, table, [role=grid], [role=slider], button").first).to_be_visible()
    expect(page.locator("main")).to_contain_text(re.compile(r"\w{4}.*\w{4}", re.DOTALL))
    page.wait_for_load_state("networkidle")
    no_violations(page)
    labels_are_words(page, path)
    page.get_by_role("button", name="Light or dark").dispatch_event("click")  # without the tip that a pointer brings up
    no_violations(page, of_colours=True)
    stands_whole_and_light_on_paper(page, row)
    for width, height in FOUR_TIMES, TWICE:
        page.set_viewport_size({"width": width, "height": height})
        page.wait_for_function("() => document.documentElement.scrollWidth <= document.documentElement.clientWidth")
    page.set_viewport_size({"width": 1280, "height": 800})
    with_wider_spacing_no_text_is_lost(page)


FOUR_TIMES, TWICE = (320, 256), (640, 400)
"""At so many times the size of a window of 1280 pixels nothing has to be scrolled across (1.4.10, 1.4.4); tables and drawings
scroll by themselves."""

CUT_ON_PAPER = """() => [...document.querySelectorAll("main, main *")].filter((one) => {
  const look = getComputedStyle(one);
  return /auto|scroll|hidden/.test(look.overflowY) && one.scrollHeight > one.clientHeight + 2 && one.clientHeight > 1;
}).map((one) => one.outerHTML.slice(0, 200))"""


SHORTENED_ON_PAPER = """() => [...document.querySelectorAll("main *")].filter((one) => {
  const look = getComputedStyle(one);
  return look.textOverflow === "ellipsis" && look.overflowX !== "visible" && one.scrollWidth > one.clientWidth + 1
    && one.offsetParent && !one.closest("[role=grid]");
}).map((one) => one.outerHTML.slice(0, 300))"""


def stands_whole_and_light_on_paper(page: Page, row: Design) -> None:
    """What is dark on the screen is printed light, whole, under its name and date, with nothing to press."""
    dark = page.evaluate("() => getComputedStyle(document.body).color")
    page.emulate_media(media="print")
    expect(page.get_by_role("navigation", name="Stations")).to_be_hidden()
    expect(page.get_by_label("As-of date")).to_be_hidden()
    expect(page.get_by_role("heading", level=1)).to_contain_text(row.name)
    expect(page.get_by_test_id("as-of")).to_have_text(written(ON))
    # What is painted follows the medium with the next frame.
    page.wait_for_function("dark => getComputedStyle(document.body).color !== dark", arg=dark)
    assert page.evaluate(CUT_ON_PAPER) == []
    assert page.evaluate(SHORTENED_ON_PAPER) == []
    assert page.evaluate("() => document.documentElement.scrollWidth <= innerWidth + 1")
    page.emulate_media(media="screen")


WIDE_TEXT = """* { line-height: 1.5 !important; letter-spacing: 0.12em !important; word-spacing: 0.16em !important; }
p { margin-bottom: 2em !important; }"""
CUT = """() => [...document.querySelectorAll("main p, main li, main h2, main h3, aside p, footer p, button, label")]
  .filter((one) => {
    const look = getComputedStyle(one);
    const hides = /hidden|clip/.test(look.overflowY) && look.textOverflow !== "ellipsis" && look.webkitLineClamp === "none"
      && look.clipPath === "none";
    return one.offsetParent && hides && one.scrollHeight > one.clientHeight + 2 && one.clientHeight > 2;
  }).map((one) => one.outerHTML.slice(0, 200))"""


def with_wider_spacing_no_text_is_lost(page: Page) -> None:
    """1.4.12: lines 1.5 times the size apart, letters 0.12, words 0.16 of it. What is cut with an ellipsis says itself whole elsewhere."""
    page.evaluate(
        "(rules) => { const sheet = new CSSStyleSheet(); sheet.replaceSync(rules); document.adoptedStyleSheets = [...document.adoptedStyleSheets, sheet]; }",
        WIDE_TEXT,
    )
    assert page.evaluate("() => getComputedStyle(document.querySelector('main')).letterSpacing") != "normal"
    assert page.evaluate(CUT) == []


LABELS = """() => [...document.querySelectorAll('h1, h2, h3, a, button, label, th, [role=columnheader], [aria-label]')]
  .filter((one) => one.getBoundingClientRect().width > 1)
  .map((one) => (one.getAttribute('aria-label') ?? one.innerText ?? '').trim().replace(/\\s+/g, ' '))
  .filter((words) => words.length > 1 && words.length < 120)"""


def labels_are_words(page: Page, path: str) -> None:
    """No label is empty or a name of the code: an id with underscores, braces, what was not found.

    Those of all views stand in `.shelf/labels.txt`, to be read through.
    """
    labels = sorted(set(page.evaluate(LABELS)))
    assert len(labels) > 10
    assert [one for one in labels if re.search(r"undefined|\[object|NaN|[{}]|\w_\w", one)] == []
    folder = ROOT / ".shelf" / "labels"
    folder.mkdir(parents=True, exist_ok=True)
    own = folder / f"{path.strip('/').replace('/', '-')}.txt"
    own.write_text(f"{VIEWS[path]} ({path})\n{''.join(f'  {one}{chr(10)}' for one in labels)}")
    _all_in_one(folder)


def _all_in_one(folder: Path) -> None:
    aside = folder / f"all.{id(folder)}.aside"
    aside.write_text("".join(file.read_text() for file in sorted(folder.glob("*.txt"))))
    aside.rename(folder.with_suffix(".txt"))
