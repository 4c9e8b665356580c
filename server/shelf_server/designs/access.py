"""Who may do what: the one place that is asked."""

from django.contrib.auth.models import AbstractBaseUser, AnonymousUser
from django.db.models import QuerySet

from shelf_server.designs.models import Design, Membership

RANK = {Membership.Role.VIEWER: 0, Membership.Role.EDITOR: 1, Membership.Role.OWNER: 2}


class NoSuchDesign(Exception):
    """There is no such design, or it is not this person's: the two are not told apart."""


class MayNot(Exception):
    """The person has a role in the design, but one that does not allow this."""

    def __init__(self, role: str, wanted: str) -> None:
        self.role, self.wanted = role, wanted
        super().__init__(f"This needs the role {wanted}; you are {role} of this design.")


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
    membership = Membership.objects.filter(user_id=person_id(user), design_id=design_id).first()
    if membership is None:
        raise NoSuchDesign
    if RANK[Membership.Role(membership.role)] < RANK[Membership.Role(wanted)]:
        raise MayNot(membership.role, wanted)
    rows = Design.objects.select_for_update() if lock else Design.objects
    found: Design | None = rows.filter(pk=design_id).first()
    if found is None:  # dropped since a moment ago
        raise NoSuchDesign
    return found


def role_of(user: Person, design: Design) -> str:
    """The person's role in a design of theirs."""
    return Membership.objects.get(user_id=person_id(user), design=design).role
