"""A design that is being changed: whether its entries are still what a person saw, and the writing of changes to rows."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from django.db.models import Max

from shelf_core.design import document
from shelf_core.design.base import Part
from shelf_core.design.editing import WHOLE, WHOLES, Change, entry_of
from shelf_server.designs.access import Person, person_id
from shelf_server.designs.models import Change as RecordedChange
from shelf_server.designs.models import Design
from shelf_server.designs.rows.mapping import Plain
from shelf_server.designs.rows.reading import Stored, Versions
from shelf_server.designs.rows.tables import LISTS
from shelf_server.designs.rows.writing import Entry, RowKeys, settings_columns, write_entries, write_stock

BATCH = 500
"""Rows of one statement that moves entries."""


@dataclass(frozen=True)
class StaleEntry:
    """An entry that somebody else has changed: what it was when the person saw it, what it is now, and what it was to be."""

    part: str
    key: str
    seen: Plain | None
    now: Plain | None
    wanted: Plain | None
    version: int | None
    who: str


@dataclass(frozen=True)
class Wanted:
    """A change and the version of its entry that the person saw, None for one that is to be new."""

    change: Change
    seen: int | None


@dataclass(frozen=True)
class AppliedChange:
    """A change that was made: the entry and its place before, the entry and its version after."""

    part: str
    key: str
    version: int
    place_before: int | None
    before: Part | None
    after: Part | None


class LockedDesign:
    """A design whose row is locked, as it is stored before it is changed."""

    def __init__(self, row: Design, stored: Stored) -> None:
        self.row = row
        self.before = stored.document
        self._versions = stored.versions

    def stale(self, wanted: Wanted) -> StaleEntry | None:
        """What has become of an entry that is not at the version that was seen; None for one that is."""
        part, key = wanted.change.part, wanted.change.key
        current = self._version(part, key)
        if current == wanted.seen:
            return None
        changes = self._recorded(part, key).select_related("who")
        last = changes.order_by("-revision").first()
        at_sight: Any = changes.filter(version=wanted.seen).first() if wanted.seen is not None else None
        after_sight = changes.filter(version__gt=wanted.seen or 0).first()
        was = at_sight.after if at_sight else after_sight.before if after_sight else None
        now = entry_of(self.before, part, key)
        mine = wanted.change.value
        who = str(last.who) if last and last.who else ""
        return StaleEntry(part, key, was, now.whole() if now else None, mine.whole() if mine else None, current, who)

    def write(self, design: document.Design, changes: Sequence[Change]) -> list[AppliedChange]:
        """Write what is new before what refers to it, and take out what was referred to last."""
        applied = [self._applied(change) for change in changes]
        keys = RowKeys(self.row)
        for part in LISTS:
            entries = [_entry(one) for one in applied if one.part == part and one.after is not None]
            write_entries(part, self.row, [one for one in entries if one is not None], keys)
        self._write_wholes(design, {one.part for one in applied}, keys)
        for part in reversed(LISTS):
            gone = [one.key for one in applied if one.part == part and one.after is None]
            if gone:
                LISTS[part].rows().filter(design=self.row, key__in=gone).delete()
        for part in {one.part for one in applied if (one.before is None) != (one.after is None)} & set(LISTS):
            self.set_places(part, [one.id for one in getattr(design, part)])
        return applied

    def versions_after(self, applied: Sequence[AppliedChange]) -> Versions:
        """The versions of all entries once changes are written."""
        versions = {part: dict(of_part) for part, of_part in self._versions.items()}
        for one in applied:
            if one.after is None:
                versions[one.part].pop(one.key, None)
            else:
                versions[one.part][one.key] = one.version
        return versions

    def set_places(self, part: str, order: list[str]) -> None:
        """Put the entries of a list into an order."""
        places = {key: place for place, key in enumerate(order)}
        rows = LISTS[part].rows().filter(design=self.row).only("key", "position")
        moved = [one for one in rows if one.position != places[one.key]]
        for one in moved:
            one.position = places[one.key]
        LISTS[part].model._default_manager.bulk_update(moved, ["position"], batch_size=BATCH)

    def _version(self, part: str, key: str) -> int | None:
        return self._versions[part].get(WHOLE if part in WHOLES else key)

    def _recorded(self, part: str, key: str) -> Any:
        return RecordedChange.objects.filter(design=self.row, list_name=part, key=key)

    def _applied(self, change: Change) -> AppliedChange:
        before = entry_of(self.before, change.part, change.key)
        place = None
        if change.part in LISTS and before is not None:
            place = [one.id for one in getattr(self.before, change.part)].index(change.key)
        version = (self._version(change.part, change.key) or self._last_version(change)) + 1
        return AppliedChange(change.part, change.key, version, place, before, change.value)

    def _last_version(self, change: Change) -> int:
        """An entry that comes back goes on counting where it left off, so that an old sight of it stays stale."""
        return self._recorded(change.part, change.key).aggregate(top=Max("version"))["top"] or 0

    def _write_wholes(self, design: document.Design, parts: set[str], keys: RowKeys) -> None:
        if "settings" in parts:
            self.row.version += 1
            for name, value in settings_columns(design).items():
                setattr(self.row, name, value)
        if "stock" in parts:
            self.row.stock_version += 1
            write_stock(design, self.row, keys)
        elif "routes" in parts and design.opening:
            # A route is written with new rows for its copies, and opening stock lies on those.
            write_stock(design, self.row, keys, ["opening"])


def _entry(applied: AppliedChange) -> Entry | None:
    return None if applied.after is None else Entry(applied.after, applied.version, before=applied.before)


def record(user: Person, row: Design, applied: Sequence[AppliedChange], what: str, undoes: int | None = None) -> None:
    """Note changes in the history of a design, under the revision that it has by them; `undoes` a step that they take back."""
    common = {"design": row, "revision": row.revision, "who_id": person_id(user), "what": what, "undoes": undoes}
    RecordedChange.objects.bulk_create(
        [
            RecordedChange(
                **common,
                list_name=one.part,
                key=one.key,
                version=one.version,
                place_before=one.place_before,
                before=None if one.before is None else one.before.plain(),
                after=None if one.after is None else one.after.plain(),
            )
            for one in applied
        ],
        batch_size=1000,
    )
