"""Ten thousand workloads: the grid draws what is in sight alone, and bulk edits and pasted blocks are one edit each."""

import json
from typing import Any

import pytest
from django.contrib.auth import get_user_model
from playwright.sync_api import Page, expect

from shelf_core.design.reading import read_design
from shelf_core.forecast.consequences import consequences
from shelf_server.designs.actions import create_design
from shelf_server.designs.models import Design
from shelf_server.designs.rows.reading import load_design
from tests.browser.conftest import expected, sign_in
from tests.browser.figures import bytes_text, figure
from tests.designs import NEWEST_14, WEEKLY_FULL, design

MANY = 10_000
ON = "2027-12-31"
MOST_DRAWN = 80
PATIENCE = 60_000


def many() -> dict[str, Any]:
    document = design(WEEKLY_FULL, NEWEST_14)
    document["sites"].append({"id": "north", "name": "North"})
    document["workloads"] = [
        {
            "id": f"w{at}",
            "name": f"Machine {at:05}",
            "site": "here",
            "size": f"{20 + at % 90} GB",
            "daily_change_percent": 1 + at % 4,
            "tags": ["all", f"row-{at % 50}"],
        }
        for at in range(MANY)
    ]
    document["routes"][0]["workloads"] = {"tags": ["all"]}
    return document


@pytest.fixture
def large(transactional_db: None, settings: Any) -> Design:
    settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
    user = get_user_model().objects.create_user("mara", password="lindmoor-demo")
    return create_design(user, read_design(json.dumps(many())))


def follows(page: Page, row: Design) -> None:
    (one,) = consequences(expected(row), ON)
    expect(figure(page, one.target, "stored")).to_have_text(bytes_text(one.stored_bytes), timeout=PATIENCE)


def test_ten_thousand_rows_are_filtered_edited_and_pasted(large: Design, live_server: Any, page: Page) -> None:
    sign_in(page, live_server.url, timeout=PATIENCE)
    page.goto(f"{live_server.url}/designs/{large.pk}/workloads")
    expect(page.get_by_role("grid", name="Workloads")).to_have_attribute("aria-rowcount", str(MANY + 1))
    follows(page, large)
    grid = page.get_by_role("grid", name="Workloads")
    grid.evaluate("(grid) => { grid.scrollTop = 28 * 6000; }")
    expect(page.locator('[data-workload="w6005"]')).to_be_visible()
    assert page.locator("[data-workload]").count() < MOST_DRAWN  # how long frames take is measured by ./shelf bench

    page.get_by_label("Names and tags with").fill("row-7")
    expect(page.get_by_test_id("shown")).to_have_text("200 of 10\u202f000")
    page.get_by_role("checkbox", name="Choose all that are shown").click(force=True)
    bar = page.get_by_role("toolbar", name="Chosen workloads")
    expect(bar).to_contain_text("200 workloads chosen")
    page.get_by_label("What to set").click()
    page.get_by_role("option", name="Set growth %/yr to").click()
    page.get_by_label("Value for all chosen").fill("25")
    bar.get_by_role("button", name="Set for all").click()
    expect(page.get_by_label("Last edit")).to_have_text("Saved: Set growth %/yr to 25 for 200 workloads", timeout=PATIENCE)
    grown = [one for one in load_design(large).workloads if one.annual_growth_percent == 25]
    assert len(grown) == 200
    assert all("row-7" in one.tags for one in grown)
    follows(page, large)

    page.get_by_label("Names and tags with").fill("")
    page.get_by_role("grid", name="Workloads").evaluate("(grid) => { grid.scrollTop = 0; }")
    page.locator('[data-workload="w0"]').get_by_role("gridcell", name="20 GB").click()
    block = "\n".join(f"{at + 1} TB\t2" for at in range(500))
    paste(page, block)
    expect(page.get_by_label("Last edit")).to_have_text("Saved: pasted 500 rows", timeout=PATIENCE)
    pasted = load_design(large).workloads[:501]
    assert [(one.size, one.count) for one in (pasted[0], pasted[499])] == [("1 TB", 2), ("500 TB", 2)]
    assert (pasted[500].size, pasted[500].count) == ("70 GB", 1)
    follows(page, large)
    page.locator("body").press("Control+z")
    expect(page.get_by_label("Last edit")).to_have_text("Undone: pasted 500 rows", timeout=PATIENCE)
    assert load_design(large).workloads[499].size == "69 GB"
    page.wait_for_load_state("networkidle")


def test_a_block_with_a_fault_pastes_nothing(large: Design, live_server: Any, page: Page) -> None:
    sign_in(page, live_server.url, timeout=PATIENCE)
    page.goto(f"{live_server.url}/designs/{large.pk}/workloads")
    page.locator('[data-workload="w0"]').get_by_role("gridcell", name="20 GB").click()
    paste(page, "1 TB\nplenty\n3 TB")
    dialog = page.get_by_role("dialog", name="Nothing was pasted")
    expect(dialog).to_contain_text('Line 2, size: expected a size such as "12 TB"')
    assert load_design(large).workloads[0].size == "20 GB"
    dialog.get_by_role("checkbox").check()
    dialog.get_by_role("button", name="Paste the others").click()
    expect(page.get_by_label("Last edit")).to_have_text("Saved: pasted 2 rows", timeout=PATIENCE)
    # Each row goes to the workload that it stood beside, though one between was left out.
    assert [one.size for one in load_design(large).workloads[:3]] == ["1 TB", "21 GB", "3 TB"]
    page.wait_for_load_state("networkidle")


def paste(page: Page, text: str) -> None:
    page.evaluate(
        """(text) => {
          const data = new DataTransfer();
          data.setData('text/plain', text);
          const event = new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true });
          document.querySelector('[role=grid]').dispatchEvent(event);
        }""",
        text,
    )
