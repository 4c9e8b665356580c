"""Frames while ten thousand workloads scroll by in the real page, beside the frames of the same page at rest."""

from typing import Any

from playwright.sync_api import sync_playwright

from bench.edits import FLAGS, open_page, store_design
from launcher.system_packages import chromium_program

MANY = 10_000
FRAMES = 150
GAPS = """
([step, frames]) => new Promise((done) => {
  const grid = document.querySelector('[role=grid]');
  const gaps = [];
  let before = performance.now();
  const next = (now) => {
    gaps.push(now - before);
    before = now;
    grid.scrollTop += step;
    if (gaps.length < frames) requestAnimationFrame(next);
    else done(gaps.slice(5));
  };
  requestAnimationFrame(next);
})
"""


def scrolling(address: str) -> dict[str, float]:
    """Milliseconds from frame to frame: median and 95th percentile while scrolling, and their ratios to those at rest."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=chromium_program(as_people_have_it=True), args=FLAGS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        open_page(page, address, "workloads")
        page.set_default_timeout(60_000)
        page.goto(f"{address}designs/{store_design(page, address, _document())}/workloads")
        page.locator('[data-workload="w0"]').wait_for()
        page.locator('aside [data-figure="points"]').first.wait_for()
        page.wait_for_load_state("networkidle")
        rest = sorted(page.evaluate(GAPS, [0, FRAMES]))
        scrolled = sorted(page.evaluate(GAPS, [280, FRAMES]))
        browser.close()
    late = round(0.95 * (len(rest) - 1))
    return {
        "frame while 10,000 rows scroll, ten rows a frame (ms, median)": scrolled[len(scrolled) // 2],
        "frame while 10,000 rows scroll (ms, 95th percentile)": scrolled[late],
        "frame while scrolling / frame at rest (95th percentiles)": scrolled[late] / rest[late],
    }


def _document() -> dict[str, Any]:
    workload = {"site": "here", "size": "40 GB", "daily_change_percent": 2, "tags": ["all"]}
    return {
        "format": "rested-shelf-design",
        "version": 1,
        "name": "Ten thousand",
        "timezone": "UTC",
        "starts": "2027-01-01",
        "years": 3,
        "sites": [{"id": "here"}],
        "targets": [{"id": "disk", "media": "disk", "site": "here", "capacity": "9 PB"}],
        "workloads": [{"id": f"w{at}", "name": f"Machine {at:05}", **workload} for at in range(MANY)],
        "cadences": [
            {"id": "night", "runs": [{"id": "full", "kind": "full", "rrule": "FREQ=WEEKLY;BYDAY=SA", "at": ["22:00"]}]}
        ],
        "ladders": [{"id": "rule", "recent": [{"keep": {"points": 8}}]}],
        "routes": [
            {
                "id": "all",
                "workloads": {"tags": ["all"]},
                "copies": [{"id": "house", "target": "disk", "cadence": "night", "ladder": "rule"}],
            }
        ],
    }
