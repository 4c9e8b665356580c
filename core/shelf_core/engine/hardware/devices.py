"""Devices: on which of its devices a disk target puts each point, and when they are full (docs/model.md, Devices)."""

from typing import NamedTuple

import numpy as np

from shelf_core.design.targets import Target
from shelf_core.design.values import bytes_of
from shelf_core.engine.retention.holding import Holding
from shelf_core.engine.schedule.frame import Frame
from shelf_core.engine.volume.ledger import Days, Ledger, arrival_ticks, departure_ticks, ticks
from shelf_core.engine.volume.pieces import separate_bytes

NOWHERE = -1


class DeviceUse(NamedTuple):
    """One device: what lies on it through the days, and the first day on which a point that came did not fit there."""

    name: str
    stored: Days
    full_on: int | None


class Placement(NamedTuple):
    """All devices of a target, and the first day on which a point fitted on none; what does so lies on no device."""

    devices: list[DeviceUse]
    fits_nowhere_on: int | None


class _Write(NamedTuple):
    """A point of a single machine; `name` and `parent` are keys of it and of what it builds on."""

    tick: int
    name: tuple[int, str, int, int]
    parent: tuple[int, str, int, int]
    bytes: float
    gone: int


def placement_of(target: Target, holdings: list[Holding], frame: Frame) -> Placement:
    """Put all points of a target on its devices, each whole on one, in the order in which they are written."""
    rooms = np.array([bytes_of(device.capacity) for device in target.devices]) * (1 - target.reserve_percent / 100)
    used = np.zeros(len(rooms))
    ledgers = [Ledger() for _ in target.devices]
    entries: list[list[tuple[int, float]]] = [[] for _ in target.devices]
    first_refusal: list[int | None] = [None] * (len(rooms) + 1)
    lies_on: dict[tuple[int, str, int, int], int] = {}
    events = _events(holdings, frame)
    for tick, write, comes in events:
        if not comes:
            device = lies_on.pop(write.name, NOWHERE)
            if device != NOWHERE:
                used[device] -= write.bytes
                entries[device].append((tick, -write.bytes))
            continue
        fits = rooms - used >= write.bytes
        for place in (*np.flatnonzero(~fits).tolist(), *([len(rooms)] if not fits.any() else [])):
            first_refusal[place] = tick if first_refusal[place] is None else first_refusal[place]
        device = _device_for(write, target.fill_order, fits, rooms - used, lies_on)
        if device != NOWHERE:
            lies_on[write.name] = device
            used[device] += write.bytes
            entries[device].append((tick, write.bytes))
    for ledger, of_device in zip(ledgers, entries, strict=True):
        ledger.add(np.array([tick for tick, _ in of_device], np.int64), np.array([amount for _, amount in of_device], float))
    full = [_day(tick, frame) for tick in first_refusal]
    uses = [
        DeviceUse(device.name, ledger.days(frame), full[place])
        for place, (device, ledger) in enumerate(zip(target.devices, ledgers, strict=True))
    ]
    return Placement(uses, full[-1])


def _device_for(
    write: _Write, fill_order: str, fits: np.ndarray, room: np.ndarray, lies_on: dict[tuple[int, str, int, int], int]
) -> int:
    """The device that a point goes to: the first or the emptiest that has room, or that of its parent if that has."""
    if not fits.any():
        return NOWHERE
    if fill_order == "even":
        return int(np.where(fits, room, -1.0).argmax())
    beside = lies_on.get(write.parent, NOWHERE)
    if fill_order == "with-chain" and beside != NOWHERE and fits[beside]:
        return beside
    return int(np.flatnonzero(fits)[0])


def _events(holdings: list[Holding], frame: Frame) -> list[tuple[int, _Write, bool]]:
    """Everything that comes and goes within the design, in the order of time: what comes at an instant before what goes."""
    found = []
    for number, holding in enumerate(holdings):
        life = holding.life
        arrived, gone = arrival_ticks(life).tolist(), departure_ticks(life).tolist()
        for workload in holding.workloads:
            sizes = (separate_bytes(life, (workload,), frame) / workload.count).tolist()
            for copy in range(workload.count):
                for place, parent in enumerate(life.parent.tolist()):
                    name, on = (number, workload.id, copy, place), (number, workload.id, copy, parent)
                    write = _Write(arrived[place], name, on, sizes[place], gone[place])
                    found += [(arrived[place], write, True), (gone[place], write, False)]
    last = ticks(frame.midnights[-1:], 0)[0]
    return sorted((event for event in found if event[0] < last), key=lambda event: event[0])


def _day(tick: int | None, frame: Frame) -> int | None:
    if tick is None:
        return None
    return max(0, int(np.searchsorted(ticks(frame.midnights, 0), tick, side="right")) - 1)
