"""What is saved opens again: nothing that cannot be computed is stored, and what is read belongs together."""

import json
import threading
import uuid
from collections.abc import Callable
from typing import Any

import pytest
from django.contrib.auth import get_user_model
from django.db import connection, connections

from shelf_core.design.ladders import Ladder
from shelf_core.design.reading import read_design
from shelf_server.api import edits
from shelf_server.designs import actions, results
from shelf_server.designs.models import Cadence, Change, Design, Reference
from shelf_server.designs.rows.reading import read_stored
from shelf_server.designs.rows.writing import settings_columns, store_design
from tests.designs import NEWEST_14, WEEKLY_FULL, design, run
from tests.server.conftest import Caller, signed_in

ON = "2027-06-30"
EACH_MINUTE = {**run("full", "FREQ=MINUTELY", "00:00"), "id": "often"}
"""525,600 runs a year: more than the engine computes."""


def too_much() -> dict[str, Any]:
    return design([EACH_MINUTE], NEWEST_14)


def made_often(row: Design) -> dict[str, Any]:
    cadence = {"id": "beat", "runs": [EACH_MINUTE]}
    return {"on": ON, "what": "too often", "changes": [{"part": "cadences", "key": "beat", "value": cadence, "seen": 1}]}


@pytest.mark.django_db
def test_nothing_that_cannot_be_computed_is_saved(owner: Caller, row: Design) -> None:
    """By edit, replacement, creation: the refusal names the place, and the design is as it was."""
    etag = owner.client.get(f"/api/designs/{row.pk}/document").headers["ETag"]
    answers = [
        owner("post", f"/designs/{row.pk}/edits", made_often(row)),
        owner("put", f"/designs/{row.pk}/document", too_much(), **{"If-Match": etag}),
        owner("post", "/designs", too_much()),
        owner("post", "/documents", {"text": json.dumps(too_much())}),
    ]
    for status, answer in answers:
        assert (status, answer["faults"][0]["path"]) == (422, "routes[0].copies[0]")
        assert answer["faults"][0]["message"].startswith("expected at most 500\u202f000 runs within the design, got 52")
    row.refresh_from_db()
    assert (row.revision, Design.objects.count(), Change.objects.count()) == (1, 1, 0)
    assert owner("get", f"/designs/{row.pk}/consequences?on={ON}")[0] == 200


@pytest.mark.django_db
def test_a_stored_design_that_cannot_be_computed_opens_says_why_and_can_be_mended(owner: Caller, row: Design) -> None:
    """It may come from an older version, which saved it. Its variants cannot be branched; one edit mends it."""
    Design.objects.filter(pk=row.pk).update(**settings_columns(read_design(json.dumps(too_much()))), state=uuid.uuid4())
    row.refresh_from_db()
    cadence = Cadence.objects.get(design=row)
    cadence.runs.all().delete()
    cadence.runs.create(position=0, key="often", kind="full", rrule="FREQ=MINUTELY", at=["00:00"])
    status, opened = owner("get", f"/designs/{row.pk}")
    assert (status, opened["document"]["cadences"][0]["runs"][0]["rrule"]) == (200, "FREQ=MINUTELY")
    assert owner("get", f"/designs/{row.pk}/days")[0] == 200
    status, refusal = owner("get", f"/designs/{row.pk}/consequences?on={ON}")
    assert (status, refusal["faults"][0]["path"]) == (422, "routes[0].copies[0]")
    assert owner("post", f"/designs/{row.pk}/variants", {"name": "What if"})[0] == 422
    mended = {"id": "beat", "runs": [run("full", "FREQ=DAILY")]}
    changes = [{"part": "cadences", "key": "beat", "value": mended, "seen": 1}]
    assert owner("post", f"/designs/{row.pk}/edits", {"on": ON, "what": "mended", "changes": changes})[0] == 200
    assert owner("get", f"/designs/{row.pk}/consequences?on={ON}")[0] == 200


@pytest.mark.django_db
def test_a_document_of_version_1_is_taken_with_every_lock_holding(owner: Caller) -> None:
    document = {**design(WEEKLY_FULL, NEWEST_14), "version": 1}
    del document["targets"][0]["lock"]
    document["targets"][0]["placement"] = "even"
    document["routes"][0]["copies"][0]["lock"] = {"for": "P9D", "mode": "final"}
    status, line = owner("post", "/designs", document)
    assert status == 201
    (target,) = owner("get", f"/designs/{line['id']}/document")[1]["targets"]
    assert (target["lock"], target["fill_order"]) == ("final", "even")


@pytest.mark.django_db
def test_what_was_kept_for_another_database_is_not_taken_for_this_one(owner: Caller, row: Design) -> None:
    """A database is put back from a backup while the server runs: the same number and revision come again, otherwise made."""
    before = owner("get", f"/designs/{row.pk}/document")
    changed = {"id": "rule", "recent": [{"keep": {"points": 3}}]}
    edit = {"on": ON, "what": "newest 3", "changes": [{"part": "ladders", "key": "rule", "value": changed, "seen": 1}]}
    status, answer = owner("post", f"/designs/{row.pk}/edits", edit)
    assert status == 200
    after = answer["consequences"]["targets"][0]["now"]["points"]
    other = read_design(json.dumps(design(WEEKLY_FULL, {"recent": [{"keep": {"points": 30}}]})))
    put_back(Design.objects.get(pk=row.pk), other)
    now = owner("get", f"/designs/{row.pk}/document")[1]
    assert (before[1]["ladders"] != now["ladders"], now["ladders"][0]["recent"][0]["keep"]["points"]) == (True, 30)
    assert owner("get", f"/designs/{row.pk}/consequences?on={ON}")[1]["targets"][0]["now"]["points"] != after


def put_back(row: Design, other: Any) -> None:
    """The rows as another database has them, at the revision that was there before."""
    revision, pk, family = row.revision, row.pk, row.family
    members = [(one.user_id, one.role) for one in row.memberships.all()]
    row.delete()
    back = Design.objects.create(pk=pk, family=family, revision=revision, **settings_columns(other))
    store_design(other, back)
    for user_id, role in members:
        back.memberships.create(user_id=user_id, role=role)


@pytest.mark.django_db(transaction=True)
def test_a_reader_never_sees_a_document_with_the_versions_of_another(
    row: Design, request: pytest.FixtureRequest, monkeypatch: pytest.MonkeyPatch
) -> None:
    """One writer and two readers over as many edits as `--edits` says; the writer names the version that it saw each time.

    The keep is the number of the edit, so that the document says which revision it is of; versions and revision say it too.
    """
    # What is looked at is reading beside writing; each edit's forecast would only make them fewer.
    monkeypatch.setattr(actions, "forecast_of", lambda _design: None)
    wanted: int = request.config.getoption("--edits")
    user = get_user_model().objects.get(username="olaf")
    start, wrong, reads, stop = row.revision, [], [0, 0], threading.Event()

    def reading(which: int) -> None:
        caller = signed_in("olaf")
        try:
            while not stop.is_set():
                results.forget()  # every read is one of a process that has seen nothing yet
                answer = caller("get", f"/designs/{row.pk}")[1]
                keep = answer["document"]["ladders"][0]["recent"][0]["keep"]["points"]
                said = (answer["revision"] - start, answer["versions"]["ladders"]["rule"] - 1, keep - 14)
                if len(set(said)) != 1:
                    wrong.append(said)
                reads[which] += 1
        finally:
            connections.close_all()

    readers = [threading.Thread(target=reading, args=(which,)) for which in range(2)]
    for one in readers:
        one.start()
    ladder = results.document_of(row).ladders[0]
    for number in range(1, wanted + 1):
        keep = ladder.recent[0].keep.model_copy(update={"points": 14 + number})
        value = ladder.model_copy(update={"recent": [ladder.recent[0].model_copy(update={"keep": keep})]})
        actions.edit(user, row.pk, [actions.Wanted(actions.Change("ladders", "rule", value), number)], "one more")
    stop.set()
    for one in readers:
        one.join()
    assert wrong == []
    assert min(reads) > 5
    assert Design.objects.get(pk=row.pk).revision == start + wanted


@pytest.mark.django_db
def test_what_is_kept_of_an_edit_is_what_it_made_also_when_another_comes_at_once(
    owner: Caller, row: Design, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Between an edit and the keeping of its forecast another edit is made: its versions are not taken for those of the first."""
    user = get_user_model().objects.get(username="olaf")
    keep, states = edits.keep_forecast, []

    def with_another_between(changed: Design, result: Any) -> None:
        states.append(changed.state)
        if len(states) == 1:
            value = {"id": "rule", "recent": [{"keep": {"points": 9}}]}
            actions.edit(user, row.pk, [actions.Wanted(actions.Change("ladders", "rule", Ladder(**value)), 2)], "at once")
            results.forget()  # it was made by another process
        keep(changed, result)

    monkeypatch.setattr(edits, "keep_forecast", with_another_between)
    value = {"id": "rule", "recent": [{"keep": {"points": 3}}]}
    change = {"part": "ladders", "key": "rule", "value": value, "seen": 1}
    assert owner("post", f"/designs/{row.pk}/edits", {"on": ON, "what": "newest 3", "changes": [change]})[0] == 200
    assert results._WHOLE.kept(("stored", states[0])).versions["ladders"]["rule"] == 2
    assert owner("get", f"/designs/{row.pk}")[1]["versions"]["ladders"]["rule"] == 3


@pytest.mark.django_db(transaction=True)
@pytest.mark.parametrize("kind", ["edit", "replace"])
def test_of_several_at_once_on_the_same_sight_one_is_made(row: Design, kind: str) -> None:
    """Without the row's lock two would read the same version and both write; each of ten rounds has four at once."""
    user = get_user_model().objects.get(username="olaf")
    for round_ in range(10):
        now = Design.objects.get(pk=row.pk)
        document, versions = read_stored(now)
        seen = {"edit": versions["ladders"]["rule"], "replace": now.state}[kind]
        outcomes = at_once([attempt(user, row.pk, document, seen, kind, 100 * (round_ + 1) + one) for one in range(4)])
        assert sorted(outcomes) == ["made", "refused", "refused", "refused"], round_
        assert Design.objects.get(pk=row.pk).revision == now.revision + 1


def attempt(user: Any, pk: int, document: Any, seen: Any, kind: str, points: int) -> Callable[[], str]:
    keep = document.ladders[0].recent[0].keep.model_copy(update={"points": points})
    value = document.ladders[0].model_copy(update={"recent": [document.ladders[0].recent[0].model_copy(update={"keep": keep})]})

    def act() -> str:
        try:
            if kind == "edit":
                actions.edit(user, pk, [actions.Wanted(actions.Change("ladders", "rule", value), seen)], str(points))
            else:
                actions.replace(user, pk, document.model_copy(update={"ladders": [value]}), seen, str(points))
        except (actions.Stale, actions.Moved):
            return "refused"
        return "made"

    return act


def at_once(acts: list[Callable[[], str]]) -> list[str]:
    found: list[str] = []
    gate = threading.Barrier(len(acts))

    def do(act: Callable[[], str]) -> None:
        try:
            connection.ensure_connection()
            gate.wait()
            found.append(act())
        finally:
            connections.close_all()

    threads = [threading.Thread(target=do, args=(act,)) for act in acts]
    for one in threads:
        one.start()
    for one in threads:
        one.join()
    return found


@pytest.mark.django_db
def test_a_reference_is_of_the_state_that_it_names(owner: Caller, row: Design) -> None:
    owner("post", f"/designs/{row.pk}/reference?on={ON}")
    reference = Reference.objects.get(design=row)
    assert (reference.revision, reference.document["ladders"][0]["id"]) == (row.revision, "rule")
