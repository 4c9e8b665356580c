"""Findings about time: what is late from a date on, starts too early, has no way, never catches up, idles."""

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np

from shelf_core.calendar.zones import DAY, day_number
from shelf_core.design.routes import Copy, Route
from shelf_core.design.values import bytes_per_second_of
from shelf_core.digits import grouped
from shelf_core.forecast.dates import written_day
from shelf_core.forecast.figure_words import bytes_words, length_words
from shelf_core.forecast.finding import Finding, Kind
from shelf_core.forecast.forecast import Forecast
from shelf_core.nights.followed import STREAM
from shelf_core.nights.loads import Load
from shelf_core.nights.moving import BY_PRIORITY, Held
from shelf_core.nights.sums import CopySums
from shelf_core.nights.tables import noons_of
from shelf_core.nights.words import named_label


def night_findings(result: Forecast, sums: Sequence[CopySums], loads: Sequence[Load]) -> list[Finding]:
    """All slips that following the whole design shows, copy by copy in the order of the document."""
    found: list[Finding] = []
    for one in sums:
        route = next(route for route in result.design.routes if route.id == one.route)
        copy = next(copy for copy in route.copies if copy.id == one.copy)
        for look in (_no_way, _late, _too_early, _first_fulls, _starving_drives, _idle_lines):
            found += look(_Copy(result, route, copy, one))
    return [*found, *_never_catches_up(result, loads)]


@dataclass(frozen=True, eq=False)
class _Copy:
    """A copy with what its transfers come to."""

    result: Forecast
    route: Route
    copy: Copy
    sums: CopySums

    @property
    def name(self) -> str:
        return f"{self.route.name or self.route.id}: {self.copy.name or self.copy.id}"

    def target_name(self, target: str) -> str:
        return next((one.name or one.id for one in self.result.design.targets if one.id == target), target)

    def finding(self, kind: Kind, sentence: str, way_out: str, target: str | None = None) -> Finding:
        return Finding(kind, sentence, way_out, route=self.route.id, copy=self.copy.id, target=target)

    def day(self, seconds: float) -> str:
        frame = self.result.frame
        local = int(frame.zone.local(np.array([int(seconds) + frame.begin]))[0])
        return written_day(local // DAY * DAY)

    def held(self) -> Held:
        """What held its transfers, whoever came first."""
        sums: Held = {}
        for label, seconds in self.sums.held.items():
            bare = label.removesuffix(BY_PRIORITY)
            sums[bare] = sums.get(bare, 0.0) + seconds
        return sums


def _no_way(one: _Copy) -> Iterator[Finding]:
    if one.sums.without_way:
        yield one.finding(
            "no way",
            f"No line leads to {one.target_name(one.sums.without_way_to)}: {one.sums.without_way} of {one.sums.transfers} "
            f"transfers of {one.name} never start.",
            "Add a line between the two sites, or choose a target that one leads to.",
        )


def _late(one: _Copy) -> Iterator[Finding]:
    nights = sorted(one.sums.nights.items())
    late = [place for place, night in nights if night.late]
    if not late or one.sums.without_way == one.sums.transfers:
        return
    days, _ = noons_of(one.result)
    begins = written_day(int(days[late[0]]) * DAY)
    since = sum(place >= late[0] for place, _ in nights)
    held = one.held()
    most = max(held, key=lambda label: held[label]) if held else ""
    words = f"; what holds it most is {_inside(named_label(most, one.result.design))}" if most else ""
    yield one.finding(
        "late",
        f"{one.name} is late from the night of {begins} on: on {grouped(len(late))} of the {grouped(since)} nights since that "
        f"have something to do{words}.",
        "Move less, begin sooner, give what holds it more speed, or open its window for longer.",
    )


def _inside(words: str) -> str:
    """Words within a sentence: those that are no name begin small."""
    return words[0].lower() + words[1:] if words.startswith(("Line ", "Storage ", "Network ")) else words


def _too_early(one: _Copy) -> Iterator[Finding]:
    if one.sums.first_early is not None:
        yield one.finding(
            "starts too early",
            f"{one.name} is asked for before what it reads has come, {grouped(one.sums.early)} times of "
            f"{grouped(one.sums.transfers)}, first on "
            f"{one.day(one.sums.first_early)}: it then waits, for {length_words(one.sums.longest_wait)} at most.",
            "Let it begin later, or follow its source instead of reading at times of its own.",
        )


def _first_fulls(one: _Copy) -> Iterator[Finding]:
    """First fulls that go on when their window has closed: how long they take, and what carrying them by hand would spare."""
    fulls = one.sums.outlasting
    if not fulls:
        return
    took = max(end for _, end, _ in fulls) - min(asked for asked, _, _ in fulls)
    days = max(1, math.ceil(took / DAY - 1e-9))
    amount, long = bytes_words(sum(amount for *_, amount in fulls)), f"{days} {'day' if days == 1 else 'days'}"
    yield one.finding(
        "first full outlasts its window",
        f"The first full of {one.name} moves {amount} and takes {long}: it goes on after its window has closed.",
        f"Carried by hand it would spare the line {amount} and {long}; or open the window wide for the first run.",
    )


def _starving_drives(one: _Copy) -> Iterator[Finding]:
    """Drives that get less than they need to stream, on the mean of the time in which bytes move."""
    for target, seconds in one.sums.moving_seconds.items():
        feed = next(found.feed for found in one.result.design.targets if found.id == target)
        rate = one.sums.moved_by_target[target] / seconds if seconds > 0 else math.inf
        if feed is not None and rate < bytes_per_second_of(feed):
            yield one.finding(
                "drive starves",
                f"The drives of {one.target_name(target)} get {bytes_words(rate)}/s on the mean from {one.name}, below the "
                f"{feed} at which they stream: they stop and start again.",
                "Write from disk by way of a copy, several at once, or over a faster line.",
                target,
            )


def _idle_lines(one: _Copy) -> Iterator[Finding]:
    """Copies over a line that are held by streams most of the time while the line itself never holds them."""
    links = [label for label in one.sums.asked_of if label.startswith("link ")]
    target = next(found for found in one.result.design.targets if found.id == one.copy.target)
    # The drives of a library are not a limit that somebody has set.
    if not links or target.media == "tape":
        return
    held = one.held()
    by_streams = sum(seconds for label, seconds in held.items() if label == STREAM or label.startswith("stream of "))
    if by_streams <= max(0.5 * sum(held.values()), 3600) or any(label in held for label in links):
        return
    names = " and ".join(sorted({named_label(label, one.result.design) for label in links}))
    yield one.finding(
        "stream limit idles a line",
        f"{one.name} is held by the number or the speed of streams most of the time, while {names} could carry more.",
        "Allow more transfers at once, or a faster one.",
    )


def _never_catches_up(result: Forecast, loads: Sequence[Load]) -> Iterator[Finding]:
    for one in loads:
        if one.load <= 1:
            continue
        target = next((found.id for found in result.design.targets if one.resource.startswith(f"target {found.id} ")), None)
        name = named_label(one.resource, result.design)
        since = written_day(day_number(one.from_day) * DAY)
        share = "without end" if math.isinf(one.load) else f"{100 * one.load:.0f} % of what it can carry"
        yield Finding(
            "never catches up",
            f"{name} never catches up: {share} is asked of it in the 28 days from {since}.",
            "Make it faster, open windows for longer, or move less over it.",
            target=target,
        )
