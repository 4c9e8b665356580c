"""Why a point is there and until when, in one plain sentence: the same on a shelf, in the list and in its table."""

from dataclasses import dataclass

from shelf_core.engine.retention.states import DUE, LOCKED, NEEDED
from shelf_core.forecast.dates import written_moment


@dataclass(frozen=True)
class Stay:
    """What is known of why a point is there at the end of a day.

    `state` is a number of STATES, `claims` the labels of the rules that claim it. Ends are local seconds: of the claims,
    of the lock as it stands then, of the stay itself; None for what does not come to an end, and for a lock that there is
    not. `needed_by` is when the oldest point there was taken that needs it directly, None for nothing.
    """

    state: int
    claims: list[str]
    claimed: int | None
    locked: int | None
    removed: int | None
    needed_by: int | None


def why_it_stays(stay: Stay) -> str:
    """The sentence."""
    if stay.state == DUE:
        return f"No rule keeps it any longer; {_goes(stay, 'it goes at the next sweep, ')}."
    if stay.state == NEEDED:
        return f"{_left_behind(stay)}, but {_needer(stay)} needs it; {_goes(stay)}."
    if stay.state == LOCKED:
        return f"{_left_behind(stay)}, but it is locked {_until(stay.locked)}; {_goes(stay)}."
    return (
        f"Kept by {' and '.join(stay.claims)} {_until(stay.claimed)}{_locked_beyond(stay)}; {_goes(stay, than=stay.claimed)}."
    )


def _left_behind(stay: Stay) -> str:
    """What a point without a claim here has done: a claim that still stands has gone on with it to the next stage."""
    return "It has stepped down from here" if stay.claims else "No rule keeps it any longer"


def _needer(stay: Stay) -> str:
    return "a newer point here" if stay.needed_by is None else f"the point of {written_moment(stay.needed_by)}"


def _until(end: int | None) -> str:
    return "for good" if end is None else f"until {written_moment(end)}"


def _locked_beyond(stay: Stay) -> str:
    """A lock that outlasts the claims is why the point stays longer than they say."""
    is_longer = stay.locked is not None and stay.claimed is not None and stay.locked > stay.claimed
    return f", locked {_until(stay.locked)}" if is_longer else ""


def _goes(stay: Stay, words: str = "it goes on ", than: int | None = None) -> str:
    if stay.removed is None:
        return "it does not go within this design"
    return "it goes then" if stay.removed == than else f"{words}{written_moment(stay.removed)}"
