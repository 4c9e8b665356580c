"""What can be done to a design. Each action checks the role, checks the result, writes and notes the change in one place."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any
from uuid import UUID

from django.db import transaction
from django.db.models import Max

from shelf_core.design import document
from shelf_core.design.base import Part
from shelf_core.design.cells import with_cells
from shelf_core.design.differences import changes_between
from shelf_core.design.editing import PARTS, WHOLES, Change, entry_of, with_changes
from shelf_core.design.faults import DesignError, fault
from shelf_core.design.soundness import design_faults
from shelf_core.forecast.forecast import Forecast
from shelf_server.designs.access import Person, check_token, design_for, person_id
from shelf_server.designs.models import Change as Noted
from shelf_server.designs.models import Design, Family, Membership, Reference
from shelf_server.designs.models.design import Entity
from shelf_server.designs.results import document_of, forecast_of, opened, read_as_changed
from shelf_server.designs.rows.store import (
    MODELS,
    Keys,
    models_row,
    settings_columns,
    store_design,
    write_entities,
    write_stock,
)
from shelf_server.designs.rows.values import Plain


@dataclass(frozen=True)
class StaleEntry:
    """An entry that somebody else has changed: what it was when the person saw it, and what it is now."""

    part: str
    key: str
    seen: Plain | None
    now: Plain | None
    version: int | None
    who: str


class Stale(Exception):
    """Somebody else has changed entries since the person saw them."""

    def __init__(self, entries: Sequence[StaleEntry]) -> None:
        self.entries = tuple(entries)
        super().__init__("changed since it was read")


@dataclass(frozen=True)
class Wanted:
    """A change and the version of its entry that the person saw, None for one that is to be new."""

    change: Change
    seen: int | None


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
class Made:
    """A change that was made: the entry and its place before, the entry and its version after."""

    part: str
    key: str
    version: int
    place_before: int | None
    before: Part | None
    after: Part | None


@dataclass(frozen=True)
class Done:
    """What was done at once, and the design as it is now with its forecast."""

    row: Design
    design: document.Design
    result: Forecast
    made: list[Made]


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
def edit(user: Person, design_id: int, asked: Sequence[Wanted | WantedCells], what: str) -> Done:
    """Make changes at once, or none of them. Cells are read against the entries as they are.

    Raises Stale when an entry has another version by now, DesignError when the design would be unsound or could not be
    computed: what is saved opens again.
    """
    row = design_for(user, design_id, Membership.Role.EDITOR, lock=True)
    hands = _Hands(row, document_of(row))
    wanted = [one if isinstance(one, Wanted) else one.read(hands.before) for one in asked]
    hands.find([one.change for one in wanted])
    stale = [entry for one in wanted if (entry := hands.stale(one)) is not None]
    if stale:
        raise Stale(stale)
    design = with_changes(hands.before, [one.change for one in wanted])
    result = forecast_of(design)
    made = hands.write(design, [one.change for one in wanted])
    row.changed()
    row.save()
    _note(user, row, made, what)
    read_as_changed(row, design)
    return Done(row, design, result, made)


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
    hands = _Hands(row, before)
    hands.find(changes)
    made = hands.write(design, changes)
    for part in MODELS:
        hands.set_places(part, [one.id for one in getattr(design, part)])
    row.changed()
    row.save()
    _note(user, row, made, what)
    return row


@transaction.atomic
def set_reference(user: Person, design_id: int) -> Reference:
    """Take the design as it is now as what the person measures changes from."""
    row = opened(user, design_id, Membership.Role.VIEWER)
    now = {"revision": row.revision, "document": document_of(row).canonical()}
    reference, _ = Reference.objects.update_or_create(design=row, user_id=person_id(user), defaults=now)
    return reference


@dataclass
class _Hands:
    """A design that is being changed, and the rows of the entries concerned."""

    row: Design
    before: document.Design
    entities: dict[tuple[str, str], Entity] = field(default_factory=dict)

    def find(self, changes: Sequence[Change]) -> None:
        for part in {change.part for change in changes} & set(MODELS):
            keys = [change.key for change in changes if change.part == part]
            rows = MODELS[part].objects.filter(design=self.row, key__in=keys)  # type: ignore[attr-defined]
            self.entities.update({(part, one.key): one for one in rows})

    def version(self, part: str, key: str) -> int | None:
        if part in WHOLES:
            return self.row.version if part == "settings" else self.row.stock_version
        entity = self.entities.get((part, key))
        return entity.version if entity else None

    def stale(self, wanted: Wanted) -> StaleEntry | None:
        part, key = wanted.change.part, wanted.change.key
        current = self.version(part, key)
        if current == wanted.seen:
            return None
        changes = Noted.objects.filter(design=self.row, list_name=part, key=key).select_related("who")
        last = changes.order_by("-revision").first()
        at_sight: Any = changes.filter(version=wanted.seen).first() if wanted.seen is not None else None
        after_sight = changes.filter(version__gt=wanted.seen or 0).first()
        was = at_sight.after if at_sight else after_sight.before if after_sight else None
        now = entry_of(self.before, part, key)
        return StaleEntry(part, key, was, now.whole() if now else None, current, str(last.who) if last and last.who else "")

    def write(self, design: document.Design, changes: Sequence[Change]) -> list[Made]:
        """Write what is new before what refers to it, and take out what was referred to last."""
        made = [self._made(change) for change in changes]
        keys = Keys.of(self.row)
        for part in PARTS:
            of_part = [one for one in made if one.part == part and one.after is not None]
            if part in MODELS and of_part:
                write_entities(part, [(self._row(one), one.after) for one in of_part], keys)  # type: ignore[misc]
        for part in reversed(PARTS):
            gone = [one.key for one in made if one.part == part and one.after is None]
            if gone and part in MODELS:
                MODELS[part].objects.filter(design=self.row, key__in=gone).delete()  # type: ignore[attr-defined]
        self._write_wholes(design, {one.part for one in made}, keys)
        for part in {one.part for one in made if (one.before is None) != (one.after is None)} & set(MODELS):
            self.set_places(part, [one.id for one in getattr(design, part)])
        return made

    def _made(self, change: Change) -> Made:
        before = entry_of(self.before, change.part, change.key)
        place = None
        if change.part in MODELS and before is not None:
            place = [one.id for one in getattr(self.before, change.part)].index(change.key)
        version = (self.version(change.part, change.key) or self._last_version(change)) + 1
        return Made(change.part, change.key, version, place, before, change.value)

    def _last_version(self, change: Change) -> int:
        """An entry that comes back goes on counting where it left off, so that an old sight of it stays stale."""
        changes = Noted.objects.filter(design=self.row, list_name=change.part, key=change.key)
        return changes.aggregate(top=Max("version"))["top"] or 0

    def _row(self, made: Made) -> Entity:
        entity = self.entities.get((made.part, made.key)) or models_row(made.part, self.row, made.key, 0)
        entity.version = made.version
        return entity

    def _write_wholes(self, design: document.Design, parts: set[str], keys: Keys) -> None:
        if "settings" in parts:
            self.row.version += 1
            for name, value in settings_columns(design).items():
                setattr(self.row, name, value)
        if "stock" in parts:
            self.row.stock_version += 1
        # A route is written with new rows for its copies, and opening stock lies on those.
        if "stock" in parts or ("routes" in parts and design.opening):
            write_stock(design, self.row, keys)

    def set_places(self, part: str, order: list[str]) -> None:
        """Put the entries of a list into an order."""
        places = {key: place for place, key in enumerate(order)}
        rows = MODELS[part].objects.filter(design=self.row).only("key", "position")  # type: ignore[attr-defined]
        moved = [one for one in rows if one.position != places[one.key]]
        for one in moved:
            one.position = places[one.key]
        MODELS[part].objects.bulk_update(moved, ["position"], batch_size=500)  # type: ignore[attr-defined]


def _note(user: Person, row: Design, made: Sequence[Made], what: str) -> None:
    common = {"design": row, "revision": row.revision, "who_id": person_id(user), "what": what}
    Noted.objects.bulk_create(
        [
            Noted(
                **common,
                list_name=one.part,
                key=one.key,
                version=one.version,
                before=None if one.before is None else one.before.plain(),
                after=None if one.after is None else one.after.plain(),
            )
            for one in made
        ],
        batch_size=1000,
    )


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
