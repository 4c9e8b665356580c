"""People and what they are to designs, as whoever runs the server changes it."""

from django.contrib.auth import get_user_model
from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from shelf_server.designs.models import Design, Membership

SHORTEST_PASSWORD = 12


def add_person(name: str, password: str) -> AbstractBaseUser:
    """A new person who may sign in. Raises ValueError for a name that is taken or none, and a password that is too short."""
    users = get_user_model()
    if not name or name != name.strip() or len(name) > 150 or not name.isprintable():
        raise ValueError(f'expected a name of 1 to 150 letters without space around it, got "{name}"')
    if users.objects.filter(username=name).exists():
        raise ValueError(f'expected a name that nobody has, got "{name}"')
    _check_password(password)
    return users.objects.create_user(name, password=password)


def set_password(name: str, password: str) -> None:
    """Give a person another password; their sessions and tokens end with the old one. Raises ValueError."""
    person = person_named(name)
    _check_password(password)
    person.set_password(password)
    person.save()


@transaction.atomic
def give_role(name: str, design_id: int, role: str) -> None:
    """Let a person be something to a design, or something else than before. Raises ValueError."""
    person, design = person_named(name), _design(design_id)
    if role not in Membership.Role.values:
        raise ValueError(f'expected one of {", ".join(Membership.Role.values)}, got "{role}"')
    if role != Membership.Role.OWNER:
        _check_another_owner(person, design)
    Membership.objects.update_or_create(design=design, user_id=person.pk, defaults={"role": role})


@transaction.atomic
def take_role(name: str, design_id: int) -> None:
    """Let a person be nothing to a design any more. Raises ValueError for one who is nothing to it, or its last owner."""
    person, design = person_named(name), _design(design_id)
    found = Membership.objects.filter(design=design, user_id=person.pk)
    if not found.exists():
        raise ValueError(f'expected somebody who has a role in design {design_id}, got "{name}"')
    _check_another_owner(person, design)
    found.delete()


def person_named(name: str) -> AbstractBaseUser:
    """The person with a name. Raises ValueError when there is nobody."""
    found: AbstractBaseUser | None = get_user_model().objects.filter(username=name).first()
    if found is None:
        raise ValueError(f'expected the name of somebody who is known here, got "{name}"')
    return found


def roles() -> list[tuple[str, int, str, str]]:
    """Everybody's roles: name, number and name of the design, role. Who has none is there once, with 0 and nothing."""
    found = Membership.objects.select_related("user", "design").order_by("user__username", "design__name", "design_id")
    lines = [(str(one.user), one.design_id, f"{one.design.name}, {one.design.variant}", one.role) for one in found]
    known = {line[0] for line in lines}
    alone = get_user_model().objects.exclude(username__in=known).order_by("username")
    return sorted([*lines, *((str(person), 0, "", "") for person in alone)])


def _design(design_id: int) -> Design:
    found: Design | None = Design.objects.select_for_update().filter(pk=design_id).first()
    if found is None:
        raise ValueError(f"expected the number of a design, got {design_id}")
    return found


def _check_password(password: str) -> None:
    if len(password) < SHORTEST_PASSWORD:
        raise ValueError(f"expected a password of at least {SHORTEST_PASSWORD} characters, got {len(password)}")


def _check_another_owner(person: AbstractBaseUser, design: Design) -> None:
    owners = Membership.objects.filter(design=design, role=Membership.Role.OWNER)
    if owners.filter(user_id=person.pk).exists() and owners.count() == 1:
        raise ValueError("expected a design that keeps an owner; make somebody else its owner first")
