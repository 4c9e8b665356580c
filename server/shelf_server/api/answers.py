"""Puts answers together from forecasts: figures with their change, and rules in words."""

from collections import Counter
from collections.abc import Iterable

import numpy as np

from shelf_core.calendar.zones import DAY, day_text
from shelf_core.design.cadences import Cadence, Run
from shelf_core.design.document import Design as Document
from shelf_core.design.document import selected
from shelf_core.design.ladders import Ladder
from shelf_core.design.next_step import next_step
from shelf_core.design.patterns import pattern_of, rule_sentence, window_of
from shelf_core.design.starting_points import NEXT_RECENT, next_rung
from shelf_core.forecast.consequences import Consequence, consequences
from shelf_core.forecast.forecast import Forecast
from shelf_core.forecast.line_words import link_reading
from shelf_core.forecast.protection import protection_on
from shelf_core.forecast.route_words import copy_sentence
from shelf_core.forecast.shelves import Shelf, shelves_on
from shelf_core.forecast.wording import bars, sentence
from shelf_server.api.design_schemas import ConsequenceOut, Consequences, Difference, UseOut
from shelf_server.api.reading_schemas import CadenceReading, LadderReading, Readings, RouteReading, RoutesOut, RunReading
from shelf_server.designs.access import Person, person_id
from shelf_server.designs.models import Reference
from shelf_server.designs.results import reference_forecast


def reference_of(user: Person, row_id: int) -> Reference | None:
    """The state that a person measures changes of a design from."""
    return Reference.objects.filter(design_id=row_id, user_id=person_id(user)).first()


def with_change(reference: Reference | None, revision: int, result: Forecast, on: str) -> Consequences:
    """The figures of all targets at a date, each with its change since a reference."""
    before = _before(reference, on) if reference else {}
    rows = [ConsequenceOut(now=now, change=_change(now, before.get(now.target))) for now in consequences(result, on)]
    return Consequences(on=on, revision=revision, targets=rows, next_step=next_step(result.document))


def _before(reference: Reference, on: str) -> dict[str, Consequence]:
    result = reference_forecast(reference)
    try:
        return {one.target: one for one in consequences(result, on)}
    except ValueError:  # the reference does not cover this date
        return {}


def _change(now: Consequence, before: Consequence | None) -> Difference | None:
    if before is None:
        return None
    points = now.points - before.points
    stored, peak = _moved(now.stored_bytes, before.stored_bytes), _moved(now.peak_bytes, before.peak_bytes)
    of_all = ((points, before.points), (stored, before.stored_bytes), (peak, before.peak_bytes))
    share = max(abs(change) / was if was else float(change != 0) for change, was in of_all)
    return Difference(
        points=points,
        stored_bytes=stored,
        peak_bytes=peak,
        full_on_before=before.full_on,
        full_on_changed=now.full_on != before.full_on,
        weight=max(share, float(now.full_on != before.full_on)),
    )


def _moved(now: float, before: float) -> float:
    """The difference of two sums, without the last digits that only the order of adding makes."""
    difference = now - before
    return 0.0 if abs(difference) <= 1e-11 * max(now, before) else difference


def readings(result: Forecast, on: str) -> Readings:
    """All ladders and cadences of a design in words, with what they claim at the end of a day."""
    shelves = shelves_on(result, on)
    design = result.design
    return Readings(
        ladders={ladder.id: ladder_reading(ladder, design, shelves) for ladder in design.ladders},
        cadences={cadence.id: _cadence_reading(cadence, design, shelves) for cadence in design.cadences},
        links={link.id: link_reading(link, design) for link in design.links},
    )


def ladder_reading(ladder: Ladder, design: Document, shelves: Iterable[Shelf]) -> LadderReading:
    """A ladder in words, with its uses."""
    uses = _uses(design, shelves, "ladder", ladder.id)
    words = sentence(ladder)
    return LadderReading(sentence=words, bars=bars(ladder), next_recent=NEXT_RECENT, next_rung=next_rung(ladder), uses=uses)


def _cadence_reading(cadence: Cadence, design: Document, shelves: Iterable[Shelf]) -> CadenceReading:
    return CadenceReading(runs=[run_reading(run) for run in cadence.runs], uses=_uses(design, shelves, "cadence", cadence.id))


def run_reading(run: Run) -> RunReading:
    """A run in words."""
    if run.rrule is None:
        return RunReading(id=run.id, sentence=f"once at {', '.join(run.once or ())}", pattern=None, window=None)
    sentence = f"{rule_sentence(run.rrule)} at {', '.join(run.at)}"
    return RunReading(id=run.id, sentence=sentence, pattern=pattern_of(run.rrule), window=window_of(run.at))


def _uses(design: Document, shelves: Iterable[Shelf], field: str, name: str) -> list[UseOut]:
    # Workloads that share a copy's rules and dates have the same points; the first group speaks for the copy, on all stages.
    stages: dict[tuple[str, str], list[Shelf]] = {}
    for shelf in shelves:
        of_copy = stages.setdefault((shelf.holding.route, shelf.holding.copy), [])
        if not of_copy or of_copy[0].holding.whole is shelf.holding.whole:
            of_copy.append(shelf)
    found = []
    for route in design.routes:
        for copy in route.copies:
            if getattr(copy, field) == name:
                claimed, oldest = _claimed(stages.get((route.id, copy.id), []))
                found.append(
                    UseOut(
                        route_id=route.id,
                        route=route.name or route.id,
                        copy_id=copy.id,
                        target=copy.target,
                        claimed=claimed,
                        oldest_days=oldest,
                    )
                )
    return found


def _claimed(stages: list[Shelf]) -> tuple[dict[str, int], dict[str, float]]:
    """How many points there are, and that each rule claims, and the age of the oldest of these; a point on two stages once."""
    taken_by: dict[str, dict[int, int]] = {}
    for shelf in stages:
        life = shelf.holding.life
        for label, claimed in {"all": np.ones(len(life), bool), **shelf.claimed}.items():
            here = shelf.places[claimed[shelf.places]]
            taken_by.setdefault(label, {}).update(zip(life.place[here].tolist(), life.taken[here].tolist(), strict=True))
    counts = {label: len(taken) for label, taken in taken_by.items()}
    ages = {
        label: (stages[0].midnight - min(taken.values())) / DAY for label, taken in taken_by.items() if taken and label != "all"
    }
    return counts, ages


def routes_reading(result: Forecast, on: str, revision: int) -> RoutesOut:
    """All routes in words at the end of a day."""
    design = result.document
    protection = protection_on(result, on)
    taken = {route.id: [one.id for one in selected(route.workloads, design.workloads)] for route in design.routes}
    somewhere = {name for names in taken.values() for name in names}
    return RoutesOut(
        on=on,
        revision=revision,
        routes={
            route.id: RouteReading(
                workloads=taken[route.id],
                copies={copy.id: copy_sentence(copy, route, design) for copy in route.copies},
                protection=protection[route.id],
            )
            for route in design.routes
        },
        taken_by_none=[one.id for one in design.workloads if one.id not in somewhere],
        tags=dict(Counter(tag for one in design.workloads for tag in one.tags)),
        before_start=f"{day_text(result.frame.first_day - 1)}T23:59",
    )
