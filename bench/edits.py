"""From the input event to the painted digits: 50 edits of a ladder in the real page, through the API and the whole engine."""

import json
from typing import Any

from playwright.sync_api import Page, sync_playwright

from launcher.system_packages import chromium_program

EDITS = 50
VALUES = [20 + (37 * at) % 83 for at in range(EDITS)]
"""So many newest points: each edit is far enough from the one before to change some digit."""
PAUSE_MILLISECONDS = 400
"""Between edits, as somebody pauses who looks at what an edit did; what follows an edit is done by then."""
FLAGS = ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking"]

EDIT_AND_WAIT = """
([edit, value, label, shown]) => new Promise((resolve, reject) => {
  const panel = document.querySelector('aside[aria-label="Consequences"]');
  const digits = () => [...panel.querySelectorAll(shown)].map((one) => one.textContent).join();
  const before = digits();
  const began = performance.now();
  const observer = new MutationObserver(() => {
    if (digits() === before) return;
    observer.disconnect();
    // The second frame begins once the first one, with the new digits, has been painted.
    requestAnimationFrame(() => requestAnimationFrame(() => resolve(performance.now() - began)));
  });
  observer.observe(panel, { subtree: true, childList: true, characterData: true });
  setTimeout(() => reject(new Error(`the figures did not change for ${value}`)), 5000);
  if (edit === 'type') {
    const field = document.querySelector(`[aria-label="${label}"]`);
    Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(field, String(value));
    field.dispatchEvent(new Event('input', { bubbles: true }));
  } else {
    const bar = document.querySelector(`[aria-label="${label}"]`);
    bar.dispatchEvent(new KeyboardEvent('keydown', { key: value, bubbles: true }));
  }
})
"""


def edits_in_the_page(address: str) -> dict[str, float]:
    """Median and 95th percentile, in milliseconds, of edits that are tried while typing and of edits that are saved."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=chromium_program(as_people_have_it=True), args=FLAGS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        open_page(page, address, "rules/ladders/house")
        page.get_by_label("Number of recent").wait_for()
        page.wait_for_timeout(1500)
        tried = [_edit(page, "type", value, "Number of recent") for value in VALUES]
        page.reload()
        page.wait_for_selector('aside [data-target="fern-disk"]')
        keys = ["PageUp" if at % 10 < 5 else "PageDown" for at in range(EDITS)]
        saved = [_edit(page, "key", key, "Reach of recent") for key in keys]
        page.goto(address + "rules/ladders/tape-years")
        page.wait_for_selector("aside [data-duty]")
        turns = ["PageDown" if at % 2 == 0 else "PageUp" for at in range(EDITS)]
        duties = [_edit(page, "key", key, "Reach of yearly", "[data-duty]") for key in turns]
        browser.close()
    return {
        **_summary("number typed, tried through the whole engine, to painted digits", tried),
        **_summary("key on a bar, saved, to painted digits", saved),
        **_summary("key on a bar, saved, to painted duties", duties),
    }


def open_page(page: Page, address: str, path: str) -> None:
    """Sign in as the demo account and go to a page of its design."""
    page.goto(address)
    page.get_by_label("Name").fill("mara")
    page.get_by_label("Password").fill("lindmoor-demo")
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("navigation", name="Stations").wait_for()
    page.goto(address + path)


def _edit(page: Page, edit: str, value: int | str, label: str, shown: str = "[data-target]") -> float:
    """One edit: a number typed, which is tried at once, or a key on a bar, which is saved; until what is shown changes."""
    page.wait_for_timeout(PAUSE_MILLISECONDS)
    took: float = page.evaluate(EDIT_AND_WAIT, [edit, value, label, shown])
    return took


def _summary(name: str, milliseconds: list[float]) -> dict[str, float]:
    ordered = sorted(milliseconds)
    place = round(0.95 * (len(ordered) - 1))
    return {f"{name} (ms, median of {EDITS})": ordered[len(ordered) // 2], f"{name} (ms, 95th percentile)": ordered[place]}


def store_design(page: Page, address: str, document: dict[str, Any]) -> int:
    """Store a design through the API as the person who is signed in; its id."""
    token = next(one["value"] for one in page.context.cookies() if one.get("name") == "csrftoken")
    answer = page.request.post(
        f"{address}api/designs",
        data=json.dumps(document),
        headers={"X-CSRFToken": token, "Content-Type": "application/json"},
    )
    return int(answer.json()["id"])
