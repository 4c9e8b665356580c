"""Restores, losses and duties against plain arithmetic. Where nothing else is said: worked by hand; common practice, no source."""

from typing import Any

import numpy as np
import pytest

from shelf_core.design.reading import design_of
from shelf_core.forecast.forecast import Forecast, forecast
from shelf_core.forecast.restores import chance_whole
from shelf_core.nights.tables import seconds_of
from shelf_core.proof.aftermath import Aftermath
from shelf_core.proof.arrived import arrivals_of
from shelf_core.proof.cases import as_it_is, world_after
from shelf_core.proof.duties import Duties
from shelf_core.proof.loss_findings import all_findings
from shelf_core.proof.losses import CaseResult, case_at
from shelf_core.proof.lying import lying_of
from shelf_core.proof.mending import mend
from shelf_core.proof.plans import PlanResult, carry_out_plan
from shelf_core.proof.sheet import sheet_of

DAILY = {"id": "f", "kind": "full", "rrule": "FREQ=DAILY", "at": ["22:00"]}
SUNDAY = {"id": "s", "kind": "full", "rrule": "FREQ=WEEKLY;BYDAY=SU", "at": ["22:00"]}
MONTHLY = {"id": "m", "kind": "full", "rrule": "FREQ=MONTHLY;BYMONTHDAY=1", "at": ["22:00"]}


def house(**more: Any) -> dict[str, Any]:
    """One workload of 10 TB and one target at a; its runs, ladder, target and lists are given."""
    return {
        "format": "rested-shelf-design", "version": 2, "name": "House", "timezone": more.pop("timezone", "UTC"),
        "starts": more.pop("starts", "2027-01-01"),
        "years": more.pop("years", 1),
        "sites": [{"id": "a"}, {"id": "b"}],
        "targets": [{"id": "d", "media": "disk", "site": "a", **more.pop("target", {})}],
        "workloads": [{"id": "w", "site": "a", "size": "10 TB", "daily_change_percent": 2, **more.pop("workload", {})}],
        "cadences": [{"id": "c", "runs": more.pop("runs", [DAILY])}],
        "ladders": [{"id": "k", **more.pop("ladder", {"recent": [{"keep": "P60D"}]})}],
        "routes": [
            {"id": "r", "workloads": {"ids": ["w"]}, "copies": [
                {"id": "one", "target": "d", "cadence": "c", "ladder": "k", **more.pop("copy", {})}
            ]}
        ],
        **more,
    }  # fmt: skip


def restored(plain: dict[str, Any], at: str, moment: str | None = None) -> PlanResult:
    """The first plan of a design, called for at a local time."""
    result = forecast(design_of(plain))
    begin = result.frame.begin
    called, asked = (begin + int(seconds_of(result, one)) for one in (at, moment or at))
    lyings = lying_of(result, arrivals_of(result, float(called - begin)))
    return carry_out_plan(as_it_is(result, called, asked), result.design.recovery_plans[0], lyings)


def lost(plain: dict[str, Any], at: str) -> CaseResult:
    """The first case of a design, at a local time."""
    result = forecast(design_of(plain))
    instant = result.frame.begin + int(seconds_of(result, at))
    lyings = lying_of(result, arrivals_of(result, float(instant - result.frame.begin)))
    return case_at(world_after(Aftermath(result, result.design.loss_cases[0]), instant), lyings)


def failed_days(plain: dict[str, Any], *asks: dict[str, Any]) -> list[list[str]]:
    """The days on which each of some asks fails."""
    result = forecast(design_of(plain | {"duties": [{"id": "law", "workloads": ["w"], "asks": list(asks)}]}))
    return [[result.day(place) for place in answer.failed] for answer in Duties(result).answers()]


PLAN = {"recovery_plans": [{"id": "p", "groups": [{"workloads": ["w"]}]}]}
WEEKLY_CHAIN = [
    {"id": "f", "kind": "full", "rrule": "FREQ=WEEKLY;BYDAY=SU", "at": ["22:00"]},
    {"id": "i", "kind": "incremental", "rrule": "FREQ=DAILY", "at": ["22:00"]},
]


@pytest.mark.parametrize(("kind", "read"), [("incremental", 11.2e12), ("differential", 11.141576e12)])
def test_what_day_six_of_a_weekly_chain_reads(kind: str, read: float) -> None:
    """Six changes of 200 GB, or what has changed at least once in six days: 10 TB (1 - 0.98^6) = 1.141576 TB."""
    runs = [WEEKLY_CHAIN[0], {**WEEKLY_CHAIN[1], "kind": kind, "rrule": "FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR,SA"}]
    plain = house(runs=runs, target={"packing": "separate"}, workload={"write_speed": "200 MB/s"}, **PLAN)
    plan = restored(plain, "2027-02-13T23:00")
    assert plan.read_bytes == pytest.approx(read, rel=1e-6)
    # It writes 10 TB at 200 MB/s, however much it reads.
    assert plan.back_at is not None
    assert plan.back_at - plan.begins == pytest.approx(50_000, abs=1e-3)


def two_groups(**more: Any) -> dict[str, Any]:
    plain = house(target={"read_speed": "500 MB/s"}, workload={"size": "5 TB"}, **more)
    plain["workloads"].append({**plain["workloads"][0], "id": "v"})
    plain["routes"][0]["workloads"] = {"ids": ["w", "v"]}
    groups = [{"workloads": [name], "then": "PT20M"} for name in ("w", "v")]
    return plain | {"recovery_plans": [{"id": "p", "groups": groups}]}


def test_two_groups_of_5_terabytes_at_500_megabytes_with_20_minutes_each_take_22400_seconds() -> None:
    plan = restored(two_groups(), "2027-02-13T23:00")
    assert plan.over_at is not None
    assert plan.over_at - plan.begins == pytest.approx(22_400, abs=1e-3)


def test_what_is_fetched_for_three_groups_is_waited_for_once() -> None:
    """All cartridges of closed weeks are away: 12 hours of fetching, asked for once at the beginning."""
    tape = {
        "media": "tape", "drives": 1, "cartridge": "18 TB", "batch_closes": "day", "returns_after": "P7D", "fetch": "PT12H",
        "away_site": "b", "read_speed": "500 MB/s",
    }  # fmt: skip
    plain = house(target=tape, runs=[SUNDAY], workload={"size": "1 TB"})
    names = ["w", "v", "u"]
    plain["workloads"] = [{**plain["workloads"][0], "id": name} for name in names]
    plain["routes"][0]["workloads"] = {"ids": names}
    plain["recovery_plans"] = [{"id": "p", "groups": [{"workloads": [name]} for name in names]}]
    plan = restored(plain, "2027-02-12T12:00")
    assert plan.back_at is not None
    assert plan.back_at - plan.begins == pytest.approx(12 * 3600 + 3 * 2_000, abs=1e-3)
    assert [round(one.first_byte - plan.begins) for one in plan.restored if one.first_byte] == [43_200, 45_200, 47_200]


def test_cartridges_that_are_still_in_the_library_need_no_fetching() -> None:
    tape = {"media": "tape", "drives": 1, "cartridge": "18 TB", "fetch": "PT12H", "read_speed": "500 MB/s", "mount": "PT3M"}
    plan = restored(house(target=tape, workload={"size": "1 TB"}, **PLAN), "2027-01-01T23:00")
    assert plan.back_at is not None
    assert plan.back_at - plan.begins == pytest.approx(180 + 2_000, abs=1e-3)


@pytest.mark.parametrize(("keep", "moments"), [(14, 0), (15, 1)])
def test_two_unnoticed_weeks_against_the_newest_fourteen(keep: int, moments: int) -> None:
    """At noon the newest of 14 daily points is of the evening before, the oldest of 13 days before that: all are bad."""
    plain = house(ladder={"recent": [{"keep": {"points": keep}}]}, loss_cases=[{"id": "c", "unnoticed": "P14D"}])
    (found,) = lost(plain, "2027-03-01T12:00").workloads
    assert found.moments == moments


@pytest.mark.parametrize(
    ("mode", "rights", "left"), [("final", "special", 7), ("liftable", "special", 0), ("liftable", "account", 7)]
)
def test_what_a_lock_of_a_week_leaves_to_an_intruder(mode: str, rights: str, left: int) -> None:
    """Daily fulls at 22:00, newest 14, at midnight: those of the last seven evenings are locked still."""
    plain = house(
        ladder={"recent": [{"keep": {"points": 14}}]},
        target={"lock": "final", "account": "keys"},
        copy={"lock": {"for": "P7D", "mode": mode}},
        loss_cases=[{"id": "c", "lost": {"source": False}, "intruder": {"accounts": ["keys"], "rights": rights}}],
    )
    found = lost(plain, "2027-03-01T00:00")
    assert found.workloads[0].moments == left
    assert found.targets[0][1] == left


def test_an_intruder_without_the_account_deletes_nothing() -> None:
    plain = house(
        ladder={"recent": [{"keep": {"points": 14}}]},
        target={"account": "other keys"},
        loss_cases=[{"id": "c", "intruder": {"accounts": ["keys"]}}],
    )
    assert lost(plain, "2027-03-01T00:00").workloads[0].moments == 14


def test_a_point_counts_once_it_has_come() -> None:
    """10 TB at 500 MB/s come in 20,000 s, at 03:33:20: at 02:00 only the evening before can be restored."""
    plain = house(target={"write_speed": "500 MB/s"}, **PLAN)
    (early,), (late,) = restored(plain, "2027-02-10T02:00").restored, restored(plain, "2027-02-10T04:00").restored
    assert early.choice is not None
    assert late.choice is not None
    assert late.choice.candidate.moment - early.choice.candidate.moment == 86_400


def test_what_a_sweep_removes_can_be_restored_until_its_run_has_ended() -> None:
    """Only the newest point is kept: while the next one still comes, the one before is there."""
    plain = house(target={"write_speed": "500 MB/s"}, ladder={"recent": [{"keep": {"points": 1}}]}, **PLAN)
    (one,) = restored(plain, "2027-02-10T02:00").restored
    assert one.choice is not None


def test_53_weekly_points_reach_no_year_back_on_most_sundays_and_54_do() -> None:
    """A year of 52 weeks and a day needs one more than 53 points when the newest has just come. Neither year is a leap year."""
    asks = {"history": "P1Y", "every": "P1W"}
    rung = {"name": "weekly", "every": "week", "pick": "last"}
    found = {}
    for periods in (53, 54):
        ladder = {"rungs": [{**rung, "keep": {"periods": periods}}]}
        (found[periods],) = failed_days(house(runs=[SUNDAY], ladder=ladder, years=2, starts="2025-01-01"), asks)
    assert found[54] == []
    assert len(found[53]) == 51
    assert {np.datetime64(day).astype(object).isoweekday() for day in found[53]} == {7}
    assert all(day.startswith("2026") for day in found[53])


def test_monthly_for_84_periods_fails_where_seven_years_hold() -> None:
    """Seven whole years back at any day reach into 85 months."""
    asks = {"history": "P7Y", "every": "P1M"}
    keeps = {"periods": {"periods": 84}, "time": "P7Y1M"}
    found = {}
    for name, keep in keeps.items():
        ladder = {"rungs": [{"name": "monthly", "every": "month", "keep": keep}]}
        (found[name],) = failed_days(house(runs=[MONTHLY], ladder=ladder, years=9), asks)
    assert found["time"] == []
    assert len(found["periods"]) > 300


def test_a_daily_run_needs_more_than_a_day() -> None:
    """With its own time of 20,000 s a point is 1 d 5:33:20 old when the next can first be restored."""
    plain = house(target={"write_speed": "500 MB/s"})
    day, longer = failed_days(plain, {"rpo": "P1D"}, {"rpo": "P1DT12H"})
    assert len(day) == 365 - 7
    assert longer == []


def test_a_spare_point_is_one_that_may_be_missing() -> None:
    spare, enough = failed_days(house(), {"rpo": "P1DT1H", "spare": 1}, {"rpo": "P2DT1H", "spare": 1})
    assert len(spare) == 365 - 7
    assert enough == []


def test_what_a_hold_alone_keeps_is_not_held_against_a_duty() -> None:
    hold = {"workloads": ["w"], "taken_from": "2027-01-10", "taken_to": "2027-01-12", "placed": "2027-01-20"}
    ladder = {"recent": [{"keep": "P20D"}]}
    (alone,) = failed_days(house(ladder=ladder, holds=[hold]), {"gone_after": "P30D"})
    (longer,) = failed_days(house(ladder={"recent": [{"keep": "P60D"}]}, holds=[hold]), {"gone_after": "P30D"})
    assert alone == []
    assert longer[0] == "2027-02-01"


def test_a_workload_that_no_route_takes_was_never_protected() -> None:
    plain = house()
    plain["workloads"].append({**plain["workloads"][0], "id": "v"})
    plain["duties"] = [{"id": "law", "workloads": ["v"], "asks": [{"rpo": "P1D"}]}]
    (row,) = sheet_of(Duties(forecast(design_of(plain)))).rows
    assert (row.verdict, row.worst, row.days_failed) == ("fails", "never protected", 358)
    assert "no route takes" in row.reason


def test_alike_workloads_stand_in_one_row_with_the_reason_and_the_rule_that_let_go() -> None:
    plain = house(ladder={"recent": [{"keep": {"points": 5}}]})
    plain["workloads"] = [{**plain["workloads"][0], "id": name, "name": name.upper()} for name in ("w", "v", "u")]
    plain["routes"][0]["workloads"] = {"ids": ["w", "v", "u"]}
    plain["duties"] = [{"id": "law", "workloads": ["w", "v", "u"], "asks": [{"history": "P7D", "every": "P1D"}]}]
    (row,) = sheet_of(Duties(forecast(design_of(plain)))).rows
    assert row.workload_names == ["W", "V", "U"]
    assert row.first_failed == "2027-01-08"
    assert row.reason.endswith(
        "the point of Sunday 3 January 2027, 22:00 went from d on 8 January 2027, let go by recent of k."
    )


def test_the_smallest_longer_keep_is_found_and_holds() -> None:
    """Seven days back with a point each day: the newest 8 do, as the one of the eighth evening before is asked for, too."""
    plain = house(ladder={"recent": [{"keep": {"points": 5}}]})
    plain["duties"] = [{"id": "law", "workloads": ["w"], "asks": [{"history": "P7D", "every": "P1D"}]}]
    result: Forecast = forecast(design_of(plain))
    found = mend(result, result.design.duties[0], 0, arrivals_of(result))
    assert found.ladder is not None
    assert found.sentence == "Let k keep the newest 8 points in place of 5."
    mended = design_of(plain | {"ladders": [found.ladder.plain()]})
    assert [one.verdict for one in Duties(forecast(mended)).answers()] == ["holds"]


def test_a_chain_of_31_at_a_thousandth_is_whole_with_0_969461() -> None:
    """0.999^31 (binomial distribution)."""
    assert chance_whole(31, 0.001) == pytest.approx(0.969461, abs=1e-6)


def test_spans_go_over_days_that_are_not_judged() -> None:
    plain = house(loss_cases=[{"id": "c", "lost": {"targets": ["d"]}, "plan": "p"}], **PLAN)
    plain["duties"] = [{"id": "law", "workloads": ["w"], "asks": [{"stands": "c", "rto": "PT8H"}]}]
    result = forecast(design_of(plain))
    (answer,) = Duties(result).answers()
    spans = [(result.day(first), result.day(last)) for first, last in answer.days.failed_spans()]
    assert (len(answer.days), spans) == (12, [("2027-01-31", "2027-12-31")])


def test_what_waits_for_a_reclaim_can_still_be_read() -> None:
    """Points of ten days go at the midnight after; their space is given back on Sundays: until then they are there to be read."""
    ladder = {"recent": [{"keep": "P10D"}]}
    target = {"reclaim": {"rrule": "FREQ=WEEKLY;BYDAY=SU", "at": ["06:00"]}}
    asks = ({"gone_after": "P12D"}, {"gone_after": "P12D", "readable": False})
    readable, not_readable = failed_days(house(ladder=ladder, target=target), *asks)
    assert not_readable == []
    # Of a week's points the first waits for six days: it is too old on the days before the Sunday.
    assert len(readable) > 150
    assert all(np.datetime64(day).astype(object).isoweekday() != 7 for day in readable)


def test_what_is_stranded_on_a_cartridge_can_still_be_read() -> None:
    """A week's points share a cartridge: Monday's is stranded until Sunday's has gone, with the run of the tenth evening after.

    Monday's is too old from the Sunday of the week after on, and gone on the Wednesday: three days in each of fifty weeks.
    """
    tape = {"media": "tape", "drives": 1, "cartridge": "200 TB", "batch_closes": "week"}
    ladder = {"recent": [{"keep": "P10D"}]}
    asks = ({"gone_after": "P12D"}, {"gone_after": "P12D", "readable": False}, {"gone_after": "P18D"})
    readable, not_readable, longer = failed_days(house(ladder=ladder, target=tape), *asks)
    assert not_readable == longer == []
    assert len(readable) == 150


@pytest.mark.parametrize(("kept", "found"), [("P60D", []), ("P3D", ["none left of what is needed first"])])
def test_what_is_needed_first_and_gone_itself_is_found(kept: str, found: list[str]) -> None:
    """Two unnoticed weeks: of a catalogue that is kept for three days no good point is left, of one kept for sixty there is."""
    case = {"id": "weeks", "lost": {"source": True}, "unnoticed": "P14D"}
    plain = house(
        ladder={"recent": [{"keep": kept}]}, workload={"needed_first": True, "name": "Catalogue"}, loss_cases=[case], **PLAN
    )
    result = forecast(design_of(plain))
    sentences = [one for one in all_findings(result) if one.kind == "none left of what is needed first"]
    assert [one.kind for one in sentences] == found
    for one in sentences:
        assert (
            one.sentence
            == "Of Catalogue, needed before all else is restored, weeks would leave nothing from 1 January 2027 on."
        )
        assert one.workload == "w"
