"""The API: what the interface does, anybody signed in can do by script."""

from collections.abc import Sequence
from functools import lru_cache
from typing import Any

from django.contrib.auth import get_user_model
from django.http import HttpRequest, HttpResponse
from ninja import NinjaAPI
from ninja.errors import ValidationErrorContext
from ninja.openapi.schema import OpenAPISchema
from ninja.operation import Operation
from ninja.security import django_auth

from shelf_core.design.editing import PARTS
from shelf_core.design.faults import DesignError, Fault
from shelf_core.design.reading import faults_of
from shelf_server.api import (
    accounts,
    calendars,
    comparisons,
    designs,
    edits,
    exports,
    forecasts,
    history,
    imports,
    jobs,
    nights,
    preferences,
    problems,
    proof,
    reasons,
    starting_points,
    tables,
    tokens,
    variants,
)
from shelf_server.api.authentication import TokenAuth
from shelf_server.api.examples import add_examples
from shelf_server.api.fields import describe_fields
from shelf_server.api.guide import guide_text
from shelf_server.api.guide_page import guide_page
from shelf_server.api.parameters import describe_parameters
from shelf_server.api.problems import file_of
from shelf_server.api.rates import EachMinute
from shelf_server.api.schemas import Health


class ShelfAPI(NinjaAPI):
    """Ninja's API with faults that name the place in what was sent."""

    def validation_error_from_error_contexts(self, error_contexts: Sequence[ValidationErrorContext[Any]]) -> Any:
        """All that is wrong with a request, as faults of its parts."""
        faults: list[Fault] = []
        for context in error_contexts:
            # The body is one argument of ours; to the sender its fields are the whole.
            faults += [_without_body(fault) for fault in faults_of(context.pydantic_validation_error)]
        return DesignError(list(dict.fromkeys(faults)))

    def get_openapi_operation_id(self, operation: Operation) -> str:
        """Its resource and what it does, such as `designs_read`: clients that are made from the schema call it so."""
        return f"{operation.view_func.__module__.rpartition('.')[2]}_{operation.view_func.__name__}"

    def get_openapi_schema(self, **how: Any) -> OpenAPISchema:
        """The schema, with the media type of problems (RFC 9457), what any request may be answered: too many, and examples."""
        schema = super().get_openapi_schema(**how)
        problem = {"application/problem+json": {"schema": {"$ref": "#/components/schemas/Problem"}}}
        for path in schema["paths"].values():
            for operation in path.values():
                responses = operation["responses"]
                for status, response in responses.items():
                    if int(status) >= 400 and "application/json" in response.get("content", {}):
                        response["content"] = {"application/problem+json": response["content"]["application/json"]}
                responses.setdefault(429, {"description": "Too Many Requests", "content": problem})
        describe_parameters(schema)
        describe_fields(schema)
        add_examples(schema)
        return schema


def _without_body(fault: Fault) -> Fault:
    path = fault.path[1:] if fault.path[:1] == ("body",) else fault.path
    if path[:1] == ("changes",) and len(path) > 2 and path[2] in (*PARTS, "workload cells"):
        path = (*path[:2], *path[3:])  # the kind of a change is said by its field `part`
    return Fault(path, fault.message)


api = ShelfAPI(
    title="Rested Shelf",
    version="1",
    auth=[TokenAuth(), django_auth],
    throttle=[EachMinute()],
    docs_url=None,
    urls_namespace="api",
)
problems.install(api)
api.add_router("/session", accounts.router)
api.add_router("/tokens", tokens.router)
api.add_router("/preferences", preferences.router)
api.add_router("/designs", designs.router)
api.add_router("/designs", edits.router)
api.add_router("/designs", variants.router)
api.add_router("/designs", history.router)
api.add_router("", forecasts.router)
api.add_router("", reasons.router)
api.add_router("", comparisons.router)
api.add_router("", jobs.router)
api.add_router("", nights.router)
api.add_router("", proof.router)
api.add_router("", tables.router)
api.add_router("", exports.router)
api.add_router("", starting_points.router)
api.add_router("", imports.router)
api.add_router("", calendars.router)


@api.get("/docs", auth=None, tags=["session"], openapi_extra=file_of("text/html"))
def read_docs(request: HttpRequest) -> HttpResponse:
    """Every operation as a page to read, made from the schema; it needs no network and no scripts."""
    return HttpResponse(_docs())


@lru_cache(maxsize=1)
def _docs() -> str:
    return guide_page(guide_text(api.get_openapi_schema(path_prefix="/api/")))


@api.get("/health", auth=None, throttle=[], response=Health, tags=["session"])
def health(request: HttpRequest) -> Health:
    """Whether the application answers and reaches its database."""
    get_user_model().objects.exists()
    return Health(ready=True)
