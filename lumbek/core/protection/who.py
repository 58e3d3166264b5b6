"""Which device clears a fault, and what it is called."""

from lumbek.core.model.device import Device
from lumbek.core.numbers import plain
from lumbek.core.rulebooks import Rulebook
from lumbek.core.study.study import Study


def protective_device(study: Study, point_id: str) -> Device | None:
    """Return the device that clears a fault at this point: the circuit's own, or a fused spur's fuse."""
    fuse = study.fused.before(point_id) if study.fused.legs else None
    if fuse is None:
        return study.ahead.protection
    return Device(standard="bs1362", curve=None, rating_a=float(fuse.fuse_a or 13), rcd=None)


def device_name(rulebook: Rulebook, device: Device) -> str:
    """Return a device as it is called: type, curve and rating."""
    kind = rulebook.devices[device.standard]
    curve = f"type {device.curve}, " if device.curve else ""
    return f"{kind.short} {curve}{plain(device.rating_a)} A"
