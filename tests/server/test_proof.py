"""Proof over the API: plans and losses as they are asked for, duties and what would mend them as jobs, and who may ask."""

from typing import Any

import pytest
from django.contrib.auth import get_user_model

from shelf_core.design.reading import design_of
from shelf_server.designs.actions import create_design
from shelf_server.designs.models import Design
from tests.core.test_proof_facts import house, two_groups
from tests.server.conftest import Caller, signed_in
from tests.server.working import work_off

AT = "2027-03-01T12:00"


def plain() -> dict[str, Any]:
    """Two workloads of 5 TB that come back one after another at 500 MB/s; a duty that fails, a case that leaves nothing."""
    return two_groups(
        ladder={"recent": [{"keep": {"points": 5}}]},
        loss_cases=[{"id": "fire", "name": "A fire", "lost": {"sites": ["a"]}, "plan": "p"}],
        duties=[{"id": "law", "workloads": ["w"], "asks": [{"history": "P7D", "every": "P1D"}]}],
    )


@pytest.fixture
def row(owner: Caller) -> Design:
    return create_design(get_user_model().objects.get(username="olaf"), design_of(plain()))


def test_a_plan_is_carried_out(owner: Caller, row: Design) -> None:
    status, answer = owner("get", f"/designs/{row.pk}/restore?plan=p&at={AT}")
    assert status == 200
    bars = answer["plan"]["bars"]
    assert [(bar["workload"], round(bar["first_byte"]), round(bar["back_at"])) for bar in bars] == [
        ("w", 0, 10_000),
        ("v", 11_200, 21_200),
    ]
    assert round(answer["plan"]["over_at"]) == 22_400
    assert bars[0]["moment"] == "2027-02-28 22:00"
    earlier = owner("get", f"/designs/{row.pk}/restore?plan=p&at={AT}&moment=2027-02-27T12:00")[1]["plan"]["bars"][0]
    assert (earlier["moment"], earlier["lost_seconds"]) == ("2027-02-26 22:00", 14 * 3600)


def test_a_case_leaves_what_it_leaves(owner: Caller, row: Design) -> None:
    status, answer = owner("get", f"/designs/{row.pk}/losses?case=fire&at=2027-03-01")
    assert status == 200
    case = answer["case"]
    assert case["at"] == "2027-03-02 00:00"
    assert [(one["name"], one["loss_seconds"]) for one in case["workloads"]] == [("w", None), ("v", None)]
    assert case["workloads"][0]["reason"] == "2027-03-01 22:00 from d could have been restored: it is lost with d"
    assert [(one["target"], one["is_lost"], one["points"]) for one in case["targets"]] == [("d", True, 0)]
    assert [bar["reason"] for bar in case["plan"]["bars"]] == ["the place is lost", "the place is lost"]


def test_duties_are_judged_and_mended_in_the_background(owner: Caller, row: Design) -> None:
    job = owner("post", f"/designs/{row.pk}/jobs", {"kind": "duties", "on": "2027-03-01"})[1]
    work_off()
    sheet = owner("get", f"/jobs/{job['id']}")[1]["duties"]
    (found,) = sheet["rows"]
    assert (sheet["failing"], found["verdict"], found["first_failed"]) == (1, "fails", "2027-01-08")
    assert found["spans"][0]["first_day"] == "2027-01-08"
    asked = {"kind": "mend", "on": "2027-03-01", "duty": "law", "ask": 0}
    job = owner("post", f"/designs/{row.pk}/jobs", asked)[1]
    work_off()
    mended = owner("get", f"/jobs/{job['id']}")[1]["mend"]
    assert mended["sentence"] == "Let k keep the newest 8 points in place of 5."
    edit = {
        "changes": [{"part": "ladders", "key": "k", "value": mended["ladder"], "seen": 1}],
        "what": "longer",
        "on": "2027-03-01",
    }
    assert owner("post", f"/designs/{row.pk}/edits", edit)[0] == 200
    job = owner("post", f"/designs/{row.pk}/jobs", {"kind": "duties", "on": "2027-03-01"})[1]
    work_off()
    assert owner("get", f"/jobs/{job['id']}")[1]["duties"]["rows"][0]["verdict"] == "holds"


def test_cases_are_worked_out_month_by_month_in_the_background(owner: Caller, row: Design) -> None:
    """All burns with the only target: from the first month on nothing is left, and nothing comes back."""
    job = owner("post", f"/designs/{row.pk}/jobs", {"kind": "months", "on": "2027-03-01"})[1]
    assert (job["state"], job["months"]) == ("waiting", None)
    work_off()
    (fire,) = owner("get", f"/jobs/{job['id']}")[1]["months"]
    assert (fire["case"], len(fire["months"])) == ("fire", 12)
    march = fire["months"][2]
    assert (march["date"], march["nothing_left"], march["worst_loss_seconds"]) == ("2027-03-31", ["w", "v"], None)
    assert (march["not_back"], march["back_seconds"]) == (2, None)


def test_an_edit_says_which_duty_it_breaks_or_mends(owner: Caller, row: Design) -> None:
    """By the arrivals of nights that were followed, once they were, and as if nothing took time before."""
    answer = owner("get", f"/designs/{row.pk}/verdicts")[1]
    assert answer["grounds"] == "As if no transfer took time: follow all nights in Forecast for the last word."
    (duty,) = answer["duties"]
    assert (duty["now"]["sentence"], duty["change"]) == ("fails, first on 8 January 2027", "")
    assert owner("post", f"/designs/{row.pk}/reference?on=2027-03-01")[0] == 200
    owner("post", f"/designs/{row.pk}/jobs", {"kind": "nights", "on": "2027-03-01"})
    work_off()
    assert owner("get", f"/designs/{row.pk}/verdicts")[1]["grounds"] == ""
    longer = {"id": "k", "recent": [{"keep": {"points": 8}}]}
    trial = {"changes": [{"part": "ladders", "key": "k", "value": longer, "seen": None}], "on": "2027-03-01"}
    (tried,) = owner("post", f"/designs/{row.pk}/trial/verdicts", trial)[1]["duties"]
    assert (tried["now"]["sentence"], tried["change"]) == ("holds on every day", "failed from 8 January 2027 on before")
    edit = {"changes": [{"part": "ladders", "key": "k", "value": longer, "seen": 1}], "what": "longer", "on": "2027-03-01"}
    made = owner("post", f"/designs/{row.pk}/edits", edit)[1]["duties"]
    assert made["duties"] == [tried]
    assert made["grounds"] == "By the nights as they were followed before the last edits."
    assert owner("get", f"/designs/{row.pk}/verdicts")[1]["duties"] == [tried]


@pytest.mark.parametrize(
    ("question", "said"),
    [
        ("restore?plan=none&at=2027-03-01", 'expected the id of a recovery plan (p), got "none"'),
        ("restore?plan=p&at=2037-03-01", "expected a date from 2027-01-01 to 2027-12-31, got 2037-03-01"),
        ("restore?plan=p&at=2027-03-01&moment=2027-04-01", "expected a moment at 2027-03-01 or before, got 2027-04-01"),
        ("losses?case=flood&at=2027-03-01", 'expected the id of a case of loss (fire), got "flood"'),
        ("losses?case=fire&at=noon-ish-1", "expected a local time such as 2027-03-03T12:00"),
    ],
)
def test_what_is_not_there_is_refused(owner: Caller, row: Design, question: str, said: str) -> None:
    status, answer = owner("get", f"/designs/{row.pk}/{question}")
    assert status == 422
    assert said in str(answer)


def test_what_is_to_be_mended_must_be_there(owner: Caller, row: Design) -> None:
    asked = {"kind": "mend", "on": "2027-03-01", "duty": "law", "ask": 4}
    assert owner("post", f"/designs/{row.pk}/jobs", asked)[0] == 422


def test_nobody_else_sees_them(owner: Caller, row: Design) -> None:
    other = signed_in("sten")
    assert other("get", f"/designs/{row.pk}/restore?plan=p&at={AT}")[0] == 404
    assert other("get", f"/designs/{row.pk}/verdicts")[0] == 404
    assert other("get", f"/designs/{row.pk}/losses?case=fire&at={AT}")[0] == 404


def test_what_is_named_cannot_be_taken_out_unseen(owner: Caller, row: Design) -> None:
    found = owner("get", f"/designs/{row.pk}/mentions?part=recovery_plans&key=p")[1]
    assert [one["words"] for one in found["mentions"]] == ["the case A fire is brought back by it"]
    found = owner("get", f"/designs/{row.pk}/mentions?part=workloads&key=w")[1]
    words = [one["words"] for one in found["mentions"]]
    assert "the recovery plan p names it" in words
    assert "the duty law names it" in words
    act = {"do": "take-out", "part": "workloads", "key": "w", "instead": None}
    seen = owner("get", f"/designs/{row.pk}")[1]["versions"]
    body = {"command": act, "on": "2027-03-01", "what": "without w", "seen": seen}
    assert owner("post", f"/designs/{row.pk}/commands", body)[0] == 200
    document = owner("get", f"/designs/{row.pk}")[1]["document"]
    assert document["duties"][0]["workloads"]["ids"] == []
    assert [group["workloads"]["ids"] for group in document["recovery_plans"][0]["groups"]] == [[], ["v"]]


def test_the_small_house_itself_is_sound() -> None:
    assert design_of(house()).name == "House"
