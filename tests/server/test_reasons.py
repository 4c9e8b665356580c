"""Reasons, cost, what is not known and files over the API: who may ask, what is refused."""

import pytest

from shelf_core.cost.cost import cost_of
from shelf_core.forecast.forecast import forecast
from shelf_core.formats.digest import digest
from shelf_server.designs.models import Design
from shelf_server.designs.rows.reading import load_design
from tests.server.conftest import UNKNOWN, Caller, member, signed_in

ON = "2027-06-01"


def test_unknowns_are_kept_in_rows(unknown: Design) -> None:
    (found,) = load_design(unknown).unknowns
    assert found.plain() == UNKNOWN
    assert unknown.unknowns.get().growth_low == -5  # type: ignore[attr-defined]


PATHS = [
    f"overview?on={ON}",
    f"cost?on={ON}",
    f"cost/month?on={ON}",
    "detail?target=disk",
    "detail?target=disk&first=2027-02-01&last=2027-03-01",
    f"explanation?target=disk&on={ON}",
    f"explanation?target=disk&on={ON}&of_copy=way%20/%20first",
    f"other-packing?target=disk&on={ON}",
]


@pytest.mark.parametrize("path", PATHS)
def test_viewers_read_and_strangers_do_not(row: Design, path: str) -> None:
    viewer = member(row, "vera", "viewer")
    status, answer = viewer("get", f"/designs/{row.pk}/{path}")
    assert status == 200, answer
    assert answer["revision"] == row.revision
    assert signed_in("sten")("get", f"/designs/{row.pk}/{path}")[0] == 404


@pytest.mark.parametrize(
    ("path", "words"),
    [
        ("overview?on=2050-01-01", "expected a date from 2027-01-01"),
        ("cost?on=soon", "expected a date"),
        ("cost/month?on=2050-01-01", "expected a date from 2027-01-01"),
        ("detail?target=nowhere", "expected the id of a target"),
        ("detail?target=disk&first=2027-03-01&last=2027-02-01", "expected a last day after"),
        (f"explanation?target=disk&on={ON}&of_copy=no", "expected a copy on this target"),
        (f"longest-keep?target=disk&ladder=no&rung=no&until={ON}", "expected the id of a ladder"),
        (f"other-packing?target=nowhere&on={ON}", "expected the id of a target"),
        (f"tables/nothing.csv?on={ON}", "expected a table"),
        (f"files/virus.exe?on={ON}", "expected a file"),
    ],
)
def test_what_is_asked_wrongly_is_refused_in_words(owner: Caller, row: Design, path: str, words: str) -> None:
    status, answer = owner("get", f"/designs/{row.pk}/{path}")
    assert status == 422
    assert words in str(answer)


def test_cost_is_the_core_s(owner: Caller, row: Design) -> None:
    target = {**load_design(row).targets[0].whole(), "prices": {"capacity_tb_month": 4}}
    change = {"part": "targets", "key": "disk", "value": target, "seen": 1}
    assert owner("post", f"/designs/{row.pk}/edits", {"changes": [change], "what": "a price", "on": ON})[0] == 200
    _, answer = owner("get", f"/designs/{row.pk}/cost?on={ON}")
    wanted = cost_of(forecast(load_design(Design.objects.get(pk=row.pk)))).per_month().tolist()
    assert answer["per_month"] == pytest.approx(wanted)
    assert answer["months"][answer["at"]] == "2027-06"
    assert answer["per_month"][5] > 0


@pytest.mark.parametrize(
    ("name", "begins"),
    [("report.html", b"<!doctype"), ("report.pdf", b"%PDF"), ("forecast.xlsx", b"PK"), ("series.parquet", b"PAR1")],
)
def test_files_are_made(owner: Caller, row: Design, name: str, begins: bytes) -> None:
    answer = owner.client.get(f"/api/designs/{row.pk}/files/{name}?on={ON}")
    assert answer.status_code == 200
    assert answer.content.startswith(begins)
    what, ending = name.split(".")
    traced = digest(load_design(row))[:12]
    assert answer.headers["Content-Disposition"] == f'attachment; filename="small-{what}-{ON}-{traced}.{ending}"'
    assert signed_in("sten").client.get(f"/api/designs/{row.pk}/files/{name}?on={ON}").status_code == 404


def test_a_month_costs_what_the_core_says_and_its_change_since_the_reference(owner: Caller, row: Design) -> None:
    status, answer = owner("get", f"/designs/{row.pk}/cost/month?on={ON}")
    assert status == 200
    cost = cost_of(forecast(load_design(row)))
    month = cost.month_of(ON)
    assert answer["targets"] == [
        {"target": one.target, "cost": float(one.per_month()[month]), "change": 0.0} for one in cost.targets
    ]
    (target,) = (one for one in load_design(row).targets if one.id == "disk")
    value = {**target.plain(), "prices": {"capacity_tb_month": 10}}
    change = {"part": "targets", "key": "disk", "value": value, "seen": 1}
    status, said = owner("post", f"/designs/{row.pk}/edits", {"changes": [change], "what": "dearer", "on": ON})
    assert status == 200, said
    row.refresh_from_db()
    (disk,) = (one for one in owner("get", f"/designs/{row.pk}/cost/month?on={ON}")[1]["targets"] if one["target"] == "disk")
    before = next(float(one.per_month()[month]) for one in cost.targets if one.target == "disk")
    now = cost_of(forecast(load_design(row)))
    assert disk["cost"] == next(float(one.per_month()[month]) for one in now.targets if one.target == "disk")
    assert disk["cost"] > before
    assert disk["change"] == disk["cost"] - before
