"""Who may do what: the one place that is asked."""

from django.contrib.auth.models import AbstractBaseUser, AnonymousUser
from django.db.models import F, QuerySet

from shelf_server.designs.models import Design, Membership

RANK = {Membership.Role.VIEWER: 0, Membership.Role.EDITOR: 1, Membership.Role.OWNER: 2}


class NoSuchDesign(Exception):
    """There is no such design, or it is not this person's: the two are not told apart."""


class MayNot(Exception):
    """The person has a role in the design, or a token one of its own, but one that does not allow this."""

    def __init__(self, role: str, wanted: str, *, by_token: bool = False) -> None:
        self.role, self.wanted = role, wanted
        is_what = f"this token has the role {role}" if by_token else f"you are {role} of this design"
        super().__init__(f"This needs the role {wanted}; {is_what}.")


Person = AbstractBaseUser | AnonymousUser


def person_id(user: Person) -> int:
    """The id of a person; 0, which nobody has, for somebody who is not signed in."""
    return user.pk or 0


def designs_of(user: Person) -> QuerySet[Membership]:
    """The memberships of a person, by the names of the designs."""
    return Membership.objects.filter(user_id=person_id(user)).select_related("design").order_by("design__name", "design_id")


def design_for(user: Person, design_id: int, wanted: str, *, lock: bool = False) -> Design:
    """The design, if the person has at least the role `wanted` in it.

    With `lock` the row stays locked until the transaction ends. Raises NoSuchDesign or MayNot.
    """
    rows = Design.objects.filter(pk=design_id, memberships__user_id=person_id(user)).annotate(role=F("memberships__role"))
    found = (rows.select_for_update(of=("self",)) if lock else rows).first()
    if found is None:
        raise NoSuchDesign
    check_token(user, wanted)
    if RANK[Membership.Role(found.role)] < RANK[Membership.Role(wanted)]:
        raise MayNot(found.role, wanted)
    found.asker = (person_id(user), found.role)
    return found


def limited_to(user: Person, role: str) -> Person:
    """The person as a token of theirs speaks for them: with at most its role."""
    user.token_role = role  # type: ignore[union-attr]
    return user


def check_token(user: Person, wanted: str) -> None:
    """Raises MayNot when a token speaks for the person whose role is less than `wanted`."""
    role = getattr(user, "token_role", None)
    if role is not None and RANK[Membership.Role(role)] < RANK[Membership.Role(wanted)]:
        raise MayNot(role, wanted, by_token=True)


def role_of(user: Person, design: Design) -> str:
    """The person's role in a design of theirs, as far as a token that speaks for them goes."""
    asker, role = design.asker or (None, "")
    if asker != person_id(user):
        role = Membership.objects.get(user_id=person_id(user), design=design).role
    return min(role, getattr(user, "token_role", role), key=lambda one: RANK[Membership.Role(one)])
