"""Two designs beside one another over the API: the core's comparison, by those who may see both."""

from typing import Any

from shelf_core.cost.cost import cost_of
from shelf_core.forecast.forecast import forecast
from shelf_core.reasons.comparison import Comparison, compare, comparison_sentence
from shelf_server.designs.models import Design
from shelf_server.designs.rows.reading import load_design
from tests.server.conftest import Caller, signed_in

ON = "2027-06-01"


def branched(owner: Caller, row: Design) -> Any:
    status, answer = owner("post", f"/designs/{row.pk}/variants", {"name": "Shorter"})
    assert status == 201, answer
    other = Design.objects.get(pk=answer["id"])
    design = owner("get", f"/designs/{other.pk}")[1]
    (ladder,) = design["document"]["ladders"]
    value = ladder | {"recent": [{"keep": {"points": 3}}]}
    body = {
        "changes": [
            {"part": "ladders", "key": ladder["id"], "value": value, "seen": design["versions"]["ladders"][ladder["id"]]}
        ],
        "on": ON,
        "what": "three",
    }
    assert owner("post", f"/designs/{other.pk}/edits", body)[0] == 200
    other.refresh_from_db()
    return other


def test_it_is_the_core_s_and_says_what_is_lost(owner: Caller, row: Design) -> None:
    shorter = branched(owner, row)
    status, answer = owner("get", f"/designs/{shorter.pk}/comparison?other={row.pk}&on={ON}")
    assert status == 200, answer
    sides = [(result, cost_of(result)) for result in (forecast(load_design(one)) for one in (row, shorter))]
    expected = compare(sides[0], sides[1], [ON])
    assert answer["comparison"]["lost_everywhere"] == expected.lost_everywhere
    assert expected.lost_everywhere[0] > 0
    target, here = answer["comparison"]["targets"][0], expected.targets[0]
    assert target["dates"][0]["points"] == list(here.dates[0].points)
    assert target["dates"][0]["points"][0] > target["dates"][0]["points"][1]
    assert answer["sentence"] == comparison_sentence(expected, answer["other"]["name"])
    assert (answer["this"]["name"], answer["this"]["revision"]) == (f"{shorter.name}, Shorter", shorter.revision)


def test_of_what_one_may_not_see_nothing_is_told(owner: Caller, row: Design) -> None:
    shorter = branched(owner, row)
    stranger = signed_in("sten")
    assert stranger("get", f"/designs/{shorter.pk}/comparison?other={row.pk}&on={ON}")[0] == 404
    assert owner("get", f"/designs/{row.pk}/comparison?other=999999&on={ON}")[0] == 404
    assert owner("get", f"/designs/{row.pk}/comparison?other={shorter.pk}&on=1999-01-01")[0] == 422


def test_sentences_are_singular_and_plural() -> None:
    def said(lost: int, gained: int) -> str:
        return comparison_sentence(Comparison([ON], [lost], [gained], []), "the other")

    assert said(0, 0) == "Beside the other, on 1 June 2027: no restore moment is lost, none is gained."
    assert said(1, 1) == "Beside the other, on 1 June 2027: 1 restore moment is lost, 1 is gained."
    assert said(1200, 2) == "Beside the other, on 1 June 2027: 1\u202f200 restore moments are lost, 2 are gained."


def test_what_is_made_says_where_it_is(owner: Caller, row: Design) -> None:
    """RFC 9110, 10.2.2: with 201 `Location` names what was made."""
    answer = owner.client.post(f"/api/designs/{row.pk}/variants", {"name": "Other"}, content_type="application/json")
    assert (answer.status_code, answer["Location"]) == (201, f"/api/designs/{answer.json()['id']}")
    document = owner("get", f"/designs/{row.pk}")[1]["document"]
    made = owner.client.post("/api/designs", document, content_type="application/json")
    assert made["Location"] == f"/api/designs/{made.json()['id']}"
    assert owner("get", made["Location"].removeprefix("/api"))[0] == 200
