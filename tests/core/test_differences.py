"""What differs between two states of an entry, in words."""

from typing import Any

import pytest

from shelf_core.forecast.differences import FieldChange, differences, field_words, value_words

LADDER: dict[str, Any] = {
    "id": "house",
    "recent": [{"keep": {"points": 14}}],
    "rungs": [
        {"name": "weekly", "every": "week", "keep": {"periods": 5}},
        {"name": "monthly", "every": "month", "keep": "P1Y"},
    ],
}


def of_rungs(*rungs: dict[str, Any]) -> list[FieldChange]:
    return differences(LADDER, LADDER | {"rungs": list(rungs)})


def test_a_leaf_is_named_by_its_way_and_entries_by_their_names() -> None:
    weekly, monthly = LADDER["rungs"]
    assert of_rungs(weekly | {"keep": {"periods": 8}}, monthly) == [FieldChange("rungs, weekly, keep, periods", "5", "8")]
    assert of_rungs(weekly, monthly | {"keep": "P18M"}) == [
        FieldChange("rungs, monthly, keep", "1 year", "1 year and 6 months")
    ]


def test_what_comes_and_goes_in_a_list_is_told_as_a_whole() -> None:
    weekly, monthly = LADDER["rungs"]
    assert of_rungs(weekly) == [FieldChange("rungs, monthly", "name monthly, every month, keep 1 year", "nothing")]
    yearly = {"name": "yearly", "every": "year", "keep": "forever"}
    assert of_rungs(weekly, monthly, yearly)[0].after == "name yearly, every year, keep forever"


def test_what_only_stands_otherwise_is_no_difference() -> None:
    assert differences({"lock": None}, {}) == []
    assert differences({"lock": []}, {"lock": None}) == []


def test_no_more_than_asked_for() -> None:
    many = {f"field{number}": number for number in range(1, 60)}
    assert len(differences({}, many)) == 40
    assert len(differences({}, many, most=3)) == 3


@pytest.mark.parametrize(
    ("value", "words"),
    [
        (None, "nothing"),
        (True, "yes"),
        (12345.5, "12\u202f345.5"),
        ("P7Y", "7 years"),
        ("Pantry", "Pantry"),
        ("FREQ=WEEKLY;BYDAY=SA", "every week on Saturday"),
        (["22:00"], "22:00"),
        ([["2027-03-24", "2027-04-03"]], "2027-03-24 and 2027-04-03"),
        ({"points": 14}, "points 14"),
        ({"workloads": {"ids": [], "tags": ["core"]}}, "workloads tags core"),
    ],
)
def test_values_are_words(value: Any, words: str) -> None:
    assert value_words(value) == words


def test_fields_are_words() -> None:
    assert [field_words(name) for name in ("from_", "rrule", "usable_percent")] == ["from", "when", "usable, %"]
