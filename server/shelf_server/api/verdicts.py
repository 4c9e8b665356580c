"""Which duties hold as a design stands, with what became of each since the person's reference."""

from collections.abc import Hashable

from shelf_core.design.document import selected
from shelf_core.forecast.forecast import Forecast
from shelf_core.proof.arrived import Arrivals, takes_time
from shelf_core.proof.verdicts import DutyVerdict, Verdicts, change_words
from shelf_server.api.edit_schemas import DutyNow, VerdictsOut
from shelf_server.designs.models import Design, Reference
from shelf_server.designs.results import reference_forecast, reference_key, stored_forecast
from shelf_server.jobs.followed import LastFollowed, known_arrivals, last_followed

_VERDICTS = Verdicts()
AT_ONCE = 200
"""Of how many asks of workloads an edit says at once whether they hold; of more the page asks for itself."""


def verdicts_of(reference: Reference | None, design: int, state: Hashable, revision: int, result: Forecast) -> VerdictsOut:
    """The verdicts of all duties of a design at a state; None for a state that is only tried."""
    last = last_followed(design)
    arrivals, is_followed = known_arrivals(last, state, result)
    before = {} if reference is None else {one.duty: one for one in _verdicts_before(last, reference)}
    now = _VERDICTS.of(result, arrivals or Arrivals({}))
    return VerdictsOut(
        revision=revision,
        grounds=_grounds(result, is_known=arrivals is not None, is_followed=is_followed),
        duties=[_since(one, before.get(one.duty)) for one in now],
    )


def verdicts_beside(other: Design, this: Design) -> tuple[list[DutyNow], list[DutyVerdict]]:
    """The verdicts of this design's duties, each with that of the other's where it has the same; and those only it has."""
    before, now = ({one.duty: one for one in _as_followed(row)} for row in (other, this))
    gone = [one for key, one in before.items() if key not in now]
    return [_since(one, before.get(key)) for key, one in now.items()], gone


def _as_followed(row: Design) -> list[DutyVerdict]:
    result = stored_forecast(row)
    arrivals, _ = known_arrivals(last_followed(row.pk), row.state, result)
    return _VERDICTS.of(result, arrivals or Arrivals({}))


def verdicts_after(reference: Reference | None, row: Design, result: Forecast) -> VerdictsOut | None:
    """The verdicts right with an edit; None where there are none, or too many to be judged at once."""
    design = result.design
    asks = sum(len(selected(duty.workloads, design.workloads)) * len(duty.asks) for duty in design.duties)
    return verdicts_of(reference, row.pk, row.state, row.revision, result) if 0 < asks <= AT_ONCE else None


def _since(now: DutyVerdict, before: DutyVerdict | None) -> DutyNow:
    return DutyNow(now=now, before=before, change=change_words(now, before))


def _verdicts_before(last: LastFollowed | None, reference: Reference) -> list[DutyVerdict]:
    result = reference_forecast(reference)
    arrivals, _ = known_arrivals(last, reference_key(reference), result)
    return _VERDICTS.of(result, arrivals or Arrivals({}))


def _grounds(result: Forecast, *, is_known: bool, is_followed: bool) -> str:
    if is_followed or not result.design.duties or not takes_time(result.design):
        return ""
    if is_known:
        return "By the nights as they were followed before the last edits."
    return "As if no transfer took time: follow all nights in Forecast for the last word."
