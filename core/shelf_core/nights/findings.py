"""Findings about time: what is late from a date on, starts too early, has no way, never catches up, idles."""

import math
from collections.abc import Iterator, Sequence

import numpy as np

from shelf_core.arrays import Places
from shelf_core.calendar.zones import DAY, day_number
from shelf_core.design.values import bytes_per_second_of
from shelf_core.engine.schedule.kinds import FULL, SYNTHETIC
from shelf_core.forecast.dates import written_day
from shelf_core.forecast.figure_words import bytes_words
from shelf_core.forecast.finding import Finding
from shelf_core.nights.following import MOUNT, SCAN, STREAM, Followed
from shelf_core.nights.moving import BY_PRIORITY, Held
from shelf_core.nights.tables import Load, Night
from shelf_core.nights.transfers import NONE, Lane
from shelf_core.nights.words import named_label

_CopyKey = tuple[str, str]


def night_findings(followed: Followed, nights: Sequence[Night], loads: Sequence[Load]) -> list[Finding]:
    """All slips that following the whole design shows, in the order of the document for each sort."""
    by_copy: dict[_CopyKey, list[tuple[int, Lane]]] = {}
    for place, lane in enumerate(followed.lanes):
        by_copy.setdefault((lane.route.id, lane.copy.id), []).append((place, lane))
    found = [*_no_way(followed, by_copy), *_late(followed, by_copy, nights), *_too_early(followed, by_copy)]
    found += [*_first_fulls(followed, by_copy), *_starving_drives(followed, by_copy), *_idle_lines(followed, by_copy)]
    return [*found, *_never_catches_up(followed, loads)]


def _name(lane: Lane) -> str:
    return f"{lane.route.name or lane.route.id}: {lane.copy.name or lane.copy.id}"


def _about(lane: Lane, kind: str, sentence: str, way_out: str, *, target: str | None = None) -> Finding:
    return Finding(kind, sentence, way_out, route=lane.route.id, copy=lane.copy.id, target=target)  # type: ignore[arg-type]


def _numbers(lanes: list[tuple[int, Lane]]) -> Places:
    return np.concatenate([np.arange(lane.first, lane.first + lane.points * lane.machines) for _, lane in lanes])


def _day(followed: Followed, seconds: float) -> str:
    frame = followed.result.frame
    local = int(frame.zone.local(np.array([int(seconds) + frame.begin]))[0])
    return written_day(local // DAY * DAY)


def _no_way(followed: Followed, by_copy: dict[_CopyKey, list[tuple[int, Lane]]]) -> Iterator[Finding]:
    for lanes in by_copy.values():
        numbers = _numbers(lanes)
        without = int(followed.no_way[numbers].sum())
        if without:
            lane = next(one for _, one in lanes if followed.no_way[one.first : one.first + one.points].any())
            yield _about(
                lane,
                "no way",
                f"No line leads to {lane.target.name or lane.target.id}: {without} of {len(numbers)} transfers of "
                f"{_name(lane)} never start.",
                "Add a line between the two sites, or choose a target that one leads to.",
            )


def _late(followed: Followed, by_copy: dict[_CopyKey, list[tuple[int, Lane]]], nights: Sequence[Night]) -> Iterator[Finding]:
    for key, lanes in by_copy.items():
        lane = lanes[0][1]
        late = [one for one in nights if (one.route, one.copy) == key and one.late]
        if not late or followed.no_way[_numbers(lanes)].all():
            continue
        since = [one for one in nights if (one.route, one.copy) == key and one.night >= late[0].night]
        held = _held_most(followed, lanes)
        begins = written_day(day_number(late[0].night) * DAY)
        yield _about(
            lane,
            "late",
            f"{_name(lane)} is late from the night of {begins} on: on {len(late)} of the {len(since)} nights since that have "
            f"something to do{f'; what holds it most is {held}' if held else ''}.",
            "Move less, begin sooner, give what holds it more speed, or open its window for longer.",
        )


def _held_most(followed: Followed, lanes: list[tuple[int, Lane]]) -> str:
    sums: Held = {}
    for place, _ in lanes:
        for label, seconds in followed.held_in_all[place].items():
            sums[label] = sums.get(label, 0.0) + seconds
    if not sums:
        return ""
    words = named_label(max(sums, key=lambda label: sums[label]), followed.result.design)
    return words[0].lower() + words[1:] if words.startswith(("Line ", "Storage ", "Network ")) else words


def _too_early(followed: Followed, by_copy: dict[_CopyKey, list[tuple[int, Lane]]]) -> Iterator[Finding]:
    for lanes in by_copy.values():
        numbers = _numbers(lanes)
        early = numbers[followed.too_early[numbers]]
        if not len(early):
            continue
        lane = lanes[0][1]
        first = _day(followed, float(np.nanmin(followed.asked[early])))
        waits = followed.started[early] - followed.asked[early]
        longest = float(np.nanmax(waits, initial=0.0, where=~np.isnan(waits)))
        yield _about(
            lane,
            "starts too early",
            f"{_name(lane)} is asked for before what it reads has come, {len(early)} times of {len(numbers)}, first on "
            f"{first}: it then waits, for {_length(longest)} at most.",
            "Let it begin later, or follow its source instead of reading at times of its own.",
        )


def _first_fulls(followed: Followed, by_copy: dict[_CopyKey, list[tuple[int, Lane]]]) -> Iterator[Finding]:
    """First fulls that go on when their window has closed: how long they take, and what carrying them by hand would spare."""
    for lanes in by_copy.values():
        fulls = [number for place, lane in lanes if followed.openings[place] for number in _first_full_of(lane)]
        outlasts = [number for number in fulls if _outlasts(followed, number)]
        if not outlasts:
            continue
        lane = lanes[0][1]
        begin = float(np.min(followed.asked[outlasts]))
        end = float(np.max(followed.ended[outlasts]))
        amount = sum(float(one.moved_bytes[point]) for one, _, point in map(followed.lane, outlasts))
        days = max(1, math.ceil((end - begin) / DAY - 1e-9))
        yield _about(
            lane,
            "first full outlasts its window",
            f"The first full of {_name(lane)} moves {bytes_words(amount)} and takes {_days(days)}: it goes on after its window "
            "has closed.",
            f"Carried by hand it would spare the line {bytes_words(amount)} and {_days(days)}; or open the window wide for the "
            "first run.",
        )


def _first_full_of(lane: Lane) -> list[int]:
    first = np.flatnonzero(np.isin(lane.kind, (FULL, SYNTHETIC)) & (lane.before == NONE))
    return [lane.first + machine * lane.points + int(point) for point in first for machine in range(lane.machines)]


def _outlasts(followed: Followed, number: int) -> bool:
    window, asked, ended = followed.window(number), followed.asked[number], followed.ended[number]
    if window is None or math.isnan(asked) or math.isnan(ended):
        return False
    closing = window.first_closing_after(float(asked) + 1e-6)
    return closing is not None and float(ended) > closing + 1.0


def _starving_drives(followed: Followed, by_copy: dict[_CopyKey, list[tuple[int, Lane]]]) -> Iterator[Finding]:
    """Drives that get less than they need to stream, on the mean of the time in which bytes move."""
    for lanes in by_copy.values():
        for place, lane in lanes:
            feed = lane.target.feed
            if feed is None or lane.copy.verify:
                continue
            held = followed.held_in_all[place]
            part = slice(lane.first, lane.first + lane.points * lane.machines)
            moved = np.tile(lane.moved_bytes, lane.machines)
            ended = ~np.isnan(followed.ended[part]) & (moved > 0)
            took = float((followed.ended[part] - followed.started[part])[ended].sum())
            moving = took - held.get(SCAN, 0.0) - held.get(MOUNT, 0.0)
            if moving <= 0 or moved[ended].sum() / moving >= bytes_per_second_of(feed):
                continue
            rate = moved[ended].sum() / moving
            yield _about(
                lane,
                "drive starves",
                f"The drives of {lane.target.name or lane.target.id} get {bytes_words(rate)}/s on the mean from {_name(lane)}, "
                f"below the {feed} at which they stream: they stop and start again.",
                "Write from disk by way of a copy, several at once, or over a faster line.",
                target=lane.target.id,
            )
            break


def _idle_lines(followed: Followed, by_copy: dict[_CopyKey, list[tuple[int, Lane]]]) -> Iterator[Finding]:
    """Copies over a line that are held by streams most of the time while the line itself never holds them."""
    design = followed.result.design
    for lanes in by_copy.values():
        lane = lanes[0][1]
        links = _links_passed(followed, lanes)
        # The drives of a library are not a limit that somebody has set.
        if not links or lane.target.media == "tape":
            continue
        sums: Held = {}
        for place, _ in lanes:
            for label, seconds in followed.held_in_all[place].items():
                bare = label.removesuffix(BY_PRIORITY)
                sums[bare] = sums.get(bare, 0.0) + seconds
        by_streams = sum(seconds for label, seconds in sums.items() if label == STREAM or label.startswith("stream of "))
        by_links = sum(seconds for label, seconds in sums.items() if label in links)
        if by_streams > 0.5 * sum(sums.values()) and by_links == 0 and by_streams > 3600:
            names = " and ".join(sorted({named_label(one, design) for one in links}))
            yield _about(
                lane,
                "stream limit idles a line",
                f"{_name(lane)} is held by the number or the speed of streams most of the time, while {names} could carry "
                "more.",
                "Allow more transfers at once, or a faster one.",
            )


def _links_passed(followed: Followed, lanes: list[tuple[int, Lane]]) -> set[str]:
    resources, found = followed.resources, set()
    for _, lane in lanes:
        for resource in followed.legs.amounts(lane):
            label = resources.labels[resource]
            if label.startswith("link "):
                found.add(label)
    return found


def _never_catches_up(followed: Followed, loads: Sequence[Load]) -> Iterator[Finding]:
    for one in loads:
        if one.load <= 1:
            continue
        target = next((t.id for t in followed.result.design.targets if one.resource.startswith(f"target {t.id} ")), None)
        name = named_label(one.resource, followed.result.design)
        since = written_day(day_number(one.from_day) * DAY)
        share = "without end" if math.isinf(one.load) else f"{100 * one.load:.0f} % of what it can carry"
        yield Finding(
            "never catches up",
            f"{name} never catches up: {share} is asked of it in the 28 days from {since}.",
            "Make it faster, open windows for longer, or move less over it.",
            target=target,
        )


def _length(seconds: float) -> str:
    minutes = round(seconds / 60)
    hours, rest = divmod(minutes, 60)
    return f"{hours} h {rest} min" if hours else f"{minutes} min"


def _days(count: int) -> str:
    return f"{count} {'day' if count == 1 else 'days'}"
