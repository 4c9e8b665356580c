"""What the kept history of a design still lets a person do: take back their own steps, and go back to a revision."""

from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass, field
from itertools import accumulate, groupby

from django.db.models import Count, QuerySet

from shelf_core.design.base import Part
from shelf_core.design.document import Design as Document
from shelf_core.design.editing import WHOLES, Change, entry_of
from shelf_core.design.reading import part_of
from shelf_core.digits import grouped
from shelf_server.designs.access import Person, person_id
from shelf_server.designs.models import Change as RecordedChange
from shelf_server.designs.models import Design
from shelf_server.designs.rows.mapping import Plain
from shelf_server.designs.rows.tables import LISTS

MOST_STEPS = 100
"""So many of a person's last steps are looked at for what can be taken back."""
MOST_ENTRIES = 2_000
"""OwnSteps are handed out until they have so many entries together; what is older, or larger, goes by the history."""


@dataclass(frozen=True)
class OwnStep:
    """What a person did at once: the revision that it led to, the words for it, and what it changed."""

    revision: int
    what: str
    changes: tuple[RecordedChange, ...]


@dataclass(frozen=True)
class OwnSteps:
    """A person's steps that can be taken back, and those taken back that can be done again, the latest last."""

    done: list[OwnStep] = field(default_factory=list)
    undone: list[OwnStep] = field(default_factory=list)
    versions: dict[tuple[str, str], int] = field(default_factory=dict)


def steps_of(user: Person, row: Design) -> OwnSteps:
    """What a person can take back in a design, and do again, whatever page and machine it was done on.

    `versions` are those that the person's own steps led to, by part and key: what has another by now, somebody else changed.
    """
    mine = RecordedChange.objects.filter(design=row, who_id=person_id(user))
    found = OwnSteps()
    changes = mine.filter(revision__in=_within_reach(mine)).order_by("revision", "pk")
    for revision, several in groupby(changes, lambda one: one.revision):
        of_step = tuple(several)
        _take(found, OwnStep(revision, of_step[0].what, of_step), of_step[0].undoes)
        found.versions.update({(one.list_name, one.key): one.version for one in of_step})
    return found


def _within_reach(mine: QuerySet[RecordedChange]) -> list[int]:
    """The revisions of the last steps that are handed out: none is read of which there are too many entries."""
    sizes = mine.values_list("revision").annotate(entries=Count("pk")).order_by("-revision")[:MOST_STEPS]
    so_far = accumulate(entries for _, entries in sizes)
    return [revision for (revision, _), entries in zip(sizes, so_far, strict=True) if entries <= MOST_ENTRIES]


def _take(found: OwnSteps, step: OwnStep, undoes: int | None) -> None:
    """Put a step where it belongs: taken back is what it undoes, done again what undid something."""
    for begins, ends in ((found.done, found.undone), (found.undone, found.done)):
        if undoes is not None and begins and begins[-1].revision == undoes:
            ends.append(OwnStep(step.revision, begins.pop().what, step.changes))
            return
    if undoes is not None:
        # What it took back is out of reach: there is nothing left to do again.
        return
    found.done.append(step)
    found.undone.clear()


def changes_back_to(row: Design, document: Document, revision: int) -> list[Change]:
    """The changes that make a design what it was at a revision of its history, later entries taken out first.

    Raises ValueError for a revision that the design has not had.
    """
    if not 1 <= revision <= row.revision:
        raise ValueError(f"expected a revision from 1 to {grouped(row.revision)}, got {grouped(revision)}")
    since = RecordedChange.objects.filter(design=row, revision__gt=revision).order_by("revision", "pk")
    first: dict[tuple[str, str], RecordedChange] = {}
    for one in since.iterator(chunk_size=1000):
        first.setdefault((one.list_name, one.key), one)
    wanted = {name: entry_from(one.list_name, one.before) for name, one in first.items()}
    changed = [(name, value) for name, value in wanted.items() if entry_of(document, *name) != value]
    places = _places(document, first.values())
    return [Change(part, key, value, places.get((part, key))) for (part, key), value in changed]


def entry_from(part: str, plain: Plain | None) -> Part | None:
    """An entry as the history keeps it. Raises DesignError for one of an earlier version that nothing reads any more."""
    if plain is None:
        return None
    kind: type[Part] = WHOLES[part] if part in WHOLES else LISTS[part].part
    return part_of(kind, plain, "history", part)


def _places(document: Document, changes: Iterable[RecordedChange]) -> dict[tuple[str, str], int]:
    """Where entries that were taken out stood; several of one list in the order in which they go back in."""
    gone: dict[str, list[tuple[int, str]]] = defaultdict(list)
    for one in changes:
        if one.place_before is not None and entry_of(document, one.list_name, one.key) is None:
            gone[one.list_name].append((one.place_before, one.key))
    return {(part, key): place for part, several in gone.items() for place, key in sorted(several)}
