"""Named edits: all the changes that one act takes, and the design sound after each."""

import json
from typing import Any, get_args

import pytest

from shelf_core.design.document import Design
from shelf_core.design.editing import Change, with_changes
from shelf_core.design.edits.commands import Command, changes_by, command_of
from shelf_core.design.edits.names import EDITS
from shelf_core.design.faults import DesignError
from shelf_core.design.reading import read_design
from shelf_core.design.routes import Copy
from tests.core.test_commands import shelf
from tests.designs import NEWEST_14, WEEKLY_FULL, design
from tests.full_design import full_design

LADDER = {
    "id": "rule",
    "rungs": [
        {"name": "weekly", "every": "week", "keep": "P8W"},
        {"name": "legal", "every": "year", "keep": "P7Y", "from": "weekly"},
    ],
}
OTHER = {"id": "other", "rungs": [{"name": "weekly", "every": "week", "keep": "P4W"}]}
FIRST = {"id": "first", "target": "disk", "cadence": "beat", "ladder": "rule"}
AWAY = {"id": "away", "target": "cold", "from": "first", "ladder": "other", "delay": "P1D"}
TARGETS = [
    {"id": "disk", "media": "disk", "site": "here"},
    {"id": "cold", "media": "object", "site": "here", "packing": "shared"},
    {"id": "snaps", "media": "snapshot", "site": "here"},
]


def start(copies: list[dict[str, Any]] | None = None, **more: Any) -> Design:
    route = {"id": "way", "workloads": {"ids": ["data"]}, "copies": copies or [FIRST]}
    parts = {"targets": TARGETS, "ladders": [LADDER, OTHER], "routes": [route], **more}
    return read_design(json.dumps(design(WEEKLY_FULL, NEWEST_14, **parts)))


def changes(document: Design, **command: Any) -> list[Change]:
    return changes_by(document, command_of(command))


def after(document: Design, **command: Any) -> Design:
    """The design with the edit made; the core checks that it is sound."""
    return with_changes(document, changes(document, **command))


def copies(document: Design, route: str = "way") -> list[Copy]:
    return next(one for one in document.routes if one.id == route).copies


def faults(document: Design, **command: Any) -> list[str]:
    with pytest.raises(DesignError) as refused:
        changes(document, **command)
    return [str(one) for one in refused.value.faults]


def test_each_edit_has_its_name() -> None:
    tags = [get_args(kind.model_fields["do"].annotation)[0] for kind in get_args(get_args(Command)[0])]
    assert tuple(tags) == EDITS


def test_a_rung_is_renamed_wherever_it_is_named_and_only_there() -> None:
    lock = {"for": "P1D", "rungs": ["weekly"]}
    steps = [{"after": "P6M", "target": "cold", "which": ["weekly", "legal"], "lock": [lock]}]
    away = {**AWAY, "take": {"rungs": ["weekly"]}, "lock": [lock]}
    changed = after(start([{**FIRST, "lock": [lock], "step_downs": steps}, away]), do="rename-rung", ladder="rule", rung="weekly", name="saturday")  # fmt: skip
    assert [(one.name, one.from_) for one in changed.ladders[0].rungs] == [
        ("saturday", "self-contained"),
        ("legal", "saturday"),
    ]
    assert changed.ladders[1].rungs[0].name == "weekly"
    first, other = copies(changed)
    assert first.lock[0].rungs == ["saturday"]
    assert first.step_downs[0].which == ["saturday", "legal"]
    assert first.step_downs[0].lock[0].rungs == ["saturday"]
    assert other.take is not None
    assert other.take.plain() == {"rungs": ["saturday"]}  # type: ignore[union-attr]
    assert other.lock[0].rungs == ["weekly"]


def test_routes_that_do_not_name_the_rung_are_left_alone() -> None:
    found = changes(start(), do="rename-rung", ladder="rule", rung="weekly", name="saturday")
    assert [(one.part, one.key) for one in found] == [("ladders", "rule")]


@pytest.mark.parametrize(
    ("rung", "name", "said"),
    [
        ("none", "a", 'rung: expected one of weekly, legal, got "none"'),
        ("weekly", "legal", 'name: expected a name that no other rung has, got "legal"'),
        (
            "weekly",
            "hold",
            'name: expected a name without "+" that is none of recent, hold, log, self-contained, any, got "hold"',
        ),
    ],
)
def test_a_rung_gets_no_name_that_cannot_be(rung: str, name: str, said: str) -> None:
    assert faults(start(), do="rename-rung", ladder="rule", rung=rung, name=name) == [said]


def test_a_first_copy_brings_what_an_empty_design_lacks() -> None:
    nothing = start(ladders=[], cadences=[], routes=[])
    found = changes(nothing, do="add-route", target="disk")
    assert [one.part for one in found] == ["ladders", "cadences", "routes"]
    (copy,) = copies(with_changes(nothing, found), "route")
    assert (copy.target, copy.ladder, copy.cadence) == ("disk", found[0].key, found[1].key)


def test_a_new_copy_follows_the_first_and_keeps_by_its_ladder() -> None:
    added = copies(after(start(), do="add-copy", route="way", target="cold"))[1]
    assert (added.id, added.from_, added.cadence, added.ladder) == ("cold", "first", None, "rule")
    twice = after(after(start(), do="add-copy", route="way", target="cold"), do="add-copy", route="way", target="cold")
    assert [one.id for one in copies(twice)] == ["first", "cold", "cold-2"]


def test_a_copy_on_snapshot_space_takes_snapshots_of_its_own() -> None:
    changed = after(start(), do="add-copy", route="way", target="snaps")
    added = copies(changed)[1]
    (cadence,) = [one for one in changed.cadences if one.id == added.cadence]
    assert {run.kind for run in cadence.runs} == {"snapshot"}
    assert added.from_ is None


def test_a_copy_is_moved_and_steps_down() -> None:
    assert copies(after(start(), do="move-copy", route="way", copy="first", target="cold"))[0].target == "cold"
    (step,) = copies(after(start(), do="add-step-down", route="way", copy="first", target="cold"))[0].step_downs
    assert (step.target, step.after, step.which) == ("cold", "P6M", "rungs")
    assert faults(start(), do="add-step-down", route="way", copy="first", target="disk") == [
        'target: expected another target than the copy\'s own, got "disk"'
    ]


CHAIN = [FIRST, AWAY, {"id": "third", "target": "cold", "from": "away", "ladder": "other"}]


def test_what_followed_a_copy_follows_its_source() -> None:
    left = copies(after(start(CHAIN), do="take-out-copy", route="way", copy="away"))
    assert [(one.id, one.from_) for one in left] == [("first", None), ("third", "first")]


def test_the_next_takes_over_the_cadence_of_a_first_copy() -> None:
    both = [FIRST, AWAY, {"id": "third", "target": "cold", "from": "first", "ladder": "other"}]
    left = copies(after(start(both), do="take-out-copy", route="way", copy="first"))
    assert [(one.id, one.cadence, one.from_, one.delay) for one in left] == [
        ("away", "beat", None, None),
        ("third", None, "away", None),
    ]


def test_opening_stock_goes_with_its_copy_and_the_last_copy_stays() -> None:
    opening = [{"route": "way", "copy": "away", "workload": "data", "taken": "2026-12-30T22:00", "kind": "full"}]
    found = changes(start(CHAIN, opening=opening), do="take-out-copy", route="way", copy="away")
    assert [one.part for one in found] == ["routes", "stock"]
    assert faults(start(), do="take-out-copy", route="way", copy="first") == [
        'copy: expected a copy beside others, got "first", the only one'
    ]


def test_a_seeded_copy_begins_with_a_full_of_each_workload() -> None:
    workloads = [{"id": name, "site": "here", "size": "1 TB"} for name in ("data", "more", "else")]
    route = {"id": "way", "workloads": {"ids": ["data", "more"]}, "copies": [FIRST]}
    document = start(workloads=workloads, routes=[route])
    seeded = after(document, do="seed", route="way", copy="first", taken="2026-12-31T23:59")
    assert [(one.workload, one.kind, one.taken) for one in seeded.opening] == [
        ("data", "full", "2026-12-31T23:59"),
        ("more", "full", "2026-12-31T23:59"),
    ]
    assert after(seeded, do="seed", route="way", copy="first", taken=None).opening == []


@pytest.mark.parametrize(
    ("command", "said"),
    [
        ({"do": "fly"}, ["do: expected one of 'take-out', 'rename-rung'"]),
        ({}, ["do: expected this field, got nothing"]),
        ({"do": "move-copy", "route": "way", "copy": "first"}, ["target: expected this field, got nothing"]),
        ({"do": "move-copy", "route": "no", "copy": "first", "target": "cold"}, ['route: expected one of way, got "no"']),
        ({"do": "seed", "route": "way", "copy": "first", "taken": "soon"}, ["taken: expected a local time"]),
        ({"do": "take-out", "part": "walls", "key": "x"}, ["part: expected 'sites', 'links', 'targets'"]),
    ],
)
def test_a_bad_edit_says_where_and_why(command: dict[str, Any], said: list[str]) -> None:
    with pytest.raises(DesignError) as refused:
        changes_by(start(), command_of(command))
    assert [words in str(one) for words, one in zip(said, refused.value.faults, strict=True)] == [True], refused.value


def test_edits_on_the_command_line_are_made_all_or_none(tmp_path: Any) -> None:
    file = tmp_path / "design.json"
    file.write_text(json.dumps(full_design()))
    move = '{"do": "rename-rung", "ladder": "sure", "rung": "weekly", "name": "sundays"}'
    printed, _ = shelf("change", file, move, '{"do": "add-route", "target": "disk"}')
    changed = read_design(printed)
    assert changed.ladders[-1].rungs[0].name == "sundays"
    assert changed.routes[-1].copies[0].target == "disk"
    nothing, why = shelf("change", file, move, '{"do": "add-route", "target": "nowhere"}', status=2)
    assert nothing == ""
    assert why.startswith("edit 2.target: expected one of ")
