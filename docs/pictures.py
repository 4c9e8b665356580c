"""Takes the pictures of docs/screenshots from the demo as it ships: `./shelf pictures`."""

import json
import re
import sys
from pathlib import Path

from playwright.sync_api import Browser, Page, sync_playwright

from launcher.system_packages import chromium_program

FOLDER = Path(__file__).resolve().parent / "screenshots"
DEMO = FOLDER.parent.parent / "demo" / "lindmoor.json"
FLAGS = ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking"]
VIEWS = [
    ("workloads", "/workloads", "light"),
    ("targets", "/targets/moss-pool", "light"),
    ("ladder", "/rules/ladders/house", "light"),
    ("cadence", "/rules/cadences/database", "light"),
    ("routes", "/routes/records/house", "light"),
    ("forecast-dark", "/forecast/target/north-bucket", "dark"),
    ("one-target", "/forecast/target/moss-pool", "light"),
    ("cost", "/forecast/cost", "light"),
]


def main(address: str) -> int:
    """Take every picture at 1280 x 800."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=chromium_program(as_people_have_it=True), args=FLAGS)
        for name, path, scheme in VIEWS:
            page = _signed_in(browser, address, scheme)
            page.goto(address.rstrip("/") + path)
            page.wait_for_timeout(2000)
            page.get_by_text("Forecasting every target…").wait_for(state="hidden")
            if page.locator("aside [data-figure=cost]").count():
                page.locator("aside [data-figure=cost]").filter(has_text=re.compile(r"\d")).first.wait_for()
            page.screenshot(path=FOLDER / f"{name}.png")
        _told_apart(browser, address)
        _points(browser, address)
        _rules_taken_away(browser, address)
        _drawn(browser, address)
        _nights(browser, address)
        _proof(browser, address)
        _tried(browser, address)
        _brought_in(browser, address)
        _beside(browser, address)
        browser.close()
    return 0


def _page(browser: Browser, address: str, scheme: str) -> Page:
    page = browser.new_context(viewport={"width": 1280, "height": 800}, color_scheme=scheme).new_page()  # type: ignore[arg-type]
    page.goto(address)
    page.get_by_label("Name").wait_for()
    return page


def _signed_in(browser: Browser, address: str, scheme: str) -> Page:
    page = _page(browser, address, scheme)
    page.get_by_label("Name").fill("mara")
    page.get_by_label("Password").fill("lindmoor-demo")
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("navigation", name="Stations").wait_for()
    return page


def _told_apart(browser: Browser, address: str) -> None:
    """A target told apart by workload, above the same in figures."""
    page = _signed_in(browser, address, "light")
    page.goto(f"{address.rstrip('/')}/forecast/target/moss-pool")
    for label, words in [("Told apart by", "by workload"), ("What stands below", "the chart in figures")]:
        page.get_by_label(label).click()
        page.get_by_role("option", name=words).click()
    page.wait_for_timeout(1500)
    page.screenshot(path=FOLDER / "told-apart.png")


def _points(browser: Browser, address: str) -> None:
    """The list of points with the whole page for it."""
    page = _signed_in(browser, address, "light")
    page.goto(f"{address.rstrip('/')}/forecast/target/north-bucket")
    page.get_by_label("What stands below").click()
    page.get_by_role("option", name="the list of its points").click()
    page.get_by_role("button", name="The whole page for this").click()
    page.get_by_label("Taken from").fill("2028-09-20")
    page.get_by_label("Taken from").press("Enter")
    page.wait_for_timeout(1500)
    page.screenshot(path=FOLDER / "points.png")


def _rules_taken_away(browser: Browser, address: str) -> None:
    """What each rule is worth on a target, below its bytes by why they are there."""
    page = _signed_in(browser, address, "light")
    page.goto(f"{address.rstrip('/')}/forecast/target/fern-disk")
    for label, words in [("Told apart by", "by why they are there"), ("What stands below", "what each rule is worth")]:
        page.get_by_label(label).click()
        page.get_by_role("option", name=words).click()
    page.get_by_role("table", name="What each rule is worth").wait_for()
    page.wait_for_timeout(1500)
    page.screenshot(path=FOLDER / "rules-worth.png")


def _drawn(browser: Browser, address: str) -> None:
    """What is not known, and what a thousand draws of it come to; then all targets with their bands."""
    page = _signed_in(browser, address, "light")
    page.goto(f"{address.rstrip('/')}/forecast/unknown")
    page.get_by_role("button", name="Draw 1\u2009000 times").click()
    page.get_by_role("table", name="What the draws come to").wait_for(timeout=60_000)
    page.wait_for_timeout(800)
    page.screenshot(path=FOLDER / "unknown.png")
    page.get_by_role("navigation", name="Views of the forecast").get_by_role("link", name="All targets").click()
    page.wait_for_timeout(1500)
    page.screenshot(path=FOLDER / "forecast.png")


def _nights(browser: Browser, address: str) -> None:
    """The night of the as-of date on a clock, above all nights."""
    page = _signed_in(browser, address, "light")
    page.goto(f"{address.rstrip('/')}/forecast/nights")
    page.get_by_role("button", name="Follow all nights").click()
    page.get_by_text("The first night on which something is late").wait_for(timeout=240_000)
    page.get_by_role("heading", name="The night of").wait_for(timeout=60_000)
    page.wait_for_timeout(2500)
    page.screenshot(path=FOLDER / "nights.png")


def _proof(browser: Browser, address: str) -> None:
    """Duties on a sheet of years, and a fire with what it leaves; nights have been followed by then."""
    page = _signed_in(browser, address, "light")
    page.goto(f"{address.rstrip('/')}/proof")
    page.locator("[data-verdict=fails]").first.wait_for(timeout=300_000)
    page.wait_for_timeout(800)
    page.screenshot(path=FOLDER / "duties.png")
    page.goto(f"{address.rstrip('/')}/proof/losses")
    page.get_by_role("table", name="What is left").wait_for(timeout=120_000)
    page.wait_for_timeout(800)
    page.screenshot(path=FOLDER / "losses.png")


def _tried(browser: Browser, address: str) -> None:
    """A ladder under the hand: the change since the reference beside each target. Taken last, and not saved."""
    page = _signed_in(browser, address, "light")
    page.goto(f"{address.rstrip('/')}/rules/ladders/pooled")
    page.get_by_label("Number of monthly").fill("36")
    page.get_by_text("Tried, not yet saved").wait_for()
    page.wait_for_timeout(1500)
    page.screenshot(path=FOLDER / "ladder-tried.png")


def _brought_in(browser: Browser, address: str) -> None:
    """A changed document before it becomes anything."""
    document = json.loads(DEMO.read_text())
    document["ladders"][0]["recent"] = [{"keep": {"points": 30}}]
    page = _signed_in(browser, address, "light")
    page.get_by_role("button", name="Design Lindmoor").click()
    page.get_by_role("button", name="Import a document").click()
    page.get_by_label("Paste a document here").fill(json.dumps(document))
    page.get_by_test_id("document-read").wait_for()
    page.wait_for_timeout(500)
    page.screenshot(path=FOLDER / "bring-in.png")


def _beside(browser: Browser, address: str) -> None:
    """A variant beside the design that it was branched from. It is dropped again."""
    page = _signed_in(browser, address, "light")
    page.get_by_role("button", name="Design Lindmoor").click()
    page.get_by_role("button", name="Branch a variant").click()
    page.get_by_role("dialog").get_by_label("Name").fill("Fewer weeks")
    page.get_by_role("dialog").get_by_label("Name").press("Enter")
    page.get_by_role("button", name="variant Fewer weeks").wait_for()
    design = page.url.split("/designs/")[1].split("/")[0]
    page.goto(f"{address.rstrip('/')}/designs/{design}/rules/ladders/house")
    field = page.get_by_label("Number of weekly")
    field.fill("3")
    field.press("Enter")
    page.get_by_text("Saved: weekly set to 3").wait_for()
    page.goto(f"{address.rstrip('/')}/designs/{design}/forecast/beside")
    page.get_by_role("region", name="Targets of both").wait_for()
    page.wait_for_timeout(1000)
    page.screenshot(path=FOLDER / "beside.png")
    page.get_by_role("button", name="variant Fewer weeks").click()
    page.get_by_role("button", name="Remove the variant").click()
    page.get_by_role("dialog").get_by_role("button", name="Remove it").click()
    page.get_by_role("button", name="variant As it stands").wait_for()


if __name__ == "__main__":
    sys.exit(main(sys.argv[1]))
