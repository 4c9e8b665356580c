"""What a person likes is kept with the person; what workloads come to together is added up by the core."""

import pytest
from django.contrib.auth import get_user_model
from django.test import Client

from shelf_core.design.reading import design_of
from shelf_core.sizing.together import together
from shelf_server.designs.actions import create_design
from tests.core.test_proof_facts import house
from tests.designs import NEWEST_14, WEEKLY_FULL, design
from tests.server.conftest import Caller, member, signed_in
from tests.server.working import work_off

AT_FIRST = {"digits": "space", "dates": "words"}
GRID = [{"field": "size", "width": 120, "hidden": False}, {"field": "name", "width": None, "hidden": True}]


def test_columns_are_kept_with_the_person_and_nobody_else(owner: Caller) -> None:
    assert owner("get", "/preferences") == (200, {"grid": [], "style": AT_FIRST})
    assert owner("put", "/preferences", {"grid": GRID}) == (200, {"grid": GRID, "style": AT_FIRST})
    assert owner("get", "/preferences")[1]["grid"] == GRID
    assert signed_in("vera")("get", "/preferences")[1]["grid"] == []
    assert owner("put", "/preferences", {"grid": []})[0] == 200
    assert owner("get", "/preferences")[1]["grid"] == []


def test_how_figures_are_written_is_kept_with_the_person_and_known_from_the_session(owner: Caller) -> None:
    style = {"digits": "apostrophe", "dates": "iso"}
    assert owner("get", "/session")[1] == {"username": "olaf", "style": AT_FIRST}
    assert owner("put", "/preferences", {"grid": GRID, "style": style}) == (200, {"grid": GRID, "style": style})
    assert owner("get", "/session")[1]["style"] == style
    assert signed_in("vera")("get", "/session")[1]["style"] == AT_FIRST
    assert Client().get("/api/session").json() == {"username": None, "style": None}
    for wrong in ({"digits": "point", "dates": "iso"}, {"dates": "12/31/2028"}, {"months": "short"}):
        assert owner("put", "/preferences", {"grid": GRID, "style": wrong})[0] == 422
    assert owner("get", "/preferences")[1]["style"] == style


def test_a_report_is_written_as_whoever_takes_it_likes_it(owner: Caller) -> None:
    """At once and in the background; what one person likes is nobody else's."""
    document = design(WEEKLY_FULL, NEWEST_14)
    document["targets"][0]["prices"] = {"capacity_tb_month": 900}
    row = create_design(get_user_model().objects.get(username="olaf"), design_of(document))

    def made(who: Caller) -> tuple[str, str]:
        at_once = who.client.get(f"/api/designs/{row.pk}/files/report.html?on=2027-06-01")
        status, job = who("post", f"/designs/{row.pk}/jobs", {"kind": "file", "on": "2027-06-01", "file": "report.html"})
        assert status == 202, job
        work_off()
        return at_once.content.decode(), who.client.get(f"/api/jobs/{job['id']}/file").content.decode()

    plain, other = made(owner), member(row, "vera", "viewer")
    assert plain[0] == plain[1]
    assert "\u202f" in plain[0]
    other("put", "/preferences", {"grid": [], "style": {"digits": "comma", "dates": "words"}})
    written = plain[0].replace("\u202f", ",")
    assert made(other) == (written, written)
    assert made(owner) == plain
    assert "1 June 2027" in plain[0]
    other("put", "/preferences", {"grid": [], "style": {"digits": "space", "dates": "iso"}})
    at_once, in_background = made(other)
    assert at_once == in_background
    assert "2027-06-01" in at_once
    assert "1 June 2027" not in at_once


@pytest.mark.parametrize(
    ("grid", "place"),
    [
        ([{"field": "size", "width": 5}], "grid[0].width"),
        ([{"field": "<b>"}], "grid[0].field"),
        ([{"field": "size", "colour": "red"}], "grid[0].colour"),
        ([{"field": "size"}, {"field": "size"}], "design"),
    ],
)
def test_what_makes_no_grid_is_refused_and_nothing_is_kept(owner: Caller, grid: list[object], place: str) -> None:
    owner("put", "/preferences", {"grid": GRID})
    status, answer = owner("put", "/preferences", {"grid": grid})
    assert status == 422
    assert answer["faults"][0]["path"] == place
    assert owner("get", "/preferences")[1]["grid"] == GRID


def test_workloads_are_added_up_on_a_date(owner: Caller) -> None:
    plain = house()
    plain["workloads"] += [
        {"id": "v", "site": "b", "size": "4 TB", "count": 2},
        {"id": "u", "site": "a", "size": "900 GB", "daily_change_percent": 1},
    ]
    document = design_of(plain)
    row = create_design(get_user_model().objects.get(username="olaf"), document)
    asked = {"on": "2027-06-30", "ids": ["v", "w"]}
    status, answer = owner("post", f"/designs/{row.pk}/workload-totals", asked)
    assert status == 200
    assert answer["together"] == vars(together(document, ["v", "w"], "2027-06-30"))
    assert (answer["together"]["machines"], answer["together"]["source_bytes"]) == (3, 18e12)
    whole = owner("post", f"/designs/{row.pk}/workload-totals", {"on": "2027-06-30"})[1]["together"]
    assert (whole["workloads"], whole["source_bytes"]) == (3, 18.9e12)
    assert owner("post", f"/designs/{row.pk}/workload-totals", {"on": "2068-12-31"})[0] == 422
    assert owner("get", f"/designs/{row.pk}/workload-order?by=site,-size")[1]["ids"] == ["w", "u", "v"]
