"""What restoring a point takes, beside each point of the list (domain facts, with their source beside each)."""

from shelf_core.design.reading import design_of
from shelf_core.forecast.forecast import forecast
from shelf_core.forecast.points import Chosen, points_on, points_page
from tests.core.test_proof_facts import WEEKLY_CHAIN, house


def said(plain: dict[str, object], day: str, kind: str | None = None) -> list[str]:
    result = forecast(design_of(plain))
    return [row.restore for row in points_page(result, day, Chosen(kind=kind), 0, 500).rows]


def test_day_six_of_a_weekly_chain_reads_all_seven() -> None:
    """10 TB at 2 % a day, by incrementals: 11.2 TB are read and 10 written (common practice, no source)."""
    plain = house(target={"packing": "separate"}, runs=WEEKLY_CHAIN)
    assert said(plain, "2027-01-09", "incremental")[-1] == "Restoring it reads 7 points, 11.2 TB, and writes 10.0 TB."
    assert said(plain, "2027-01-09", "full")[0] == "Restoring it reads 1 point, 10.0 TB, and writes 10.0 TB."


def test_on_shared_packing_a_point_is_read_as_a_whole() -> None:
    plain = house(target={"packing": "shared"}, runs=WEEKLY_CHAIN, workload={"count": 3, "reduction": 2})
    assert said(plain, "2027-01-09")[-1] == "Restoring it reads 1 point, 5.00 TB, and writes 10.0 TB for each machine."


def test_whole_lists_leave_it_out() -> None:
    result = forecast(design_of(house()))
    assert {row.restore for row in points_on(result, "2027-01-09")} == {""}
