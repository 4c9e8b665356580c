"""Lines between sites in sentences, and their limits on the strip of a week."""

from typing import Any

import pytest

from shelf_core.design.links import Link
from shelf_core.design.reading import design_of
from shelf_core.forecast.line_words import Stretch, link_reading
from tests.core.test_night_facts import house

DESIGN = design_of(house())


def reading(**link: Any) -> Any:
    return link_reading(Link.model_validate({"id": "l", "sites": ["a", "b"], **link}), DESIGN)


@pytest.mark.parametrize(
    ("link", "sentence"),
    [
        ({}, "Between a and b it carries whatever comes."),
        ({"speed": "1 Gbit/s"}, "Between a and b it carries 1 Gbit/s each way."),
        (
            {"speed": "1 Gbit/s", "shared": True, "usable_percent": 80, "stream_speed": "40 MB/s"},
            (
                "Between a and b it carries 1 Gbit/s for both directions together, of which 80 % count; one transfer alone gets "
                "at most 40 MB/s."
            ),
        ),
        (
            {"speed": "1 Gbit/s", "limits": [{"days": ["SA", "SU"], "speed": "20 MB/s"}]},
            "Between a and b it carries 1 Gbit/s each way. At weekends, all day at most 20 MB/s.",
        ),
        (
            {"limits": [{"days": ["MO", "WE"], "from": "22:00", "to": "06:00", "speed": 0}]},
            "Between a and b it carries whatever comes. On Monday and Wednesday from 22:00 to 06:00 nothing goes over it.",
        ),
    ],
)
def test_a_line_is_said_in_sentences(link: dict[str, Any], sentence: str) -> None:
    assert reading(**link).sentence == sentence


def test_a_limit_past_midnight_stands_on_the_next_day_too() -> None:
    """It belongs to the day on which it begins: Sunday's goes on on Monday morning."""
    (limit,) = reading(limits=[{"days": ["SU"], "from": "22:30", "to": "06:00", "speed": "1 MB/s"}]).limits
    assert limit.stretches == (Stretch(6, 22.5, 24.0), Stretch(0, 0.0, 6.0))


def test_a_limit_without_hours_stands_all_day() -> None:
    (limit,) = reading(limits=[{"days": ["TU"], "speed": "1 MB/s"}]).limits
    assert limit.stretches == (Stretch(1, 0.0, 24.0),)
    (until_midnight,) = reading(limits=[{"days": ["TU"], "from": "18:00", "to": "00:00", "speed": "1 MB/s"}]).limits
    assert until_midnight.stretches == (Stretch(1, 18.0, 24.0),)
