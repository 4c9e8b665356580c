"""From text or plain values to a design, or to the faults that are in the way."""

import json
from typing import Any, TypeVar

from pydantic import ValidationError

from shelf_core.design import ladders, routes
from shelf_core.design.base import Part
from shelf_core.design.document import Design
from shelf_core.design.edits.names import EDITS
from shelf_core.design.faults import DesignError, Fault, fault, message_of, shown
from shelf_core.design.soundness import design_faults
from shelf_core.design.versions import brought_up
from shelf_core.digits import grouped

LARGEST_DOCUMENT_BYTES = 128 * 2**20
UNION_TAGS = (*ladders.UNION_TAGS, *routes.UNION_TAGS)
TAGGED_FIELDS = ("keep", "take")

P = TypeVar("P", bound=Part)


def read_design(text: str | bytes) -> Design:
    """The design that a JSON text holds.

    Raises DesignError when the text is too large, not UTF-8, not JSON, names a key twice, or is no sound design.
    """
    return design_of(plain_json(text))


def design_of(value: Any) -> Design:
    """The design that plain values hold. Raises DesignError with every fault that could be found."""
    if isinstance(value, dict):
        value = brought_up(value)
    design = part_of(Design, value)
    faults = design_faults(design)
    if faults:
        raise DesignError(faults)
    return design


def part_of(part: type[P], value: Any, *where: str | int) -> P:
    """One part of a document from plain values; `where` stands before the path of each fault."""
    try:
        return part.model_validate(value, by_alias=True, by_name=False)
    except ValidationError as error:
        raise DesignError(faults_of(error, value, where)) from None


def plain_json(text: str | bytes) -> Any:
    """The plain values of a JSON text, as RFC 8259 has it: no NaN, no key twice. Raises DesignError."""
    if len(text) > LARGEST_DOCUMENT_BYTES:
        raise DesignError(
            [fault(message=f"expected at most {grouped(LARGEST_DOCUMENT_BYTES)} bytes, got {grouped(len(text))}")]
        )
    try:
        if isinstance(text, bytes):
            text = text.decode("utf-8-sig")
        return json.loads(text, object_pairs_hook=_unique_keys, parse_constant=_no_constant)
    except UnicodeDecodeError as error:
        raise DesignError([fault(message=f"expected UTF-8, got another byte at {error.start}")]) from None
    except json.JSONDecodeError as error:
        message = f"expected JSON, got a fault at line {error.lineno}, column {error.colno}: {error.msg}"
        raise DesignError([fault(message=message)]) from None
    except RecursionError:
        raise DesignError([fault(message="expected a document of moderate depth, got one nested too deep")]) from None
    except ValueError as error:
        raise DesignError([fault(message=str(error))]) from None


def _unique_keys(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    found = dict(pairs)
    if len(found) != len(pairs):
        names = [name for name, _ in pairs]
        double = next(name for name in names if names.count(name) > 1)
        raise ValueError(f"expected each key once, got {shown(double)} twice in one object")
    return found


def _no_constant(word: str) -> Any:
    raise ValueError(f"expected a finite number, got {word}")


def faults_of(error: ValidationError, value: Any = None, where: tuple[str | int, ...] = ()) -> list[Fault]:
    """Our faults for an error of pydantic on a value. Without the value every tag after a tagged field is left out."""
    found = [
        Fault((*where, *_real_path(one["loc"], value), *_discriminator(one)), message_of(one))
        for one in error.errors(include_url=False)
    ]
    return list(dict.fromkeys(found))


def _real_path(location: tuple[str | int, ...], value: Any) -> tuple[str | int, ...]:
    """A location of pydantic without the tags of unions, which are no keys of the document."""
    plain = [part for place, part in enumerate(location) if not _is_tag(location, place)]
    if value is None:
        return tuple(plain)
    path: list[str | int] = []
    here = value
    for part in plain:
        if isinstance(here, dict) and isinstance(part, str):
            path.append(part)
            here = here.get(part)
        elif isinstance(here, list) and isinstance(part, int) and part < len(here):
            path.append(part)
            here = here[part]
    return tuple(path)


def _discriminator(error: Any) -> tuple[str, ...]:
    """The field that says which of several parts something is, where it is that which is wrong."""
    of_tag = error["type"] in ("union_tag_invalid", "union_tag_not_found")
    return (error["ctx"]["discriminator"].strip("'"),) if of_tag else ()


def _is_tag(location: tuple[str | int, ...], place: int) -> bool:
    after_tagged = place > 0 and location[place - 1] in TAGGED_FIELDS
    return location[place] in EDITS or (after_tagged and location[place] in UNION_TAGS)
