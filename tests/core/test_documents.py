"""Documents in and out: canonical JSON and YAML, the published schema, versions, and texts that are meant to do harm."""

import io
import json
import re
import time
from collections.abc import Callable
from typing import Any

import jsonschema
import pytest
import yaml
from hypothesis import given, settings
from hypothesis import strategies as st

from shelf_core.design.faults import DesignError
from shelf_core.design.meanings import MEANINGS
from shelf_core.design.reading import design_of, plain_json, read_design
from shelf_core.design.schema import design_schema
from shelf_core.design.versions import NEWEST, brought_up
from shelf_core.engine.schedule.frame import frame_of
from shelf_core.engine.schedule.runs import runs_of
from shelf_core.forecast.forecast import forecast
from shelf_core.formats.documents import document_text, read_document
from shelf_core.formats.tables import write_forecast
from shelf_core.formats.yaml_text import DEEPEST, LARGEST_YAML_BYTES, plain_yaml, yaml_text
from tests.core.strategies import designs
from tests.designs import DEMO, ROOT

VERSIONS = ROOT / "tests" / "core" / "versions"
EXAMPLES = [DEMO, *sorted((ROOT / "tests" / "examples").glob("*.json"))]
SCHEMA = design_schema()
plain_values = st.recursive(
    st.none() | st.booleans() | st.integers(-(10**15), 10**15) | st.floats(allow_nan=False, allow_infinity=False) | st.text(),
    lambda inner: st.lists(inner, max_size=4) | st.dictionaries(st.text(), inner, max_size=4),
    max_leaves=12,
)


def refused(read: Callable[[str | bytes], Any], text: str | bytes) -> str:
    """Why a text is refused; it must not take long to say so."""
    began = time.monotonic()
    with pytest.raises(DesignError) as error:
        read(text)
    assert time.monotonic() - began < 5
    return str(error.value)


@settings(max_examples=60)
@given(document=designs())
def test_the_same_design_gives_the_same_bytes_in_both_languages(document: dict[str, Any]) -> None:
    first = design_of(document)
    for language in ("json", "yaml"):
        text = document_text(first, language)  # type: ignore[arg-type]
        again = read_document(text.encode())
        assert again == first
        assert document_text(again, language) == text  # type: ignore[arg-type]
        assert document_text(again) == document_text(first)


@pytest.mark.parametrize("file", EXAMPLES, ids=lambda file: file.stem)
def test_the_schema_takes_every_example_and_what_is_made_of_it(file: Any) -> None:
    """Source: JSON Schema 2020-12 as the library jsonschema reads it."""
    jsonschema.Draft202012Validator.check_schema(SCHEMA)
    validator = jsonschema.Draft202012Validator(SCHEMA)
    validator.validate(brought_up(json.loads(file.read_text())))
    validator.validate(json.loads(document_text(read_document(file.read_bytes()))))


@settings(max_examples=60)
@given(document=designs())
def test_the_schema_takes_random_designs(document: dict[str, Any]) -> None:
    jsonschema.Draft202012Validator(SCHEMA).validate(document)
    jsonschema.Draft202012Validator(SCHEMA).validate(design_of(document).canonical())


@pytest.mark.parametrize(
    ("place", "value"),
    [
        (("version",), 3),
        (("starts",), "soon"),
        (("years",), 0),
        (("workloads", 0, "size"), True),
        (("workloads", 0, "colour"), "red"),
        (("targets", 0, "media"), "paper"),
        (("routes", 0, "copies", 0, "lock"), {"for": "three days"}),
        (("ladders", 0, "rungs", 0, "every"), "fortnight"),
    ],
)
def test_the_schema_and_the_reader_refuse_the_same(place: tuple[Any, ...], value: Any) -> None:
    document = json.loads(DEMO.read_text())
    here = document
    for part in place[:-1]:
        here = here[part]
    here[place[-1]] = value
    with pytest.raises(jsonschema.ValidationError):
        jsonschema.Draft202012Validator(SCHEMA).validate(document)
    assert str(place[-1]) in refused(read_document, json.dumps(document))


@pytest.mark.parametrize("version", range(1, NEWEST + 1))
def test_documents_of_every_version_forecast_to_the_same_table(version: int) -> None:
    """A document and its table as they were kept when the version was new; a version without one fails here."""
    design = read_document((VERSIONS / f"{version}.json").read_bytes())
    assert design.canonical()["version"] == NEWEST
    found = io.StringIO()
    write_forecast(forecast(design), found)
    kept = (VERSIONS / f"{version}.forecast.csv").read_text()
    for at, (one, other) in enumerate(zip(found.getvalue().splitlines(), kept.splitlines(), strict=True)):
        assert same_line(one, other), (at, one, other)


def same_line(one: str, other: str) -> bool:
    """Equal but for the last digits of sums, which another build of numpy may round another way."""
    pairs = list(zip(one.split(","), other.split(","), strict=True))
    return all(a == b or float(a) == pytest.approx(float(b), rel=1e-12) for a, b in pairs)


def test_steps_bring_a_document_up_one_version_after_the_other() -> None:
    steps = {
        1: lambda old: {**old, "name": old["name"] + " 2"},
        2: lambda old: {key: value for key, value in old.items() if key != "weight"},
    }
    document = {"format": "rested-shelf-design", "version": 1, "name": "Old", "weight": 3}
    assert brought_up(document, 3, steps) == {"format": "rested-shelf-design", "version": 3, "name": "Old 2"}
    assert brought_up({**document, "version": 3}, 3, steps)["weight"] == 3
    with pytest.raises(DesignError, match="expected a version from 1 to 3, got 4"):
        brought_up({**document, "version": 4}, 3, steps)
    assert document["version"] == 1


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"version": NEWEST + 1}, f"version: expected a version from 1 to {NEWEST}, got {NEWEST + 1}: this document was written by a newer"),
        ({"version": 10**30}, "written by a newer program"),
        ({"version": 0}, "version: expected a version from 1 to 2, got 0"),
        ({"version": "1"}, 'version: expected a version from 1 to 2, got "1"'),
        ({"version": True}, "version: expected a version from 1 to 2, got"),
        ({"format": "something-else"}, 'format: expected "rested-shelf-design", got "something-else"'),
    ],
)  # fmt: skip
def test_other_formats_and_newer_versions_are_refused(change: dict[str, Any], words: str) -> None:
    document = {**json.loads(DEMO.read_text()), **change}
    assert words in refused(read_document, json.dumps(document))


@settings(max_examples=200)
@given(value=plain_values)
def test_yaml_says_what_json_says(value: Any) -> None:
    text = yaml_text(value)
    assert plain_yaml(text) == value
    assert type(plain_yaml(text)) is type(value)


@settings(max_examples=100)
@given(
    value=st.dictionaries(
        st.text(st.characters(codec="ascii"), min_size=1), st.integers() | st.booleans() | st.none() | st.text()
    )
)
def test_other_readers_of_yaml_take_the_same_from_what_is_written(value: Any) -> None:
    """PyYAML's own reader follows YAML 1.1, in which many more words are booleans, numbers and dates."""
    assert yaml.safe_load(yaml_text(value)) == value


@pytest.mark.parametrize(
    ("text", "value"),
    [
        ("country: NO\nat: 22:00\nday: 2027-01-01\nyes: on\n", {"country": "NO", "at": "22:00", "day": "2027-01-01", "yes": "on"}),
        ("a: 1\nb: 1.5\nc: -2e3\nd: '1'\ne: ~\nf:\n", {"a": 1, "b": 1.5, "c": -2000.0, "d": "1", "e": None, "f": None}),
        ("- true\n- 'true'\n- 0x1F\n- 010\n", [True, "true", "0x1F", 10]),
        ("# a remark\nlong: |\n  one\n  two\n", {"long": "one\ntwo\n"}),
    ],
)  # fmt: skip
def test_words_of_yaml_are_read_as_version_1_2_has_them(text: str, value: Any) -> None:
    """Source: YAML 1.2.2, section 10.3.2 (core schema), from memory; numbers to other bases stay texts here."""
    assert plain_yaml(text) == value


LAUGHS = "a0: &a0 [x, x]\n" + "".join(f"a{at}: &a{at} [*a{at - 1}, *a{at - 1}]\n" for at in range(1, 60))


@pytest.mark.parametrize(
    ("text", "words"),
    [
        (LAUGHS, "got an anchor or alias at line 1"),
        ("a: *nobody", "anchor or alias"),
        ("a: 1\nb: 2\na: 3", "expected each key once, got \"a\" twice"),
        ("a: !!python/object/apply:os.system [ls]", "got the tag"),
        ("a: !local 3", "got the tag"),
        ("[1, 2]: 3", "expected a text as key"),
        ("1: 2", "expected a text as key, got 1"),
        ("a: 1\n---\nb: 2", "expected one document"),
        ("", "expected a document, got none"),
        ("a: [1, 2", "expected YAML, got a fault at line"),
        ("a: " + "[" * 40_000, "nested too deep"),
        (("{a: " * (DEEPEST + 2)) + "1" + "}" * (DEEPEST + 2), "nested too deep"),
        ("a: " + "9" * 10_000, "expected YAML"),
        (b"a: \xff", "expected UTF-8"),
        ("a: \x07", "expected YAML"),
        ("a: " + "x" * LARGEST_YAML_BYTES, "expected at most"),
    ],
    ids=str,
)  # fmt: skip
def test_hostile_yaml_is_refused_with_its_place(text: str | bytes, words: str) -> None:
    assert words in refused(plain_yaml, text)


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ('{"a": 1, "b": {"c": 1, "c": 2}}', 'expected each key once, got "c" twice'),
        ('{"a": NaN}', "expected a finite number, got NaN"),
        ('{"a": -Infinity}', "expected a finite number"),
        ('{"a": ' + "9" * 10_000 + "}", "digits"),
        ('{"a": ' + "[" * 200_000, "nested too deep"),
        (b'{"a": "\xff"}', "expected UTF-8, got another byte at 7"),
        ('{"a": 1}'.encode("utf-16"), "expected UTF-8"),
        ('{"a": 1', "expected JSON, got a fault at line 1"),
        ('{"a": 1} {"b": 2}', "expected JSON"),
    ],
    ids=lambda value: str(value)[:40],
)
def test_hostile_json_is_refused_with_its_place(text: str | bytes, words: str) -> None:
    assert words in refused(plain_json, text)


@pytest.mark.parametrize(
    ("place", "value", "words"),
    [
        (("workloads", 0, "size"), 1e300, "expected a size of at most 1\u202f000\u202f000 EB"),
        (("workloads", 0, "size"), "9" * 30 + " EB", "expected a size of at most"),
        (("workloads", 0, "count"), 10**30, "workloads[0].count"),
        (("years",), 10**6, "years"),
        (("ladders", 0, "rungs", 0, "keep"), {"count": 10**40}, "ladders[0].rungs[0].keep"),
        (("cadences", 0, "runs", 0, "rrule"), "FREQ=DAILY;INTERVAL=" + "9" * 50, "INTERVAL"),
        (("name",), "\x00", "expected a text on one line without hidden characters"),
    ],
)
def test_huge_numbers_are_refused_where_they_stand(place: tuple[Any, ...], value: Any, words: str) -> None:
    document = json.loads(DEMO.read_text())
    here = document
    for part in place[:-1]:
        here = here[part]
    here[place[-1]] = value
    assert words in refused(read_document, json.dumps(document))


@pytest.mark.parametrize(
    "rule",
    ["FREQ=MINUTELY", "FREQ=DAILY;BYHOUR=" + ",".join(map(str, range(24))) + ";BYMINUTE=" + ",".join(map(str, range(60)))],
)
def test_a_recurrence_bomb_is_refused_before_it_is_spread_out(rule: str) -> None:
    document = {**json.loads(DEMO.read_text()), "years": 150}
    document["cadences"][0]["runs"] = [{"id": "bomb", "kind": "full", "rrule": rule}]
    for route in document["routes"]:
        for copy in route["copies"]:
            copy.pop("take", None)
    design = read_design(json.dumps({**document, "routes": document["routes"][:0], "holds": [], "opening": []}))

    began = time.monotonic()
    with pytest.raises(ValueError, match=r"expected (at most|a rule with at most)"):
        runs_of(design.cadences[0], frame_of(design))
    assert time.monotonic() - began < 20


def test_rules_that_the_standard_does_not_allow_name_their_part() -> None:
    document = json.loads(DEMO.read_text())
    for rule in ("FREQ=SECONDLY", "FREQ=DAILY;BYSECOND=1", "FREQ=DAILY;UNTIL=20300101", "FREQ=DAILY;FREQ=DAILY"):
        document["cadences"][0]["runs"][0]["rrule"] = rule
        found = refused(read_document, json.dumps(document))
        assert re.search(r"cadences\[0\]\.runs\[0\]\.rrule", found), found


def test_every_field_of_the_document_says_what_it_means() -> None:
    """None is without a meaning, and no meaning is without a field."""
    parts = {"Design": SCHEMA, **SCHEMA["$defs"]}
    said = {(part, field): value for part, one in parts.items() for field, value in one.get("properties", {}).items()}
    assert [place for place, value in said.items() if not value.get("description")] == []
    assert set(MEANINGS) == {f"{part}.{field}" if f"{part}.{field}" in MEANINGS else field for part, field in said}
