"""What is not the usual: a viewer, an empty design, a server that fails, answers that come out of order."""

import json
from typing import Any

from django.contrib.auth import get_user_model
from playwright.sync_api import Page, Route, expect

from shelf_core.design.reading import read_design
from shelf_core.forecast.consequences import consequences
from shelf_server.designs.actions import create_design
from shelf_server.designs.models import Design, Membership
from tests.browser.conftest import ON, Opener, expected, sign_in
from tests.browser.figures import count_text, figure


def test_viewer_sees_everything_and_edits_nothing(row: Design, live_server: Any, page: Page) -> None:
    user = get_user_model().objects.create_user("vera", password="a-dull-password")
    Membership.objects.create(design=row, user=user, role="viewer")
    sign_in(page, live_server.url, "vera", "a-dull-password")
    page.goto(f"{live_server.url}/rules/ladders/house")
    expect(page.get_by_label("Number of recent")).to_be_disabled()
    expect(page.get_by_role("button", name="Add a rung")).to_have_count(0)
    expect(page.get_by_role("slider", name="Reach of weekly")).to_have_count(0)
    first = consequences(expected(row), ON)[0]
    expect(figure(page, first.target, "points")).to_have_text(count_text(first.points))
    page.goto(f"{live_server.url}/workloads")
    page.get_by_role("gridcell", name="21 TB", exact=True).dblclick()
    expect(page.locator(".cell-editor")).to_have_count(0)


def test_person_without_a_design_is_told_so(row: Design, live_server: Any, page: Page) -> None:
    get_user_model().objects.create_user("nora", password="a-dull-password")
    page.set_default_timeout(60_000)
    page.goto(live_server.url)
    page.get_by_label("Name").fill("nora")
    page.get_by_label("Password").fill("a-dull-password")
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_text("No design belongs to you yet")).to_be_visible()


def test_empty_design_says_what_is_missing(transactional_db: None, live_server: Any, page: Page) -> None:
    user = get_user_model().objects.create_user("olga", password="a-dull-password")
    empty = {
        "format": "rested-shelf-design",
        "version": 2,
        "name": "Empty",
        "timezone": "UTC",
        "starts": "2027-01-01",
        "years": 3,
    }
    create_design(user, read_design(json.dumps(empty)))
    sign_in(page, live_server.url, "olga", "a-dull-password")
    for path, words in [
        ("/workloads", "A workload needs a site"),
        ("/targets", "No site yet"),
        ("/routes", "No route yet"),
        ("/rules/ladders", "No ladder yet"),
        ("/rules/cadences", "No cadence yet"),
        ("/forecast", "No target yet"),
    ]:
        page.goto(live_server.url + path)
        expect(page.get_by_text(words)).to_be_visible()


def test_failing_server_is_said_and_the_design_stays(page_of: Opener, row: Design) -> None:
    page = page_of("/rules/ladders/house")
    page_of.expected_refusals = {500}
    page.get_by_label("Number of recent").wait_for()
    page.route("**/edits", lambda route: route.fulfill(status=500, body="{}", content_type="application/json"))
    page.get_by_role("slider", name="Reach of weekly").press("ArrowLeft")
    expect(page.get_by_label("Last edit")).to_have_text("Not saved: The server failed to answer")
    expect(page.get_by_label("Number of weekly")).to_have_value("6")


def test_older_answer_never_replaces_a_newer_one(page_of: Opener, row: Design) -> None:
    """The first of two trials is held back on its way until the second could long have been answered."""
    page = page_of("/rules/ladders/house")
    field = page.get_by_label("Number of recent")
    field.wait_for()
    held: list[Route] = []

    def hold_the_first(route: Route) -> None:
        if held:
            route.continue_()
        else:
            held.append(route)

    page.route("**/trial", hold_the_first)
    field.fill("200")
    page.wait_for_timeout(300)
    field.fill("20")
    page.wait_for_timeout(300)
    held[0].continue_()
    field.press("Enter")
    expect(page.get_by_label("Last edit")).to_have_text("Saved: recent set to 20")
    for one in consequences(expected(row), ON):
        expect(figure(page, one.target, "points")).to_have_text(count_text(one.points))
