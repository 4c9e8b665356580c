"""Access to all of it: every dialog in both themes before axe, keys alone, what is said aloud.

WCAG 2.2, levels A and AA; docs/access.md goes through every criterion and says how each was checked.
"""

import re

from playwright.sync_api import Page, expect

from shelf_core.design.glossary import GLOSSARY
from shelf_server.designs.models import Design
from shelf_server.designs.rows.reading import load_design
from tests.browser.access import no_violations
from tests.browser.conftest import Opener
from tests.browser.test_designs import last_edit

DIALOG, MENU = "[role=dialog]", "[role=menu], [role=presentation].MuiPopover-root"


def in_both_themes(page: Page, what: str) -> None:
    """What has come up, light and dark."""
    page.locator(what).first.wait_for()
    no_violations(page, what)
    switch = page.get_by_role("button", name="Light or dark", include_hidden=True)
    switch.dispatch_event("click")
    no_violations(page, what, of_colours=True)
    switch.dispatch_event("click")


def test_axe_finds_nothing_on_any_dialog(page_of: Opener, row: Design) -> None:
    page = page_of("/workloads")
    page.get_by_role("gridcell", name="21 TB", exact=True).click()
    for button in ("Show details", "Measure a workload", "Import a table", "Keys", "Find (Ctrl K)"):
        page.get_by_role("button", name=button, exact=True).click()
        in_both_themes(page, DIALOG)
        page.keyboard.press("Escape")
        expect(page.locator(DIALOG)).to_have_count(0)
    page.get_by_role("button", name="Columns", exact=True).click()
    in_both_themes(page, MENU)
    page.keyboard.press("Escape")
    for entry in ("History", "Settings", "Tokens for scripts", "Import a document", "New design"):
        page.get_by_role("button", name=re.compile("^Design Lindmoor")).click()
        if entry == "History":
            no_violations(page)
        page.get_by_role("button", name=entry, exact=True).click()
        in_both_themes(page, DIALOG)
        page.keyboard.press("Escape")
        expect(page.locator(DIALOG)).to_have_count(0)
    page.get_by_role("link", name="Rules").click()
    for path, button in (("ladders", "Add a ladder"), ("cadences", "Add a cadence")):
        page.goto(f"{page_of.address}/designs/{row.pk}/rules/{path}")
        page.get_by_role("button", name=button).click()
        in_both_themes(page, DIALOG)
        page.keyboard.press("Escape")


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
    tab_to(page, "Download")
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
