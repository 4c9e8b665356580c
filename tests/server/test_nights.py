"""Nights over the API: one on a clock, all of them as a job, and who may see them."""

from typing import Any

import pytest
from django.contrib.auth import get_user_model

from shelf_core.design.reading import design_of
from shelf_core.forecast.forecast import forecast
from shelf_core.nights.picture import night_of
from shelf_server.designs.actions import create_design
from shelf_server.designs.models import Design
from tests.core.test_night_facts import house
from tests.server.conftest import Caller, signed_in
from tests.server.working import work_off

DAILY = {"id": "f", "kind": "full", "rrule": "FREQ=DAILY", "at": ["22:00"]}
ON = "2027-09-01"


def plain() -> dict[str, Any]:
    return house(
        workload={"count": 3},
        runs=[DAILY],
        link={"speed": "200 MB/s"},
        copy={"window": {"opens": "21:00", "closes": "02:00"}, "spread": "PT1H"},
    )


@pytest.fixture
def slow(owner: Caller) -> Design:
    """A design whose nights take their time: three of 1 TB over 200 MB/s, asked for from 22:00, until 02:00."""
    return create_design(get_user_model().objects.get(username="olaf"), design_of(plain()))


def test_a_night_is_the_core_s(owner: Caller, slow: Design) -> None:
    status, answer = owner("get", f"/designs/{slow.pk}/night?on={ON}")
    assert status == 200
    night = answer["night"]
    (bundle,) = night["bundles"]
    assert [round(bar["asked"]) for bar in bundle["bars"]] == [36_000, 37_200, 38_400]
    assert (bundle["windows"], bundle["late"]) == ([{"begin": 32_400.0, "end": 50_400.0}], 1)
    # The second ends at the closing itself, after 14,400 seconds: that is not late.
    assert [bar["late"] for bar in bundle["bars"]] == [[], [], ["window"]]
    assert [bar["ended"] - 36_000 for bar in bundle["bars"]] == pytest.approx([12_000, 14_400, 15_000], abs=1e-3)
    (use,) = night["resources"]
    carried = sum((one["end"] - one["begin"]) * one["used"] for one in use["stretches"])
    assert carried == pytest.approx(3e12)
    assert night["ticks"][0] == {"seconds": 0.0, "text": "12:00"}
    expected = night_of(forecast(design_of(plain())), ON)
    assert bundle["last_end"] == expected.bundles[0].last_end == pytest.approx(36_000 + 15_000, abs=1)


def test_all_nights_are_followed_in_the_background_and_make_one_night_quick(owner: Caller, slow: Design) -> None:
    before = owner("get", f"/designs/{slow.pk}/night?on={ON}")[1]
    status, job = owner("post", f"/designs/{slow.pk}/jobs", {"kind": "nights", "on": ON})
    assert status == 202
    work_off()
    years = owner("get", f"/jobs/{job['id']}")[1]["nights"]
    place = years["nights"].index(ON)
    (copy,) = years["copies"]
    assert (copy["transfers"][place], copy["late"][place]) == (3, 1)
    assert copy["last_end_hours"][place] == pytest.approx(10 + 15_000 / 3600, abs=1e-3)
    assert copy["first_late"] == years["first_late"] == "2027-01-01"
    (load,) = years["loads"]
    assert (load["resource"], load["load"]) == ("link l a-b", pytest.approx(3e12 / (200e6 * 5 * 3600), rel=1e-6))
    assert [one["kind"] for one in years["findings"]] == ["late", "first full outlasts its window"]
    assert owner("get", f"/designs/{slow.pk}/night?on={ON}")[1] == before


def test_after_an_edit_a_night_is_answered_beside_what_it_was(owner: Caller, slow: Design) -> None:
    """The line twice as fast from the beginning: nothing that was followed holds, and what was late no longer is."""
    owner("post", f"/designs/{slow.pk}/jobs", {"kind": "nights", "on": ON})
    work_off()
    document = owner("get", f"/designs/{slow.pk}")[1]["document"]
    link = {**document["links"][0], "speed": "400 MB/s"}
    change = {"part": "links", "key": "l", "value": link, "seen": 1}
    edit = {"changes": [change], "what": "a faster line", "on": ON}
    assert owner("post", f"/designs/{slow.pk}/edits", edit)[0] == 200
    answer = owner("get", f"/designs/{slow.pk}/night?on={ON}")[1]
    (was,), (now,) = answer["before"], answer["night"]["bundles"]
    assert (was["late"], now["late"]) == (1, 0)
    assert was["last_end"] == pytest.approx(36_000 + 15_000, abs=1)
    assert now["last_end"] == pytest.approx(36_000 + 7_500, abs=1)


def test_who_may_see_them_and_which_days_there_are(owner: Caller, slow: Design) -> None:
    assert signed_in("sten")("get", f"/designs/{slow.pk}/night?on={ON}")[0] == 404
    status, answer = owner("get", f"/designs/{slow.pk}/night?on=1999-01-01")
    assert (status, "expected a date from" in answer["detail"]) == (422, True)


def test_speeds_links_and_windows_are_kept_as_they_were_typed(owner: Caller, slow: Design) -> None:
    document = owner("get", f"/designs/{slow.pk}/document")[1]
    assert document["links"][0]["speed"] == "200 MB/s"
    link = {**document["links"][0], "limits": [{"days": ["MO"], "from": "08:00", "to": "18:00", "speed": "20 MiB/s"}]}
    change = {"part": "links", "key": "l", "value": link, "seen": 1}
    status, answer = owner("post", f"/designs/{slow.pk}/edits", {"changes": [change], "what": "a limit", "on": ON})
    assert status == 200, answer
    assert owner("get", f"/designs/{slow.pk}/document")[1]["links"] == [link]
    wrong = {**change, "value": {**link, "speed": "fast"}, "seen": 2}
    status, answer = owner("post", f"/designs/{slow.pk}/edits", {"changes": [wrong], "what": "no", "on": ON})
    assert (status, answer["faults"][0]["path"]) == (422, "changes[0].value.speed")
