"""What can be done to a design. Each action checks the role, checks the result, writes and notes the change in one place."""

from dataclasses import dataclass
from typing import Any

from django.db import transaction
from django.db.models import Max

from shelf_core.design import document
from shelf_core.design.base import Part
from shelf_core.design.faults import DesignError, fault
from shelf_core.design.soundness import design_faults
from shelf_server.designs.access import Person, design_for, person_id
from shelf_server.designs.models import Change, Design, Membership, Reference
from shelf_server.designs.models.design import Entity
from shelf_server.designs.results import document_of
from shelf_server.designs.rows.store import MODELS, REFERRING, Keys, models_row, settings_columns, store_design, write_entity
from shelf_server.designs.rows.values import Plain


class Stale(Exception):
    """Somebody else has changed the entry since: what it was when the person saw it, and what it is now."""

    def __init__(self, *, seen: Plain | None, now: Plain | None, version: int | None, who: str) -> None:
        self.seen, self.now, self.version, self.who = seen, now, version, who
        super().__init__("changed since it was read")


@dataclass(frozen=True)
class Done:
    """A change that was made: the entry before and after, and the design as it is now."""

    design: document.Design
    revision: int
    version: int
    before: Part | None
    after: Part | None


@transaction.atomic
def create_design(user: Person, design: document.Design) -> Design:
    """Store a document as a new design, owned by the person, and take it as their reference."""
    row = Design.objects.create(**settings_columns(design))
    store_design(design, row)
    Membership.objects.create(design=row, user_id=person_id(user), role=Membership.Role.OWNER)
    Reference.objects.create(design=row, user_id=person_id(user), revision=row.revision, document=design.canonical())
    return row


@transaction.atomic
def put_entry(user: Person, design_id: int, list_name: str, key: str, value: Part, seen: int | None) -> Done:
    """Replace an entry of a list, or add it where `seen`, the version that the person saw, is None.

    Raises Stale when the entry has another version by now, DesignError when the design would be unsound.
    """
    row = design_for(user, design_id, Membership.Role.EDITOR, lock=True)
    entity = MODELS[list_name].objects.filter(design=row, key=key).first()  # type: ignore[attr-defined]
    _check_seen(row, list_name, key, entity, seen)
    if value.id != key:  # type: ignore[attr-defined]
        raise DesignError([fault("value", "id", message=f'expected "{key}" as in the address, got "{value.id}"')])  # type: ignore[attr-defined]
    before, design = _replaced(document_of(row), list_name, key, value)
    if entity is None:
        top = MODELS[list_name].objects.filter(design=row).aggregate(top=Max("position"))["top"]  # type: ignore[attr-defined]
        entity = models_row(list_name, row, key, 0 if top is None else top + 1)
        entity.version = _last_version(row, list_name, key)
    entity.version += 1
    write_entity(list_name, entity, value, Keys.of(row) if list_name in REFERRING else Keys())
    return _noted(user, row, design, list_name, entity, before, value)


@transaction.atomic
def remove_entry(user: Person, design_id: int, list_name: str, key: str, seen: int) -> Done:
    """Take an entry out of a list. Raises Stale, or DesignError when something still refers to it."""
    row = design_for(user, design_id, Membership.Role.EDITOR, lock=True)
    entity = MODELS[list_name].objects.filter(design=row, key=key).first()  # type: ignore[attr-defined]
    _check_seen(row, list_name, key, entity, seen)
    before, design = _replaced(document_of(row), list_name, key, None)
    entity.version += 1
    done = _noted(user, row, design, list_name, entity, before, None)
    entity.delete()
    return done


@transaction.atomic
def set_reference(user: Person, design_id: int) -> Reference:
    """Take the design as it is now as what the person measures changes from."""
    row = design_for(user, design_id, Membership.Role.VIEWER)
    now = {"revision": row.revision, "document": document_of(row).canonical()}
    reference, _ = Reference.objects.update_or_create(design=row, user_id=person_id(user), defaults=now)
    return reference


def _replaced(design: document.Design, list_name: str, key: str, value: Part | None) -> tuple[Part | None, document.Design]:
    """The entry as it was, and the sound and computable design with `value` in its place, or without it for None."""
    entries = list(getattr(design, list_name))
    place = next((place for place, one in enumerate(entries) if one.id == key), len(entries))
    before = entries[place] if place < len(entries) else None
    entries[place : place + 1] = [] if value is None else [value]
    changed = design.model_copy(update={list_name: entries})
    faults = design_faults(changed)
    if faults:
        raise DesignError(faults)
    return before, changed


def _check_seen(row: Design, list_name: str, key: str, entity: Entity | None, seen: int | None) -> None:
    current = entity.version if entity else None
    if current == seen:
        return
    changes = Change.objects.filter(design=row, list_name=list_name, key=key).select_related("who")
    last = changes.order_by("-revision").first()
    at_sight: Any = changes.filter(version=seen).first() if seen is not None else None
    after_sight = changes.filter(version__gt=seen or 0).first()
    was = at_sight.after if at_sight else after_sight.before if after_sight else None
    raise Stale(seen=was, now=_entry(row, list_name, key), version=current, who=str(last.who) if last and last.who else "")


def _entry(row: Design, list_name: str, key: str) -> Plain | None:
    entries: list[Any] = getattr(document_of(row), list_name)
    return next((one.whole() for one in entries if one.id == key), None)


def _last_version(row: Design, list_name: str, key: str) -> int:
    """An entry that comes back goes on counting where it left off, so that an old sight of it stays stale."""
    top = Change.objects.filter(design=row, list_name=list_name, key=key).aggregate(top=Max("version"))["top"]
    return top or 0


def _noted(
    user: Person, row: Design, design: document.Design, list_name: str, entity: Entity, before: Part | None, after: Part | None
) -> Done:
    was, now = (None if part is None else part.plain() for part in (before, after))
    row.revision += 1
    row.save(update_fields=["revision"])
    Change.objects.create(
        design=row,
        revision=row.revision,
        who_id=person_id(user),
        list_name=list_name,
        key=entity.key,
        version=entity.version,
        before=was,
        after=now,
    )
    return Done(design, row.revision, entity.version, before, after)
