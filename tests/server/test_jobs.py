"""Long work over the API: asked for once, found again by whoever may see the design, stopped, ended with what it is about."""

import asyncio
import json
import time
import zlib
from datetime import timedelta
from types import SimpleNamespace
from typing import Any, cast
from unittest.mock import AsyncMock

import pytest
from django.contrib.auth import get_user_model
from django.utils import timezone
from procrastinate.exceptions import ConnectorException

from shelf_core.chance.bands import bands_of
from shelf_core.forecast.forecast import forecast
from shelf_core.reasons.keeps import longest_keep
from shelf_core.reasons.longer import one_more_month
from shelf_core.reasons.marginals import marginals
from shelf_server.designs.models import Design, Membership
from shelf_server.designs.rows.reading import load_design
from shelf_server.jobs import computing, watching
from shelf_server.jobs.asking import ENDED_KEPT
from shelf_server.jobs.kinds import KINDS
from shelf_server.jobs.models import MOST_SECONDS, Job, JobPart
from shelf_server.jobs.tasks import BATCHES
from tests.server.conftest import Caller, member, signed_in
from tests.server.working import work_off

ON = "2027-06-01"


def begin(caller: Caller, row: Design, kind: str, **more: Any) -> Any:
    status, answer = caller("post", f"/designs/{row.pk}/jobs", {"kind": kind, "on": ON, **more})
    assert status == 202, answer
    return answer


def of(caller: Caller, key: str) -> Any:
    status, answer = caller("get", f"/jobs/{key}")
    assert status == 200, answer
    return answer


def as_read(kind: Any, value: Any) -> Any:
    return KINDS[kind].whole.read(KINDS[kind].whole.write(value))


def test_what_comes_of_batches_is_what_one_run_gives(owner: Caller, unknown: Design) -> None:
    result = forecast(load_design(unknown))
    begun = begin(owner, unknown, "bands", seed=7)
    assert (begun["state"], begun["done"]) == ("waiting", 0)
    assert work_off(1) == 1
    halfway = of(owner, begun["id"])
    assert (halfway["state"], halfway["done"], halfway["bands"]) == ("running", 1, None)
    work_off()
    bands = Job.objects.get(pk=begun["id"])
    assert KINDS["bands"].whole.read(bytes(bands.result or b"")) == as_read("bands", bands_of(result, 1000, 7))
    answer = of(owner, begun["id"])
    assert (answer["state"], answer["done"]) == ("done", answer["of"])
    (band,) = answer["bands"]["bands"]
    assert band["peak_low"] < band["peak_middle"] < band["peak_high"]
    for kind, expected in (("rules", marginals(result, ON)), ("longer", one_more_month(result))):
        key = begin(owner, unknown, kind)["id"]
        work_off()
        assert KINDS[kind].whole.read(bytes(Job.objects.get(pk=key).result or b"")) == as_read(kind, expected)  # type: ignore[index]
    assert not JobPart.objects.exists()
    assert {bytes(document) for document in Job.objects.values_list("document", flat=True)} == {b""}


def test_batches_may_come_in_any_order_and_twice(owner: Caller, unknown: Design) -> None:
    key = begin(owner, unknown, "rules")["id"]
    expected = marginals(forecast(load_design(unknown)), ON)
    batches = min(BATCHES, len(expected))
    for number in (*reversed(range(batches)), *range(batches)):
        computing.compute(key, number, batches)
    answer = Job.objects.get(pk=key)
    assert (answer.state, answer.done, answer.of) == ("done", len(expected), len(expected))
    assert KINDS["rules"].whole.read(bytes(answer.result or b"")) == as_read("rules", expected)


def test_what_cannot_be_done_is_said_at_once(owner: Caller, row: Design) -> None:
    status, answer = owner("post", f"/designs/{row.pk}/jobs", {"kind": "bands", "on": ON})
    assert status == 422
    assert "says what is not known" in answer["detail"]
    status, answer = owner("post", f"/designs/{row.pk}/jobs", {"kind": "rules", "on": "1999-01-01"})
    assert status == 422
    status, answer = owner("post", f"/designs/{row.pk}/jobs", {"kind": "file", "on": ON, "file": "report.doc"})
    assert (status, "report.pdf" in answer["detail"]) == (422, True)
    assert not Job.objects.exists()


def test_what_fails_says_why(owner: Caller, unknown: Design, monkeypatch: pytest.MonkeyPatch) -> None:
    for error, said in (
        (ValueError("it does not go"), "it does not go"),
        (MemoryError(), computing.OUT_OF_MEMORY),
        (ZeroDivisionError(), computing.OUR_OWN),
    ):

        def fails(_work: Any, _number: int, error: BaseException = error) -> None:
            raise error

        monkeypatch.setattr("shelf_core.chance.bands.BandsWork.part", fails)
        key = begin(owner, unknown, "bands")["id"]
        work_off()
        answer = of(owner, key)
        assert (answer["state"], answer["failure"]) == ("failed", said)


def test_the_same_question_is_answered_once(owner: Caller, unknown: Design) -> None:
    """What was asked of the same state and goes on, or is there, is not done again; another question of its kind is."""
    vera = member(unknown, "vera", "viewer")
    first = begin(owner, unknown, "bands", seed=7)["id"]
    assert begin(vera, unknown, "bands", seed=7)["id"] == first
    work_off()
    assert begin(vera, unknown, "bands", seed=7) == of(owner, first)
    # Of each kind the last few are kept.
    for seed in range(8, 8 + ENDED_KEPT + 1):
        assert of(owner, first)["state"] == "done"
        assert begin(owner, unknown, "bands", seed=seed)["id"] != first
        work_off()
    assert owner("get", f"/jobs/{first}")[0] == 404


def test_it_is_found_again_by_whoever_may_see_the_design(owner: Caller, row: Design) -> None:
    assert owner("get", f"/designs/{row.pk}/jobs") == (200, {"jobs": []})
    rules, longer = begin(owner, row, "rules")["id"], begin(owner, row, "longer")["id"]
    work_off()
    vera, sten = member(row, "vera", "viewer"), signed_in("sten")
    for caller in (owner, vera):
        found = caller("get", f"/designs/{row.pk}/jobs")[1]["jobs"]
        assert {one["kind"]: one["id"] for one in found} == {"rules": rules, "longer": longer}
        assert all(one["rules"] is None and one["longer"] is None for one in found)
        assert isinstance(of(caller, rules)["rules"], list)
    assert sten("get", f"/designs/{row.pk}/jobs")[0] == 404
    assert sten("get", f"/jobs/{rules}")[0] == 404
    assert sten("delete", f"/jobs/{rules}")[0] == 404
    Membership.objects.filter(user__username="vera").delete()
    assert vera("get", f"/jobs/{rules}")[0] == 404


def test_it_is_stopped_by_who_asked_or_may_edit(owner: Caller, row: Design) -> None:
    vera, nora = member(row, "vera", "viewer"), member(row, "nora", "viewer")
    edith = member(row, "edith", "editor")
    key = begin(vera, row, "rules")["id"]
    work_off(1)
    assert nora("delete", f"/jobs/{key}")[0] == 403
    assert of(nora, key)["state"] == "running"
    status, answer = edith("delete", f"/jobs/{key}")
    assert (status, answer["state"]) == (200, "stopped")
    work_off()
    assert (of(vera, key)["state"], JobPart.objects.count()) == ("stopped", 0)
    # What has ended stays as it is.
    done = begin(vera, row, "longer")["id"]
    work_off()
    assert vera("delete", f"/jobs/{done}")[1]["state"] == "done"


def test_too_much_at_once_is_refused(owner: Caller, unknown: Design) -> None:
    for seed in range(4):
        begin(owner, unknown, "bands", seed=seed)
    status, answer = owner("post", f"/designs/{unknown.pk}/jobs", {"kind": "rules", "on": ON})
    assert (status, "expected at most 4" in answer["detail"]) == (422, True)
    begin(member(unknown, "vera", "viewer"), unknown, "rules")


def test_it_ends_with_its_design(owner: Caller, row: Design) -> None:
    key = begin(owner, row, "rules")["id"]
    work_off(1)
    Design.objects.get(pk=row.pk).delete()
    assert not Job.objects.filter(pk=key).exists()
    assert not JobPart.objects.exists()
    work_off()
    assert owner("get", f"/jobs/{key}")[0] == 404


def test_it_is_about_the_design_as_it_was(owner: Caller, row: Design) -> None:
    expected = marginals(forecast(load_design(row)), ON)
    key = begin(owner, row, "rules")["id"]
    Design.objects.filter(pk=row.pk).update(years=1)
    work_off()
    job = Job.objects.get(pk=key)
    assert KINDS["rules"].whole.read(bytes(job.result or b"")) == as_read("rules", expected)


def test_it_takes_no_longer_than_it_may(owner: Caller, row: Design) -> None:
    key = begin(owner, row, "rules")["id"]
    work_off(1)
    Job.objects.filter(pk=key).update(begun=timezone.now() - timedelta(seconds=MOST_SECONDS + 1))
    work_off()
    assert of(owner, key)["failure"] == computing.OVERDUE


def test_time_in_which_nobody_worked_on_it_does_not_count(owner: Caller, row: Design) -> None:
    """A server that was down over a weekend goes on with what it had begun."""
    ago = timezone.now() - timedelta(days=2)
    ends = []
    for worked_on in (MOST_SECONDS + 60, MOST_SECONDS - 60):
        key = begin(owner, row, "rules")["id"]
        work_off(1)
        Job.objects.filter(pk=key).update(begun=ago - timedelta(seconds=worked_on), heard=ago)
        work_off()
        ends.append(of(owner, key))
    assert [one["state"] for one in ends] == ["failed", "done"]
    assert ends[0]["failure"] == computing.OVERDUE


def test_a_worker_that_is_to_end_gives_back_what_it_has_not_done(owner: Caller, row: Design) -> None:
    key = begin(owner, row, "rules")["id"]
    computing.AT_WORK.is_ending.set()
    try:
        with pytest.raises(computing.GivenBack):
            computing.compute(key, 0, 1)
    finally:
        computing.AT_WORK.is_ending.clear()
    assert of(owner, key)["state"] == "running"
    computing.compute(key, 0, 1)
    assert of(owner, key)["state"] == "done"


def test_what_ends_its_workers_is_given_up(owner: Caller, row: Design) -> None:
    key = begin(owner, row, "rules")["id"]
    assert [watching.may_be_taken_up(key) for _ in range(4)] == [True, True, True, False]


def test_a_batch_that_another_worker_took_up_first_ends_nobody(monkeypatch: pytest.MonkeyPatch) -> None:
    """Two look after the same batch; the queue refuses the second, which goes on looking."""
    left = SimpleNamespace(task_kwargs={"job": "12"})
    queue = SimpleNamespace(
        get_stalled_jobs=AsyncMock(return_value=[left]), retry_job=AsyncMock(side_effect=ConnectorException)
    )
    held = iter([0, 0, watching.RETIRES_ABOVE_BYTES])
    monkeypatch.setattr(watching, "resident_bytes", lambda: next(held))
    monkeypatch.setattr(watching, "may_be_taken_up", lambda _: True)
    asyncio.run(watching.look_after(cast("Any", SimpleNamespace(job_manager=queue)), looks_each=0))
    assert queue.retry_job.await_count == 2


@pytest.mark.parametrize(
    ("name", "begins"), [("report.html", b"<!doctype html>"), ("forecast.xlsx", b"PK"), ("report.pdf", b"%PDF")]
)
def test_files_are_made_in_the_background(owner: Caller, row: Design, name: str, begins: bytes) -> None:
    key = begin(owner, row, "file", file=name)["id"]
    assert owner("get", f"/jobs/{key}/file")[0] == 422
    work_off()
    assert of(owner, key)["file"] == name
    answer = owner.client.get(f"/api/jobs/{key}/file")
    assert answer.status_code == 200
    assert answer.content[: len(begins)].lower() == begins.lower()
    assert name.split(".")[1] in answer["Content-Disposition"]
    assert signed_in("sten").client.get(f"/api/jobs/{key}/file").status_code == 404
    # It is no work that a page would find again.
    assert owner("get", f"/designs/{row.pk}/jobs")[1] == {"jobs": []}


def test_a_job_keeps_its_worker_s_time(owner: Caller, row: Design) -> None:
    """What watches over a worker knows since when it has been at one job, and that it is at none."""
    key = begin(owner, row, "rules")["id"]
    before = time.monotonic()
    computing.compute(key, 0, 1)
    assert computing.AT_WORK.since >= before
    assert computing.AT_WORK.job == ""


def test_the_document_is_kept_small(owner: Caller, row: Design) -> None:
    key = begin(owner, row, "rules")["id"]
    kept = bytes(Job.objects.get(pk=key).document)
    assert zlib.decompress(kept).startswith(b"{")
    assert get_user_model().objects.get(username="olaf").pk == Job.objects.get(pk=key).asked_by_id


def test_the_longest_keep_is_found_in_the_background(owner: Caller, row: Design) -> None:
    expected = longest_keep(forecast(load_design(row)), "disk", "rule", "recent", ON)
    key = begin(owner, row, "keep", target="disk", ladder="rule", rung="recent")["id"]
    work_off()
    assert of(owner, key)["keep"] == json.loads(KINDS["keep"].whole.write(expected))
    wrong = begin(owner, row, "keep", target="disk", ladder="no", rung="recent")["id"]
    work_off()
    assert "expected the id of a ladder" in of(owner, wrong)["failure"]
