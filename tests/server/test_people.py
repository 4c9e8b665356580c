"""People and their roles, as whoever runs the server changes them: what is refused, and what ends with a password."""

import io

import pytest
from django.contrib.auth import get_user_model
from django.core.management import CommandError, call_command
from django.utils import timezone

from shelf_server.designs import people
from shelf_server.designs.models import Design, Membership
from shelf_server.designs.tokens import find_token, make_token
from tests.server.conftest import Caller

PASSWORD = "a-long-and-dull-password"


def listed() -> list[list[str]]:
    out = io.StringIO()
    call_command("people", "list", stdout=out)
    return [line.split("\t") for line in out.getvalue().splitlines()]


def test_roles_are_given_changed_and_taken(owner: Caller, row: Design) -> None:
    people.add_person("nora", PASSWORD)
    name = f"{row.name}, {row.variant}"
    assert listed() == [["nora", "0", "", ""], ["olaf", str(row.pk), name, "owner"]]
    call_command("people", "give", "nora", str(row.pk), "viewer")
    call_command("people", "give", "nora", str(row.pk), "editor")
    assert listed()[0] == ["nora", str(row.pk), name, "editor"]
    call_command("people", "take", "nora", str(row.pk))
    assert listed()[0] == ["nora", "0", "", ""]


@pytest.mark.parametrize("take", [True, False])
def test_a_design_keeps_an_owner(owner: Caller, row: Design, *, take: bool) -> None:
    with pytest.raises(ValueError, match="keeps an owner"):
        _ = people.take_role("olaf", row.pk) if take else people.give_role("olaf", row.pk, "viewer")  # type: ignore[func-returns-value]
    people.add_person("nora", PASSWORD)
    people.give_role("nora", row.pk, "owner")
    _ = people.take_role("olaf", row.pk) if take else people.give_role("olaf", row.pk, "viewer")  # type: ignore[func-returns-value]
    assert list(Membership.objects.filter(design=row, role="owner").values_list("user__username", flat=True)) == ["nora"]


@pytest.mark.parametrize(
    ("arguments", "said"),
    [
        (["give", "nobody", "1", "viewer"], 'expected the name of somebody who is known here, got "nobody"'),
        (["give", "olaf", "0", "viewer"], "expected the number of a design, got 0"),
        (["give", "olaf", "{row}", "king"], 'expected one of viewer, editor, owner, got "king"'),
        (["take", "nils", "{row}"], 'expected somebody who has a role in design {row}, got "nils"'),
    ],
)
def test_what_cannot_be_is_refused_in_a_line(owner: Caller, row: Design, arguments: list[str], said: str) -> None:
    people.add_person("nils", PASSWORD)
    given = [one.replace("{row}", str(row.pk)) for one in arguments]
    with pytest.raises(CommandError) as refused:
        call_command("people", *given)
    assert str(refused.value) == said.replace("{row}", str(row.pk))


@pytest.mark.parametrize("name", ["", " nora", "no\nra", "x" * 151])
def test_a_name_is_one_that_can_be_typed(db: None, name: str) -> None:
    with pytest.raises(ValueError, match="expected a name of 1 to 150 letters"):
        people.add_person(name, PASSWORD)


def test_tokens_and_the_old_password_end_with_a_new_one(db: None) -> None:
    nora = people.add_person("nora", PASSWORD)
    _, text = make_token(nora, "weekly report", "viewer", 30)
    assert find_token(text, timezone.now()) is not None
    with pytest.raises(ValueError, match="at least 12 characters"):
        people.set_password("nora", "short")
    people.set_password("nora", "another-dull-password")
    assert find_token(text, timezone.now()) is None
    now = get_user_model().objects.get(username="nora")
    assert now.check_password("another-dull-password")
    assert not now.check_password(PASSWORD)
