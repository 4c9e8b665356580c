"""The transfers of a design followed through time: when each starts and ends, and what held it.

Nothing happens but at events: something is asked for, a window opens or closes, what passes first has passed, a transfer
ends, a limit begins or ends. Between two of them all rates stay as they are. Instants count from the design's beginning.
"""

import heapq
import math

import numpy as np

from shelf_core.calendar.arithmetic import add_to_instants
from shelf_core.calendar.names import Duration
from shelf_core.calendar.zones import DAY
from shelf_core.design.values import duration_of
from shelf_core.engine.schedule.kinds import FULL, LOG
from shelf_core.engine.watching import Watch, nobody
from shelf_core.forecast.forecast import Forecast
from shelf_core.nights.followed import MOUNT, SCAN, SOURCE, STREAM, WINDOW, Followed, NightSpan, begun
from shelf_core.nights.moving import TOGETHER, Alike, Held, Moving
from shelf_core.nights.quiet import Pending, Quiet, name_of
from shelf_core.nights.streams import Streams
from shelf_core.nights.transfers import NONE, Lane
from shelf_core.nights.waiting import waiting_of
from shelf_core.nights.windows import DAYS_BEYOND, Openings

ASKED, PASSED, OPENS, CLOSES = range(4)
STEPS_BETWEEN_WATCHES = 2000
QUIET_EACH = DAY // 2
BEYOND = (2.0 * DAY, 20.0 * DAY)
"""For what was asked for in a span to end, so much after it is looked at, before all is."""


def follow(result: Forecast, span: NightSpan | None = None, watch: Watch = nobody) -> Followed:
    """Follow all transfers of a forecast; with a `span` only until all that was asked for before its end has ended.

    `watch` is told how much of the design is behind; what it raises stops it.
    """
    span = span or NightSpan()
    # What arrives long after the span bears on nothing in it, unless what is asked for in it goes on for so long.
    for beyond in BEYOND if span.end < math.inf else ():
        following = _Following(result, span, watch, until=span.end + beyond)
        followed = following.follow()
        if following.now < span.end + beyond:
            return followed
    return _Following(result, span, watch).follow()


class _Following:
    """Goes from event to event. At one instant ends come first, then closings, then what is asked for, then starts."""

    def __init__(self, result: Forecast, span: NightSpan, watch: Watch, until: float = math.inf) -> None:
        self._span, self._watch, self._frame = span, watch, result.frame
        self.out = begun(result, self._span.since.instant, until)
        self._put_pending()
        waiting = waiting_of(self.out.lanes, len(self.out.asked))
        self._unlocks, self._brings = waiting.unlocks, waiting.brings
        self._reads, self._follows = waiting.reads, waiting.follows
        self._left: list[int] = waiting.unlocks.how_many.tolist()
        self._moving = Moving(self.out.resources, self._frame.begin)
        self._streams = Streams(result.design)
        self._agenda: list[tuple[float, int, int]] = []
        self._to_move: dict[int, list[tuple[Alike, float]]] = {}
        self._ready_at: dict[int, float] = {}
        self._held: dict[int, Held] = {}
        self._given_up: set[int] = set()
        self._lane_of: list[int] = self.out.lane_of.tolist()
        self._now, self._open = 0.0, 0
        by_itself = np.flatnonzero(waiting.follows == NONE)
        order = by_itself[np.argsort(self.out.foreseen[by_itself], kind="stable")]
        self._coming = zip(self.out.foreseen[order].tolist(), order.tolist(), strict=True)
        self._next = next(self._coming, None)
        written = [np.tile(lane.written - self._frame.begin, lane.machines) for lane in self.out.lanes]
        arrives = np.concatenate([np.zeros(0, np.int64), *written])[order]
        self._arrives_from = np.minimum.accumulate(arrives[::-1])[::-1].tolist()
        self._asked = 0
        self._acts = (self._ask, self._move_on, self._queue, self._close)

    @property
    def now(self) -> float:
        """How far it has come."""
        return self._now

    def follow(self) -> Followed:
        """Until nothing happens any more, or all that was asked for in the span has ended."""
        length, steps = float(self._frame.end - self._frame.begin), 0
        # What has not ended so long after the design never ends, as where a line is paused for good.
        horizon = length + (DAYS_BEYOND - 5) * DAY
        while (at := self._next_event()) is not None and at < horizon and (at < self._span.end or self._open > 0):
            in_span = self._span.with_use and at > self._span.begin and self._now < self._span.end
            self._moving.advance(self._now, at, note_use=in_span)
            self._note_quiet(at)
            self._now = max(self._now, at)
            self._settle()
            steps += 1
            if steps % STEPS_BETWEEN_WATCHES == 0:
                self._watch(int(1000 * min(1.0, self._now / length)), 1000)
        self.out.use = self._moving.use
        return self.out

    def _put_pending(self) -> None:
        """What was still to be asked for when it began is asked for then."""
        places = {name_of(lane): lane for lane in self.out.lanes}
        for one in self._span.since.pending:
            lane = places.get(self._span.lanes[one.lane])
            found: list[int] = [] if lane is None else np.flatnonzero(lane.place == one.place).tolist()
            # What arrives later than is looked at is in no lane.
            if lane is None or len(found) == 0:
                continue
            point = int(found[0])
            self.out.foreseen[lane.first + one.machine * lane.points + point] = one.asked

    def _note_quiet(self, at: float) -> None:
        """Whether nothing runs or waits until an instant at which something is asked for; of each half day the last is kept."""
        if self._open or self._next is None or self._next[0] > at:
            return
        arrives = float(self._arrives_from[self._asked])
        # What arrived before, and is asked for later since it is spread, still waits.
        if arrives <= self._now + TOGETHER or arrives >= self._span.end:
            return
        pending = self._pending(arrives)
        if pending is None:
            return
        quiet = self.out.quiet
        if quiet and quiet[-1].instant // QUIET_EACH == arrives // QUIET_EACH:
            quiet.pop()
        quiet.append(Quiet(arrives, pending))

    def _pending(self, arrives: float) -> tuple[Pending, ...] | None:
        """What is only to be asked for later, after its source has ended; None where something else is still to happen."""
        found = []
        for asked, what, number in self._agenda:
            if what == CLOSES and not math.isnan(self.out.ended[number]):
                continue
            lane, machine, point = self._lane(number)
            if what != ASKED or lane.written[point] - self._frame.begin < arrives:
                return None
            # What comes when it was foreseen needs no mention: it is asked for then by itself.
            if abs(asked - self.out.foreseen[number]) > TOGETHER:
                found.append(Pending(self._lane_of[number], machine, int(lane.place[point]), asked))
        return tuple(found)

    def _next_event(self) -> float | None:
        at = self._moving.next_event(self._now)
        if self._next is not None and self._next[0] < at:
            at = self._next[0]
        if self._agenda and self._agenda[0][0] < at:
            at = self._agenda[0][0]
        return None if at == math.inf else at

    def _settle(self) -> None:
        """All that happens at this instant. What begins here and is at its end at once is an event of its own, right after."""
        for number, held in self._moving.through():
            mine = self._held[number]
            for label, seconds in held.items():
                _add(mine, label, seconds)
            self._move_on(number)
        self._happen()
        self._start_what_fits()

    def _happen(self) -> None:
        limit, agenda = self._now + TOGETHER, self._agenda
        while agenda and agenda[0][0] <= limit:
            _, what, number = heapq.heappop(agenda)
            self._acts[what](number)
        while self._next is not None and self._next[0] <= limit:
            self._ask(self._next[1])
            self._next = next(self._coming, None)
            self._asked += 1

    def _note(self, at: float, what: int, number: int) -> None:
        heapq.heappush(self._agenda, (at, what, number))

    # One transfer from asking to its end.

    def _lane(self, number: int) -> tuple[Lane, int, int]:
        """The lane of a transfer, its machine from 0, and its point; as in Followed, but quicker."""
        lane = self.out.lanes[self._lane_of[number]]
        machine, point = divmod(number - lane.first, lane.points)
        return lane, machine, point

    def _window(self, number: int) -> Openings | None:
        window = self.out.openings[self._lane_of[number]]
        return None if window is None else self.out.window(number)

    def _is_given_up(self, number: int) -> bool:
        return number in self._given_up

    def _ask(self, number: int) -> None:
        out = self.out
        if self._is_given_up(number):
            return
        asked = float(out.foreseen[number])
        if self._follows[number] != NONE:
            asked = max(asked, self._now)
        out.asked[number] = asked
        if out.no_way[number]:
            return
        self._open += asked < self._span.end
        source = int(self._reads[number])
        if source != NONE and math.isnan(out.ended[source]):
            out.too_early[number] = True
            if self._is_given_up(source):
                self._give_up(number)
                return
        window = self._window(number)
        if window is not None and self._lane(number)[0].copy.at_close == "stop":
            closing = window.first_closing_after(asked + TOGETHER)
            if closing is not None:
                self._note(closing, CLOSES, number)
        if self._left[number] == 0:
            self._ready(number)

    def _ready(self, number: int) -> None:
        """All that it waits for has ended."""
        self._ready_at[number] = self._now
        self._queue(number)

    def _queue(self, number: int) -> None:
        """It may start when its window is open and it has its streams."""
        out = self.out
        if self._is_given_up(number):
            return
        window = self._window(number)
        if window is not None and not window.is_open(self._now + TOGETHER):
            opening = window.next_opening(self._now + TOGETHER)
            if opening is not None:
                self._note(opening, OPENS, number)
            return
        lane, machine, point = self._lane(number)
        self._streams.queue(lane, machine, point, float(out.asked[number]), number)

    def _start_what_fits(self) -> None:
        while (number := self._streams.next_that_fits()) is not None:
            lane, _, point = self._lane(number)
            window = self._window(number)
            if self._is_given_up(number):
                self._streams.give_back(lane, point)
            elif window is not None and not window.is_open(self._now + TOGETHER):
                self._streams.give_back(lane, point)
                self._queue(number)
            else:
                self._start(number)

    def _start(self, number: int) -> None:
        out, now = self.out, self._now
        lane, machine, point = self._lane(number)
        out.started[number] = now
        held = self._held[number] = {}
        asked = float(out.asked[number])
        ready = max(self._ready_at.pop(number), asked)
        window = self._window(number)
        closed = 0.0 if window is None else window.closed_seconds(ready, now)
        _add(held, SOURCE, ready - asked)
        _add(held, WINDOW, closed)
        _add(held, STREAM, now - ready - closed)
        self._to_move[number] = out.legs.to_move(lane, point)
        passing = self._passing(lane, machine, point, held)
        if passing > 0:
            self._note(now + passing, PASSED, number)
        else:
            self._move_on(number)

    def _passing(self, lane: Lane, machine: int, point: int, held: Held) -> float:
        """How long scan and mounts take, on the stream, before any byte moves."""
        scan = mount = 0.0
        if lane.source_target[point] == NONE and lane.kind[point] not in (FULL, LOG) and lane.workload.scan:
            scan = self._length(duration_of(lane.workload.scan))
        begun = 0 if lane.cartridges is None else int(lane.cartridges[machine, point])
        if begun and lane.target.mount:
            mount = begun * self._length(duration_of(lane.target.mount))
        _add(held, SCAN, scan)
        _add(held, MOUNT, mount)
        return scan + mount

    def _length(self, length: Duration) -> float:
        """The seconds of a duration from now on."""
        if not (length.months or length.days):
            return float(length.seconds)
        whole = math.floor(self._now + TOGETHER) + self._frame.begin
        return float(int(add_to_instants(np.array([whole]), length, self._frame.zone)[0]) - whole)

    def _move_on(self, number: int) -> None:
        """What it has to move next begins to move; where there is nothing more, it has ended."""
        if self._is_given_up(number):
            return
        left = self._to_move[number]
        while left:
            alike, amount = left.pop()
            # What nothing holds up takes no time.
            if amount > 0 and alike.leg.constraints:
                self._moving.begin_with(number, alike, amount)
                return
        self._end(number)

    def _end(self, number: int) -> None:
        out = self.out
        lane, _, point = self._lane(number)
        out.ended[number] = self._now
        self._streams.give_back(lane, point)
        del self._to_move[number]
        self._open -= bool(out.asked[number] < self._span.end)
        held = self._held.pop(number)
        if self._span.counts_from <= out.asked[number] < self._span.end:
            in_all = out.held_in_all[self._lane_of[number]]
            for label, seconds in held.items():
                in_all[label] = in_all.get(label, 0.0) + seconds
        if out.asked[number] < self._span.end and self._now > self._span.begin:
            out.held[number] = held
        self._unlock(number)
        for follower in self._brings.of(number):
            delay = self._length(self._lane(follower)[0].delay)
            asked = max(float(out.foreseen[follower]), self._now + delay)
            if asked <= self._now + TOGETHER:
                self._ask(follower)
            else:
                self._note(asked, ASKED, follower)

    def _unlock(self, number: int) -> None:
        """What waited for it waits for it no longer."""
        for one in self._unlocks.of(number):
            self._left[one] -= 1
            if self._left[one] == 0 and not math.isnan(self.out.asked[one]) and not self._is_given_up(one):
                self._ready(one)

    def _close(self, number: int) -> None:
        """Its window closes for the first time since it was asked for: what has not ended is given up."""
        if math.isnan(self.out.ended[number]) and not self._is_given_up(number):
            self._give_up(number)

    def _give_up(self, number: int) -> None:
        """It does not come, and neither does what copies it."""
        out = self.out
        out.given_up[number] = self._now
        self._given_up.add(number)
        if math.isnan(out.asked[number]):
            out.asked[number] = out.foreseen[number]
        else:
            self._open -= bool(out.asked[number] < self._span.end)
        if not math.isnan(out.started[number]):
            lane, _, point = self._lane(number)
            self._streams.give_back(lane, point)
            self._moving.take_out(number)
            del self._to_move[number], self._held[number]
        self._unlock(number)
        readers = [one for one in self._unlocks.of(number) if self._reads[one] == number and not math.isnan(out.asked[one])]
        for one in (*self._brings.of(number), *readers):
            if not self._is_given_up(one):
                self._give_up(one)


def _add(held: Held, label: str, seconds: float) -> None:
    if seconds > 0 and label:
        held[label] = held.get(label, 0.0) + seconds
