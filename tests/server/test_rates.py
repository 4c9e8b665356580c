"""Rates are those of everybody who answers together: counted in the database, one by one."""

import pytest
from django.test import Client

from shelf_server.api import rates
from shelf_server.designs.models import RequestCount
from tests.server.test_saved_opens import at_once

MINUTE = 30_000_000


@pytest.mark.django_db(transaction=True)
def test_of_many_at_once_no_more_than_the_rate_are_let_through() -> None:
    """Each thread has a connection of its own, as each process has."""

    def ask_ten_times() -> str:
        return ",".join(str(rates.count("script:7", MINUTE) <= 50) for _ in range(10))

    let_through = ",".join(at_once([ask_ten_times] * 8)).split(",")
    assert (let_through.count("True"), let_through.count("False")) == (50, 30)


@pytest.mark.django_db
def test_minutes_that_are_over_are_forgotten_for_everybody() -> None:
    assert all(rates.count("page:1", MINUTE) <= 3 for _ in range(3))
    assert rates.count("page:1", MINUTE) > 3
    assert rates.count("nobody:192.0.2.1", MINUTE) <= 3
    assert rates.count("page:1", MINUTE + 2) <= 3
    assert list(RequestCount.objects.values_list("who", "minute", "times")) == [("page:1", MINUTE + 2, 1)]


@pytest.mark.django_db
def test_whether_it_answers_may_be_asked_as_often_as_one_likes() -> None:
    assert Client().get("/api/health").status_code == 200
    assert not RequestCount.objects.exists()


def test_what_is_asked_before_processes_fork_needs_no_database() -> None:
    """Without the mark of a test that may use the database, a question to it fails: a connection must not be forked."""
    answer = Client().get("/api/schemas/design")
    assert answer.status_code == 200
    assert answer.json()["title"] == "A retention design"
