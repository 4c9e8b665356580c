"""What the API answers of a forecast: the core's own numbers, in its words."""

import csv
import io
import json
from dataclasses import asdict
from typing import Any

import pytest

from shelf_core.cost.cost import cost_of
from shelf_core.forecast.consequences import consequences
from shelf_core.forecast.forecast import forecast
from shelf_core.forecast.points import Chosen, points_on, points_page
from shelf_core.forecast.series import split_series
from shelf_core.forecast.unfree import cannot_be_freed
from shelf_server.designs.models import Design
from shelf_server.designs.rows.reading import load_design
from tests.designs import DEMO
from tests.server.conftest import Caller, signed_in

ON = "2027-06-30"


@pytest.fixture
def demo(owner: Caller) -> int:
    return int(owner("post", "/designs", json.loads(DEMO.read_text()))[1]["id"])


def test_health_needs_nobody(owner: Caller) -> None:
    assert owner("get", "/health") == (200, {"ready": True})


def test_days_name_every_date_and_where_months_begin(owner: Caller, row: Design) -> None:
    answer = owner("get", f"/designs/{row.pk}/days")[1]
    assert (len(answer["dates"]), answer["dates"][0], answer["dates"][-1]) == (365, "2027-01-01", "2027-12-31")
    assert [answer["dates"][place] for place in answer["month_begins"]] == [f"2027-{month:02}-01" for month in range(1, 13)]


def test_consequences_are_the_core_s(owner: Caller, demo: int) -> None:
    answer = owner("get", f"/designs/{demo}/consequences?on=2030-05-05")[1]
    expected = consequences(forecast(load_design(Design.objects.get(pk=demo))), "2030-05-05")
    for one, mine in zip(answer["targets"], expected, strict=True):
        assert one["now"] == vars(mine)
        assert one["change"] == {
            "points": 0,
            "stored_bytes": 0.0,
            "peak_bytes": 0.0,
            "full_on_before": mine.full_on,
            "full_on_changed": False,
            "weight": 0.0,
        }


def test_series_hold_real_days(owner: Caller, demo: int) -> None:
    answer = owner("get", f"/designs/{demo}/series?most=100")[1]
    whole = forecast(load_design(Design.objects.get(pk=demo)))
    for one, mine in zip(answer["targets"], whole.targets, strict=True):
        assert len(one["places"]) <= 100
        assert one["stored_bytes"] == mine.totals.stored_bytes[one["places"]].tolist()
        assert one["points"] == mine.totals.points[one["places"]].tolist()
    assert answer["reference"] == []


def test_shelves_stand_for_the_list_of_points(owner: Caller, row: Design) -> None:
    answer = owner("get", f"/designs/{row.pk}/shelves?on={ON}")[1]
    listed = list(points_on(forecast(load_design(row)), ON))
    (shelf,) = answer["shelves"]
    assert [spine["state"] for spine in shelf["spines"]] == [point.state for point in listed]
    assert [spine["claims"] for spine in shelf["spines"]] == [list(point.claims) for point in listed]


def test_shelves_of_one_ladder(owner: Caller, demo: int) -> None:
    answer = owner("get", f"/designs/{demo}/shelves?on=2030-05-05&ladder=house")[1]
    assert {(shelf["route"], shelf["copy"]) for shelf in answer["shelves"]} == {("collections", "house"), ("retiring", "wall")}


def test_readings_say_rules_in_words_and_where_they_are_used(owner: Caller, row: Design) -> None:
    answer = owner("get", f"/designs/{row.pk}/readings?on={ON}")[1]
    ladder = answer["ladders"]["rule"]
    assert ladder["sentence"] == "Keeps the newest 14 points. The newest point stays in any case."
    (use,) = ladder["uses"]
    assert (use["route_id"], use["target"], use["claimed"]) == ("way", "disk", {"all": 19, "recent": 14})
    assert use["oldest_days"]["recent"] == pytest.approx(13 + 2 / 24)
    runs = answer["cadences"]["beat"]["runs"]
    assert [one["sentence"] for one in runs] == ["every week on Saturday at 22:00", "every day at 22:00"]
    assert runs[0]["pattern"]["weekdays"] == ["SA"]


@pytest.mark.parametrize(
    ("pattern", "rule", "sentence"),
    [
        ({"repeats": "daily", "every": 2}, "FREQ=DAILY;INTERVAL=2", "every other day"),
        ({"repeats": "weekly", "weekdays": ["SU", "MO"]}, "FREQ=WEEKLY;BYDAY=MO,SU", "every week on Monday and Sunday"),
        (
            {"repeats": "monthly-weekday", "nth": -1, "weekdays": ["FR"]},
            "FREQ=MONTHLY;BYDAY=-1FR",
            "on the last Friday of every month",
        ),
    ],
)
def test_pattern_becomes_a_rule(owner: Caller, pattern: dict[str, Any], rule: str, sentence: str) -> None:
    assert owner("post", "/rules", pattern) == (200, {"rrule": rule, "sentence": sentence})


@pytest.mark.parametrize(
    "pattern",
    [{"repeats": "weekly"}, {"repeats": "monthly-weekday", "weekdays": []}, {"repeats": "often"}, {"repeats": "daily", "x": 1}],
)
def test_pattern_that_says_too_little_is_refused(owner: Caller, pattern: dict[str, Any]) -> None:
    status, problem = owner("post", "/rules", pattern)
    assert (status, problem["status"]) == (422, 422)


def test_month_of_a_cadence_that_is_not_there(owner: Caller, row: Design) -> None:
    assert owner("get", f"/designs/{row.pk}/cadences/none/month?month=2027-03")[0] == 422
    assert owner("get", f"/designs/{row.pk}/cadences/beat/month?month=March")[0] == 422


def test_document_comes_back_whole(owner: Caller, demo: int) -> None:
    answer = owner("get", f"/designs/{demo}")[1]
    assert (answer["role"], answer["revision"], answer["reference_revision"]) == ("owner", 1, 1)
    assert len(answer["document"]["workloads"]) == 42
    assert answer["document"]["routes"][0]["copies"][1]["from"] == "house"
    assert set(answer["versions"]["ladders"].values()) == {1}


def test_parts_locks_and_pages_are_the_core_s(owner: Caller, demo: int) -> None:
    result = forecast(load_design(Design.objects.get(pk=demo)))
    answer = owner("get", f"/designs/{demo}/split?target=moss-pool&by=route&most=60")[1]["split"]
    assert answer == json.loads(json.dumps(asdict(split_series(result, "moss-pool", "route", 60))))
    answer = owner("get", f"/designs/{demo}/unfree?target=north-bucket&on=2030-05-05")[1]
    assert answer["first"] == result.place_of("2030-05-05")
    assert answer["stored_bytes"] == cannot_be_freed(result, "north-bucket", "2030-05-05").tolist()
    answer = owner("get", f"/designs/{demo}/points?on=2030-05-05&target=wall-disk&state=needed&first=3&most=5")[1]
    page = points_page(result, "2030-05-05", Chosen(target="wall-disk", state="needed"), 3, 5)
    assert (answer["total"], answer["rows"]) == (page.total, json.loads(json.dumps([asdict(row) for row in page.rows])))
    assert (answer["rules"], answer["runs"]) == (page.rules, page.runs)


def test_the_list_of_points_is_narrowed_and_taken_away(owner: Caller, demo: int) -> None:
    result = forecast(load_design(Design.objects.get(pk=demo)))
    words = "route=files&copy_id=house&kind=incremental&rule=monthly&taken_from=2029-01-01&taken_to=2029-12-31"
    chosen = Chosen(
        route="files", copy="house", kind="incremental", rule="monthly", taken_from="2029-01-01", taken_to="2029-12-31"
    )
    rows = list(points_on(result, "2030-05-05", chosen))
    assert rows
    answer = owner("get", f"/designs/{demo}/points?on=2030-05-05&{words}")[1]
    assert [one["why"] for one in answer["rows"]] == [row.why for row in rows][:100]
    content = owner.client.get(f"/api/designs/{demo}/points.csv?on=2030-05-05&{words}").content.decode()
    saved = list(csv.DictReader(io.StringIO(content)))
    # A file for people has whole bytes.
    assert [(one["taken"], int(one["stored_bytes"])) for one in saved] == [(row.taken, round(row.stored_bytes)) for row in rows]
    status, said = owner("get", f"/designs/{demo}/points?on=2030-05-05&taken_from=soon")
    assert (status, said["faults"][0]["message"]) == (422, 'expected a date such as 2027-01-31, got "soon"')


def test_several_days_of_the_overview_are_each_the_overview_of_its_day(owner: Caller, demo: int) -> None:
    days = ["2030-05-31", "2028-02-29", "2036-12-31", "2027-01-01"]
    status, answer = owner("get", f"/designs/{demo}/overviews?on={'&on='.join(days)}")
    assert status == 200
    assert answer == [owner("get", f"/designs/{demo}/overview?on={day}")[1] for day in days]
    assert [one["overview"]["on"] for one in answer] == days
    assert owner("get", f"/designs/{demo}/overviews")[0] == 422
    assert owner("get", f"/designs/{demo}/overviews?on={'&on='.join(['2030-05-31'] * 41)}")[0] == 422
    assert signed_in("sten")("get", f"/designs/{demo}/overviews?on=2030-05-31")[0] == 404


def test_cost_by_category_adds_up(owner: Caller, demo: int) -> None:
    cost = cost_of(forecast(load_design(Design.objects.get(pk=demo))))
    answer = owner("get", f"/designs/{demo}/cost?on=2030-05-05")[1]
    months = [one["per_month"] for one in (*answer["by_category"], *answer["beside"])]
    assert len(answer["beside"]) == len(cost.beside) > 0
    assert [sum(parts) for parts in zip(*months, strict=True)] == pytest.approx(cost.per_month().tolist())
    assert answer["whole"] == pytest.approx(sum(answer["per_month"]))
    for part in answer["by_category"]:
        of_targets = [one.by_category[part["category"]] for one in cost.targets]
        assert part["per_month"] == pytest.approx(sum(of_targets).tolist())


@pytest.mark.parametrize("query", ["target=none&by=route", "target=moss-pool&by=colour", "target=moss-pool&by=route&most=-1"])
def test_questions_that_make_no_sense_are_refused(owner: Caller, demo: int, query: str) -> None:
    assert owner("get", f"/designs/{demo}/split?{query}")[0] == 422
