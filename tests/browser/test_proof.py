"""The station of proof, as a new user meets it: a duty from a ready-made one, seen to fail, mended and undone; a site that is
lost on a date, and everything brought back."""

import re
import xml.etree.ElementTree as ET
from typing import Any

import pytest
from django.contrib.auth import get_user_model
from playwright.sync_api import Page, expect

from shelf_core.design.editing import Change
from shelf_core.design.reading import design_of
from shelf_core.design.standing import Duty
from shelf_core.proof.loss_findings import all_findings
from shelf_server.designs.actions import create_design, edit
from shelf_server.designs.changing import Wanted
from shelf_server.designs.models import Design
from shelf_server.designs.rows.reading import load_design
from shelf_server.jobs import computing
from shelf_server.jobs.models import Job
from tests.browser.access import no_violations
from tests.browser.conftest import ON, Opener, expected
from tests.browser.saving import saved_as
from tests.core.test_proof_facts import two_groups


def small(row: Design) -> Design:
    """Two workloads of 5 TB, the newest 20 points of each at a, a copy at b that keeps 40."""
    plain = two_groups(ladder={"recent": [{"keep": {"points": 20}}]})
    for workload, name in zip(plain["workloads"], ("Ledgers", "Letters"), strict=True):
        workload["name"] = name
    plain["sites"] = [{"id": "a", "name": "Alder"}, {"id": "b", "name": "Birch"}]
    plain["targets"].append({"id": "e", "name": "Birch disk", "media": "disk", "site": "b", "read_speed": "250 MB/s"})
    plain["ladders"].append({"id": "l", "name": "Away rule", "recent": [{"keep": {"points": 40}}]})
    plain["routes"][0]["copies"].append({"id": "two", "from": "one", "target": "e", "ladder": "l", "delay": "PT3H"})
    plain["recovery_plans"][0] |= {"name": "All at Birch", "place": "b"}
    return create_design(get_user_model().objects.get(username="mara"), design_of(plain))


def type_into(page: Page, label: str, text: str) -> None:
    field = page.get_by_label(label, exact=True)
    field.click()
    page.keyboard.press("Control+a")
    page.keyboard.type(text, delay=20)
    page.keyboard.press("Tab")


@pytest.mark.parametrize(
    ("kind", "address", "comes"),
    [
        ("duties", "/proof", re.compile("lines? fails?|Every duty holds")),
        ("rules", "/forecast/target/fern-disk?below=rules", re.compile("house|recent", re.IGNORECASE)),
        ("longer", "/forecast/cost?below=longer", re.compile("over all years")),
    ],
)
@pytest.mark.parametrize("state", ["stopped", "failed"])
def test_what_ended_without_a_result_is_asked_for_again(
    page_of: Opener, followed: None, row: Design, kind: str, address: str, comes: re.Pattern[str], state: str
) -> None:
    """As after somebody stopped it, or a server that went on for too long with it."""
    about: dict[str, Any] = {"design_state": row.state, "revision": row.revision, "asked": {"on": ON}}
    person = get_user_model().objects.get(username="mara")
    Job.objects.create(
        design=row,
        asked_by=person,
        kind=kind,
        document=b"",
        state=state,
        failure="" if state == "stopped" else "Too long.",
        **about,
    )
    page = page_of(address)
    expect(page.get_by_text("This was stopped" if state == "stopped" else "Too long.")).to_be_visible()
    no_violations(page)
    page.get_by_role("button", name="Ask again").click()
    expect(page.get_by_role("button", name="Ask again")).to_have_count(0)
    expect(page.get_by_role("main")).to_contain_text(comes)


def test_a_keep_that_could_not_be_found_is_asked_for_again(page_of: Opener, monkeypatch: pytest.MonkeyPatch) -> None:
    computes, failed = computing._compute, []

    def fails_once(job: Job, batch: int, batches: int) -> None:
        if job.kind == "keep" and not failed:
            failed.append(job.pk)
            raise ValueError("Too long.")
        computes(job, batch, batches)

    monkeypatch.setattr(computing, "_compute", fails_once)
    page = page_of("/forecast/target/fern-disk?below=longest")
    expect(page.get_by_text("Too long.")).to_be_visible()
    page.get_by_role("button", name="Ask again").click()
    expect(page.get_by_test_id("longest")).to_contain_text("Found by")


def test_a_duty_is_added_seen_to_fail_mended_and_undone(page_of: Opener, row: Design) -> None:
    design = small(row)
    page_of.expected_refusals = {422}
    page = page_of(f"/designs/{design.pk}/proof")
    expect(page.get_by_text("No duty yet")).to_be_visible()
    no_violations(page)
    page.get_by_role("button", name="Add a duty").click()
    expect(page.get_by_text("check the wording yourself")).to_be_visible()
    page.get_by_role("button", name=re.compile("^Card payments, audit logs for a year")).click()
    expect(page.get_by_text("No workload is named by a duty yet.")).to_be_visible()
    page.get_by_role("button", name="Remove ask 2 of Card payments").click()
    page.get_by_role("combobox", name=re.compile("^Workloads by name")).click()
    page.keyboard.type("Ledg", delay=20)
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    label = "ask 1 of Card payments, audit logs for a year"
    type_into(page, f"Reach of {label}", "soon")
    expect(page.get_by_role("alert")).to_contain_text("expected a time such as")
    type_into(page, f"Reach of {label}", "8 weeks")
    rows = page.locator("[data-verdict]")
    expect(rows).to_have_attribute("data-verdict", "fails")
    expect(rows).to_contain_text("let go by recent of Away rule")
    no_violations(page)
    page.get_by_role("button", name=re.compile("^What would mend it")).click()
    expect(page.get_by_text(re.compile("^Let Away rule keep the newest 52 points in place of 40."))).to_be_visible()
    page.get_by_role("button", name="Make this change").click()
    expect(page.get_by_text("Every duty holds on every day.")).to_be_visible()
    assert load_design(Design.objects.get(pk=design.pk)).ladders[1].recent[0].keep.points == 52  # type: ignore[union-attr]
    page.get_by_role("button", name=re.compile("^Undo")).click()
    expect(rows).to_have_attribute("data-verdict", "fails")
    assert load_design(Design.objects.get(pk=design.pk)).ladders[1].recent[0].keep.points == 40  # type: ignore[union-attr]


def test_an_edit_in_rules_says_which_duty_it_mends(page_of: Opener, row: Design) -> None:
    design = small(row)
    law = {"id": "law", "name": "Eight weeks", "workloads": {"ids": ["w"]}}
    duty = Duty.model_validate({**law, "asks": [{"history": "P8W", "every": "week", "counted": {"off_site": True}}]})
    edit(get_user_model().objects.get(username="mara"), design.pk, [Wanted(Change("duties", "law", duty), None)], "a duty")
    page = page_of(f"/designs/{design.pk}/rules/ladders/l")
    panel = page.get_by_role("complementary", name="Consequences").get_by_role("region", name="Duties")
    expect(panel).to_contain_text("fails, first on")
    page.locator("body").press("b")
    type_into(page, "Number of recent", "57")
    expect(panel).to_contain_text("holds on every day")
    expect(panel).to_contain_text(re.compile("failed from .* on before"))
    expect(page.get_by_label("Last edit")).to_contain_text("Saved")
    expect(panel.get_by_role("status")).to_have_text("all hold")
    no_violations(page)
    page.get_by_role("button", name=re.compile("^Undo")).click()
    expect(panel).to_contain_text("fails, first on")
    panel.get_by_role("link", name="Eight weeks").press("Enter")
    expect(page.get_by_role("heading", name="Duties", level=2)).to_be_visible()


def test_a_site_is_lost_on_a_date_and_everything_is_brought_back(page_of: Opener, row: Design) -> None:
    design = small(row)
    page = page_of(f"/designs/{design.pk}/proof/losses")
    page.get_by_role("button", name="Add a loss").click()
    page.get_by_role("button", name="Alder", exact=True).press("Enter")
    expect(page.get_by_role("button", name="Alder is lost")).to_have_attribute("aria-pressed", "true")
    table = page.get_by_role("table", name="What is left")
    expect(table.get_by_role("row").nth(1)).to_contain_text("Birch disk")
    expect(page.get_by_text(re.compile("^Something is left of every workload"))).to_be_visible()
    plan = page.get_by_role("region", name="The plan All at Birch")
    # 5 TB at 250 MB/s, 20 minutes, and again.
    expect(plan.get_by_role("status")).to_contain_text(re.compile("after 11 h 27 min"))
    no_violations(page)
    drawing = saved_as(page, "Download this plan", "the picture as SVG")
    words = "".join(ET.fromstring(drawing).itertext())  # noqa: S314 - our own file
    assert "All at Birch" in words
    assert "Birch disk, 5.00 TB, back" in words
    assert saved_as(page, "Download this plan", "the picture as PNG").startswith(b"\x89PNG")
    assert saved_as(page, "Download this plan", "its values as CSV").splitlines()[1].startswith(b"1,Ledgers,Birch disk,")
    page.get_by_label("What is the newest good point of…").fill("letters")
    expect(table.get_by_role("row")).to_have_count(2)
    page.get_by_role("button", name="Birch", exact=True).click()
    expect(page.get_by_text("Nothing is left of 2 of 2 workloads.")).to_be_visible()
    expect(plan).to_contain_text("the place is lost")
    (case,) = load_design(Design.objects.get(pk=design.pk)).loss_cases
    assert case.lost.sites == ["a", "b"]


def test_a_loss_is_worked_out_for_every_month(page_of: Opener, row: Design) -> None:
    """Copies come at one o'clock: at each day's end the newest is a day and two hours old; 41,200 s until all is back."""
    design = small(row)
    page = page_of(f"/designs/{design.pk}/proof/losses")
    page.get_by_role("button", name="Add a loss").click()
    page.get_by_role("button", name="Alder", exact=True).press("Enter")
    expect(page.get_by_role("button", name="Alder is lost")).to_have_attribute("aria-pressed", "true")
    years = page.get_by_role("region", name="Through the years")
    years.get_by_role("button", name="Work out every month").click()
    expect(years.get_by_role("img", name=re.compile("^The most that is lost. At most 1 d 2 h"))).to_be_visible()
    expect(years.get_by_role("img", name=re.compile("^Until all is back. At most 11 h 27 min"))).to_be_visible()
    no_violations(page)
    rows = saved_as(page, "Download these months", "its values as CSV").decode().splitlines()
    assert len(rows) == 1 + 12
    assert rows[3].startswith("2027-03-31,93600,Ledgers,,41200")
    page.get_by_role("combobox", name="Months shown as").click()
    page.get_by_role("option", name="table").click()
    march = years.get_by_role("table").get_by_role("row").nth(3)
    expect(march).to_contain_text("11 h 27 min")
    no_violations(page)


def test_a_plan_is_written_in_sentences(page_of: Opener, row: Design) -> None:
    design = small(row)
    page = page_of(f"/designs/{design.pk}/proof/plans")
    plan = page.get_by_role("region", name="The plan All at Birch")
    expect(plan.get_by_role("status")).to_contain_text("after 5 h 53 min")
    type_into(page, "Time until the plan begins", "4 h 30 min")
    expect(page.get_by_label("Time until the plan begins")).to_have_value("4 hours and 30 minutes")
    expect(plan.get_by_role("status")).to_contain_text("after 10 h 23 min")
    page.get_by_role("button", name="Add a group").click()
    expect(page.get_by_role("group", name="Group 3")).to_be_visible()
    page.get_by_role("button", name="Remove group 3").click()
    expect(page.get_by_role("group", name="Group 3")).to_have_count(0)
    no_violations(page)
    assert load_design(Design.objects.get(pk=design.pk)).recovery_plans[0].ready == "PT4H30M"


def test_all_findings_have_a_home(page_of: Opener, row: Design) -> None:
    page = page_of("/proof/findings")
    found = all_findings(expected(row))
    expect(page.get_by_text(f"{len(found)} to look at.")).to_be_visible(timeout=300_000)
    for one in found[:3]:
        expect(page.get_by_text(one.way_out).first).to_be_visible()
    expect(page.get_by_text("Follow all nights, in Forecast")).to_be_visible()
    no_violations(page)


def test_a_rehearsal_is_noted_with_how_it_went(page_of: Opener, row: Design) -> None:
    page = page_of("/proof/plans")
    section = page.get_by_role("region", name="Rehearsals")
    section.get_by_role("button", name="Add a rehearsal").click()
    expect(page.get_by_label("Last edit")).to_have_text("Saved: a rehearsal")
    when = section.get_by_label("Time of rehearsal 1")
    when.fill("2027-05-04 09:30")
    when.press("Enter")
    expect(page.get_by_label("Last edit")).to_have_text("Saved: rehearsal 1 at 2027-05-04 09:30")
    section.get_by_label("Outcome of rehearsal 1").click()
    page.get_by_role("option", name="failed").click()
    expect(page.get_by_label("Last edit")).to_have_text("Saved: rehearsal 1 failed")
    (found,) = load_design(row).rehearsals
    assert (found.plan, found.at, found.passed) == (load_design(row).recovery_plans[0].id, "2027-05-04T09:30", False)
    # The plan is carried out anew after each edit: nothing is asked of a database that is about to go.
    expect(page.get_by_text("Called for at the end of")).to_be_visible(timeout=300_000)
    expect(page.get_by_text("Working it out anew")).to_have_count(0, timeout=300_000)
