"""The rows of a design. Each list of the document is a table; what a row refers to is a foreign key."""

from shelf_server.designs.models.cadences import Cadence, Run
from shelf_server.designs.models.costs import ExtraCost
from shelf_server.designs.models.design import Design, Family, Membership
from shelf_server.designs.models.history import Change, Reference
from shelf_server.designs.models.ladders import Ladder, Recent, Rung
from shelf_server.designs.models.preferences import Preferences
from shelf_server.designs.models.routes import Copy, Lock, Route, RouteTag, RouteWorkload, StepDown
from shelf_server.designs.models.scripts import Remembered, RequestCount, Token
from shelf_server.designs.models.standing import Duty, LossCase, RecoveryPlan, Rehearsal
from shelf_server.designs.models.stock import Hold, HoldTag, HoldWorkload, Opening, Unknown, UnknownTag, UnknownWorkload
from shelf_server.designs.models.targets import Device, Limit, Link, Prices, Site, Target
from shelf_server.designs.models.workloads import CountStep, Member, Step, Workload, WorkloadTag

__all__ = [
    "Cadence",
    "Change",
    "Copy",
    "CountStep",
    "Design",
    "Device",
    "Duty",
    "ExtraCost",
    "Family",
    "Hold",
    "HoldTag",
    "HoldWorkload",
    "Ladder",
    "Limit",
    "Link",
    "Lock",
    "LossCase",
    "Member",
    "Membership",
    "Opening",
    "Preferences",
    "Prices",
    "Recent",
    "RecoveryPlan",
    "Reference",
    "Rehearsal",
    "Remembered",
    "RequestCount",
    "Route",
    "RouteTag",
    "RouteWorkload",
    "Run",
    "Rung",
    "Site",
    "Step",
    "StepDown",
    "Target",
    "Token",
    "Unknown",
    "UnknownTag",
    "UnknownWorkload",
    "Workload",
    "WorkloadTag",
]
