"""What the parameters of requests mean: each name has one meaning wherever it stands, but for those named with their path."""

from typing import Any

DATE = "a date as ISO 8601 has it, such as 2028-12-31"
LOCAL = "a local time of the design to the minute, such as 2027-04-14T10:00; a date alone is its end"
MEANINGS = {
    "id": "the number of the design",
    "key": "the id of an entry, or of a job",
    "on": f"the day at whose end it is looked: {DATE}",
    "at": f"when it comes or is called for: {LOCAL}",
    "moment": f"the moment that is to be restored; the instant it is called for where it is left out: {LOCAL}",
    "month": "a month as ISO 8601 has it, such as 2027-03",
    "first": "the first of what is wanted, counted from 0; of days by their place in the design",
    "last": "the last day that is wanted, by its place in the design, counted from 0",
    "most": "at most so many are given",
    "before": "only what came before this revision",
    "revision": "the number of a revision",
    "target": "the id of a target",
    "route": "the id of a route",
    "copy_id": "the id of a copy of the route",
    "of_copy": "a route and a copy of it, such as `files / house`",
    "workload": "the id of a workload",
    "ladder": "the id of a ladder",
    "rung": "the name of a rung of the ladder",
    "cadence": "the id of a cadence",
    "case": "the id of a case of loss",
    "plan": "the id of a recovery plan",
    "other": "the number of the other design",
    "kind": "only points taken as this kind",
    "state": "only points in this state",
    "run": "only points of the runs of this name",
    "rule": "only points that this rule claims: a rung's name, recent, hold, floor",
    "taken_from": f"only points taken on this day or later: {DATE}",
    "taken_to": f"only points taken on this day or earlier: {DATE}",
    "by": "what is told apart by, or in whose order; several fields are separated by commas, one with a minus goes down",
    "until": f"the last day that has to fit: {DATE}",
    "part": "the list of the document",
    "name": "the name of a table or a file",
    "to": "the revision to go back to",
    "to_revision": "the revision to go back to",
    "token": "a token in the address, for programs that subscribe to calendars",
    "Idempotency-Key": "what stands for this request: sent again with the same key it gives what it gave the first time",
    "If-Match": "the ETag of the revision that is meant, as an answer gave it",
    "If-None-Match": "the ETag of what is there already: where it still holds, the answer is 304 without a body",
}


def describe_parameters(schema: dict[str, Any]) -> None:
    """Put its meaning to every parameter of a schema (OpenAPI 3.1) that says none. Raises KeyError for one that has none."""
    for path in schema["paths"].values():
        for operation in path.values():
            for parameter in operation.get("parameters", []):
                parameter.setdefault("description", MEANINGS[parameter["name"]])
