"""Access to all of it: every view and dialog in both themes before axe, titles, reflow, keys alone, what is said aloud.

WCAG 2.2, levels A and AA; docs/access.md goes through every criterion and says how each was checked.
"""

import re

import pytest
from playwright.sync_api import Page, expect

from shelf_core.design.glossary import GLOSSARY
from shelf_server.designs.models import Design
from shelf_server.designs.rows.reading import load_design
from tests.browser.access import no_violations
from tests.browser.conftest import Opener
from tests.browser.test_designs import last_edit
from tests.designs import ROOT

VIEWS = {
    "/workloads": "Workloads",
    "/targets/fern-disk": "Targets",
    "/rules/ladders/house": "Ladders, Rules",
    "/rules/cadences": "Cadences, Rules",
    "/rules/holds": "Holds, Rules",
    "/routes/collections/house": "Routes",
    "/forecast": "All targets, Forecast",
    "/forecast/target/fern-disk": "One target, Forecast",
    "/forecast/points": "Points, Forecast",
    "/forecast/cost": "Cost, Forecast",
    "/forecast/nights": "Nights, Forecast",
    "/forecast/unknown": "What is not known, Forecast",
    "/proof": "Duties, Proof",
    "/proof/losses": "Losses, Proof",
    "/proof/plans": "Plans of recovery, Proof",
}
MODES = ["light", "dark"]


def at_rest(page: Page, title: str) -> None:
    expect(page).to_have_title(f"{title} - Lindmoor Botanic Trust - Rested Shelf")
    expect(page.locator("main").locator("h2, h3, table, [role=grid], [role=slider], button").first).to_be_visible()


@pytest.mark.parametrize("mode", MODES)
def test_axe_finds_nothing_on_any_view(page_of: Opener, row: Design, mode: str) -> None:
    page_of.expected_refusals = {422}
    page_of.page.add_init_script(f"localStorage.setItem('rested-shelf-mode', '{mode}')")
    page = page_of("/workloads")
    for path, title in VIEWS.items():
        page.goto(f"{page_of.address}/designs/{row.pk}{path}")
        at_rest(page, title)
        no_violations(page)


@pytest.mark.parametrize("mode", MODES)
def test_axe_finds_nothing_on_any_dialog(page_of: Opener, row: Design, mode: str) -> None:
    page_of.page.add_init_script(f"localStorage.setItem('rested-shelf-mode', '{mode}')")
    page = page_of("/workloads")
    page.get_by_role("gridcell", name="21 TB", exact=True).click()
    for button in ("Show details", "Measure a workload", "Import a table", "Keys", "Find (Ctrl K)", "Columns"):
        page.get_by_role("button", name=button, exact=True).click()
        no_violations(page)
        page.keyboard.press("Escape")
    for entry in ("History", "Settings", "Tokens for scripts", "Bring a document in", "New design"):
        page.get_by_role("button", name=re.compile("^Design Lindmoor")).click()
        no_violations(page)
        page.get_by_role("button", name=entry, exact=True).click()
        no_violations(page)
        page.keyboard.press("Escape")
    page.get_by_role("link", name="Rules").click()
    for path, button in (("ladders", "Add a ladder"), ("cadences", "Add a cadence")):
        page.goto(f"{page_of.address}/designs/{row.pk}/rules/{path}")
        page.get_by_role("button", name=button).click()
        no_violations(page)
        page.keyboard.press("Escape")


@pytest.mark.parametrize("size", [(320, 256), (640, 400)], ids=["four times (1.4.10)", "twice (1.4.4)"])
def test_larger_nothing_has_to_be_scrolled_across(page_of: Opener, row: Design, size: tuple[int, int]) -> None:
    """At so many times the size of a window of 1280 pixels; tables and drawings scroll by themselves."""
    page_of.expected_refusals = {422}
    page = page_of("/workloads")
    page.set_viewport_size({"width": size[0], "height": size[1]})
    for path, title in VIEWS.items():
        page.goto(f"{page_of.address}/designs/{row.pk}{path}")
        at_rest(page, title)
        page.wait_for_function("() => document.documentElement.scrollWidth <= document.documentElement.clientWidth")


WIDE_TEXT = """* { line-height: 1.5 !important; letter-spacing: 0.12em !important; word-spacing: 0.16em !important; }
p { margin-bottom: 2em !important; }"""
CUT = """() => [...document.querySelectorAll("main p, main li, main h2, main h3, aside p, footer p, button, label")]
  .filter((one) => {
    const look = getComputedStyle(one);
    const hides = /hidden|clip/.test(look.overflowY) && look.textOverflow !== "ellipsis" && look.webkitLineClamp === "none"
      && look.clipPath === "none";
    return one.offsetParent && hides && one.scrollHeight > one.clientHeight + 2 && one.clientHeight > 2;
  }).map((one) => one.outerHTML.slice(0, 200))"""


def test_with_wider_spacing_no_text_is_lost(page_of: Opener, row: Design) -> None:
    """1.4.12: lines 1.5 times the size apart, letters 0.12, words 0.16 of it. What is cut with an ellipsis says itself whole elsewhere."""
    page = page_of("/workloads")
    for path, title in VIEWS.items():
        page.goto(f"{page_of.address}/designs/{row.pk}{path}")
        at_rest(page, title)
        page.evaluate(
            "(rules) => { const sheet = new CSSStyleSheet(); sheet.replaceSync(rules); document.adoptedStyleSheets = [...document.adoptedStyleSheets, sheet]; }",
            WIDE_TEXT,
        )
        assert page.evaluate("() => getComputedStyle(document.querySelector('main')).letterSpacing") != "normal"
        assert page.evaluate(CUT) == [], path


def tab_to(page: Page, name: str, most: int = 400) -> None:
    """Go on by Tab until what has this name has the focus; on the way the focus is always seen and never on the whole page."""
    for _ in range(most):
        page.keyboard.press("Tab")
        now = page.evaluate(
            """() => {
              const at = document.activeElement;
              const label = at.getAttribute('aria-label') ?? at.innerText ?? '';
              return { label: label.trim(), isBody: at === document.body };
            }"""
        )
        if now["label"] == name:
            return
    raise AssertionError(f"{name} is not reached by Tab")


def test_the_whole_job_is_done_by_keys_alone(page_of: Opener, row: Design) -> None:
    """A size, a rule, a duty that answers, a report, and back: no pointer is touched."""
    page = page_of("/workloads")
    tab_to(page, "Workloads")  # the station, then on into its grid
    page.get_by_role("grid", name="Workloads").wait_for()
    for _ in range(60):
        page.keyboard.press("Tab")
        if page.evaluate("document.activeElement.getAttribute('role')") == "grid":
            break
    page.keyboard.press("ArrowRight")
    page.keyboard.press("ArrowRight")
    page.keyboard.type("22 TB", delay=20)
    page.keyboard.press("Enter")
    last_edit(page, "Saved: Herbarium scans: Size 22 TB")
    expect(page.get_by_role("status", name="What the edit did")).to_contain_text("Fern disk")
    page.keyboard.press("Control+k")
    page.keyboard.type("Tape, seven", delay=20)
    page.keyboard.press("Enter")
    expect(page).to_have_title(re.compile("^Ladders, Rules"))
    tab_to(page, "Reach of yearly")
    page.keyboard.press("PageUp")
    expect(page.get_by_label("Last edit")).to_contain_text("Saved: ")
    page.keyboard.press("Control+z")
    expect(page.get_by_label("Last edit")).to_contain_text(re.compile("^Saved: (Undone|.*)"))
    tab_to(page, "Forecast")
    page.keyboard.press("Enter")
    expect(page).to_have_title(re.compile("^All targets, Forecast"))
    tab_to(page, "Take it away")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="The report to read on a screen")).to_be_visible()
    page.keyboard.press("Escape")
    assert page.evaluate("document.activeElement !== document.body")
    assert load_design(row).workloads[0].size == "22 TB"


def test_a_focus_that_is_taken_out_goes_on_in_the_station(page_of: Opener, row: Design) -> None:
    page = page_of("/rules/holds")
    page.keyboard.press("Tab")
    page.get_by_role("button", name="Add a hold").focus()
    page.keyboard.press("Enter")
    last_edit(page, re.compile("^Saved: "))
    page.get_by_role("button", name=re.compile("^Remove hold|Release|^Remove")).first.focus()
    page.keyboard.press("Enter")
    expect(page.get_by_label("Last edit")).not_to_have_text("Saved: a hold")
    page.wait_for_function("document.activeElement !== document.body")


def test_our_words_say_what_they_mean_on_focus(page_of: Opener, row: Design) -> None:
    page = page_of("/routes")
    tab_to(page, "Routes")  # the link of the station, then the word of its heading
    page.locator("h2 span[tabindex='0']").focus()
    expect(page.get_by_role("tooltip")).to_have_text(f"route: {GLOSSARY['route']}")
    page.keyboard.press("Escape")
    expect(page.get_by_role("tooltip")).to_have_count(0)


def test_what_moves_by_itself_stays_still_for_who_asks_for_it(page_of: Opener, row: Design) -> None:
    page_of.page.emulate_media(reduced_motion="reduce")
    page = page_of("/workloads")
    page.get_by_role("button", name="Columns").click()
    page.get_by_role("menu", name="Columns in sight").wait_for()
    assert page.evaluate("document.getAnimations().filter((one) => one.effect.getTiming().duration > 1).length") == 0


LABELS = """() => [...document.querySelectorAll('h1, h2, h3, a, button, label, th, [role=columnheader], [aria-label]')]
  .filter((one) => one.getBoundingClientRect().width > 1)
  .map((one) => (one.getAttribute('aria-label') ?? one.innerText ?? '').trim().replace(/\\s+/g, ' '))
  .filter((words) => words.length > 1 && words.length < 120)"""


def test_the_labels_of_all_views_stand_in_one_file_to_be_read_through(page_of: Opener, row: Design) -> None:
    """`.shelf/labels.txt`. No label is empty or a name of the code: an id with underscores, braces, what was not found."""
    page_of.expected_refusals = {422}
    page = page_of("/workloads")
    found: dict[str, list[str]] = {}
    for path, title in VIEWS.items():
        page.goto(f"{page_of.address}/designs/{row.pk}{path}")
        at_rest(page, title)
        found[title] = sorted(set(page.evaluate(LABELS)))
        assert len(found[title]) > 10
    text = "".join(f"{title}\n{''.join(f'  {one}{chr(10)}' for one in labels)}" for title, labels in found.items())
    (ROOT / ".shelf" / "labels.txt").write_text(text)
    odd = [one for labels in found.values() for one in labels if re.search(r"undefined|\[object|NaN|[{}]|\w_\w", one)]
    assert odd == []
