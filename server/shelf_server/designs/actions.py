"""What can be done to a design. Each action checks the role, checks the result, writes and notes the change in one place."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from uuid import UUID

from django.db import transaction

from shelf_core.design import document
from shelf_core.design.cells import with_cells
from shelf_core.design.differences import changes_between
from shelf_core.design.editing import Change, with_changes
from shelf_core.design.faults import DesignError, fault
from shelf_core.design.soundness import design_faults
from shelf_core.forecast.forecast import Forecast
from shelf_server.designs.access import Person, check_token, design_for, person_id
from shelf_server.designs.changing import AppliedChange, LockedDesign, StaleEntry, Wanted, record
from shelf_server.designs.models import Design, Family, Membership, Reference
from shelf_server.designs.results import document_of, forecast_of, opened, read_as_changed, stored
from shelf_server.designs.rows.tables import LISTS
from shelf_server.designs.rows.writing import settings_columns, store_design


class Stale(Exception):
    """Somebody else has changed entries since the person saw them."""

    def __init__(self, entries: Sequence[StaleEntry]) -> None:
        self.entries = tuple(entries)
        super().__init__("changed since it was read")


@dataclass(frozen=True)
class WantedCells:
    """Texts typed into cells of a workload, and the version of it that the person saw."""

    key: str
    cells: Mapping[str, str]
    seen: int | None

    def read(self, design: document.Design) -> Wanted:
        """The change that the texts make of the workload as it is now.

        Raises DesignError with the faults of each cell, and for a workload that there is not.
        """
        workload = next((one for one in design.workloads if one.id == self.key), None)
        if workload is None:
            raise DesignError([fault("key", message=f'expected the id of a workload, got "{self.key}", which there is not')])
        return Wanted(Change("workloads", self.key, with_cells(workload, self.cells, design.sites)), self.seen)


@dataclass(frozen=True)
class Done:
    """What was done at once, and the design as it is now with its forecast."""

    row: Design
    design: document.Design
    result: Forecast
    applied: list[AppliedChange]


@transaction.atomic
def create_design(user: Person, design: document.Design) -> Design:
    """Store a document as a new design, owned by the person, and take it as their reference.

    Raises MayNot for a token that only reads, DesignError when the document is unsound or cannot be computed.
    """
    check_token(user, Membership.Role.EDITOR)
    faults = design_faults(design)
    if faults:
        raise DesignError(faults)
    forecast_of(design)
    row = Design.objects.create(family=Family.objects.create(), **settings_columns(design))
    store_design(design, row)
    Membership.objects.create(design=row, user_id=person_id(user), role=Membership.Role.OWNER)
    Reference.objects.create(design=row, user_id=person_id(user), revision=row.revision, document=design.canonical())
    return row


@transaction.atomic
def edit(user: Person, design_id: int, asked: Sequence[Wanted | WantedCells], what: str, undoes: int | None = None) -> Done:
    """Make changes at once, or none of them. Cells are read against the entries as they are; `undoes` is what is taken back.

    Raises Stale when an entry has another version by now, DesignError when the design would be unsound or could not be
    computed: what is saved opens again.
    """
    row = design_for(user, design_id, Membership.Role.EDITOR, lock=True)
    locked = LockedDesign(row, stored(row))
    wanted = [one if isinstance(one, Wanted) else one.read(locked.before) for one in asked]
    stale = [entry for one in wanted if (entry := locked.stale(one)) is not None]
    if stale:
        raise Stale(stale)
    changes = [one.change for one in wanted]
    design = with_changes(locked.before, changes)
    result = forecast_of(design)
    applied = locked.write(design, changes)
    row.changed()
    row.save()
    record(user, row, applied, what, undoes)
    read_as_changed(row, design, locked.versions_after(applied))
    return Done(row, design, result, applied)


class Moved(Exception):
    """The design is at another state than the one that was to be replaced."""

    def __init__(self, revision: int) -> None:
        self.revision = revision
        super().__init__(f"the design is at revision {revision} by now")


@transaction.atomic
def replace(user: Person, design_id: int, design: document.Design, seen: UUID, what: str) -> Design:
    """Let a design become another document, whole or not at all; its history goes on.

    Raises Moved when the design is not at the state that was seen, DesignError when the document is unsound or cannot be
    computed.
    """
    row = design_for(user, design_id, Membership.Role.EDITOR, lock=True)
    if row.state != seen:
        raise Moved(row.revision)
    faults = design_faults(design)
    if faults:
        raise DesignError(faults)
    forecast_of(design)
    before = document_of(row)
    if before.canonical() == design.canonical():
        return row
    changes = changes_between(before, design)
    locked = LockedDesign(row, stored(row))
    applied = locked.write(design, changes)
    for part in LISTS:
        locked.set_places(part, [one.id for one in getattr(design, part)])
    row.changed()
    row.save()
    record(user, row, applied, what)
    return row


@transaction.atomic
def set_reference(user: Person, design_id: int) -> Reference:
    """Take the design as it is now as what the person measures changes from."""
    row = opened(user, design_id, Membership.Role.VIEWER)
    now = {"revision": row.revision, "document": document_of(row).canonical()}
    reference, _ = Reference.objects.update_or_create(design=row, user_id=person_id(user), defaults=now)
    return reference


@transaction.atomic
def branch(user: Person, design_id: int, name: str) -> Design:
    """Make a variant of a design that starts as a copy of it; who may work on the one may work on the other.

    What was the reference of the person for the first is the first itself for the new one. Raises ValueError for a name
    that a variant of the family has.
    """
    row = _with_its_family(user, design_id, Membership.Role.EDITOR)
    _check_name(row.family, name)
    design = document_of(row)
    forecast_of(design)
    new = Design.objects.create(family=row.family, variant=name, current=False, **settings_columns(design))
    store_design(design, new)
    members = Membership.objects.filter(design=row)
    Membership.objects.bulk_create([Membership(design=new, user=one.user, role=one.role) for one in members])
    Reference.objects.create(design=new, user_id=person_id(user), revision=new.revision, document=design.canonical())
    return new


@transaction.atomic
def rename_variant(user: Person, design_id: int, name: str) -> Design:
    """Give a variant another name. Raises ValueError for one that another variant has."""
    row = _with_its_family(user, design_id, Membership.Role.EDITOR)
    if name != row.variant:
        _check_name(row.family, name)
    row.variant = name
    row.save(update_fields=["variant"])
    return row


@transaction.atomic
def make_current(user: Person, design_id: int) -> Design:
    """Let a variant be the one that a family opens with."""
    row = _with_its_family(user, design_id, Membership.Role.EDITOR)
    Design.objects.filter(family=row.family, current=True).update(current=False)
    row.current = True
    row.save(update_fields=["current"])
    return row


@transaction.atomic
def drop(user: Person, design_id: int) -> None:
    """Drop a variant with all its history. Raises ValueError for the current one while there are others."""
    row = _with_its_family(user, design_id, Membership.Role.OWNER)
    others = Design.objects.filter(family=row.family).exclude(pk=row.pk)
    if row.current and others.exists():
        raise ValueError("expected a variant that is not the current one; make another current first")
    family = row.family
    row.delete()
    if not others.exists():
        family.delete()


@transaction.atomic
def remove(user: Person, design_id: int, seen: UUID) -> None:
    """Remove a design with all its variants and their histories: for good. The person must own every one of them.

    Raises NoSuchDesign, MayNot, and Moved where the design is no longer at the state that was seen.
    """
    row = _with_its_family(user, design_id, Membership.Role.OWNER)
    variants = list(Design.objects.filter(family=row.family).values_list("pk", flat=True))
    for key in variants:
        design_for(user, key, Membership.Role.OWNER)
    if row.state != seen:
        raise Moved(row.revision)
    family = row.family
    Design.objects.filter(family=family).delete()
    family.delete()


def _with_its_family(user: Person, design_id: int, wanted: str) -> Design:
    """The design, if the person may; no other variant of its family changes until the transaction ends.

    The family is locked before the design, by everybody in this order, so that nobody waits for each other for good.
    """
    family = design_for(user, design_id, wanted).family_id
    Family.objects.select_for_update().filter(pk=family).first()
    return design_for(user, design_id, wanted, lock=True)


def _check_name(family: Family, name: str) -> None:
    if Design.objects.filter(family=family, variant=name).exists():
        raise ValueError(f'expected a name that no variant has, got "{name}"')
