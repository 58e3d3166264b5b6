"""What may be in which zone of a bath or shower, where the two rulebooks differ each by its own (701.512)."""

import re

from lumbek.core.model.plan import Mark
from lumbek.core.plan.conflicts import Conflict
from lumbek.core.plan.zones import MarkZone
from lumbek.core.rulebooks.rules import BathRules

_SOCKETS, _SWITCHES = ("socket", "outlet"), ("switch", "fused-spur", "cooker-switch", "isolator")
# What is held to a standard of its own, or hangs only its cord there.
_NOT_BY_IP = ("shaver-socket", "cord-switch")


def in_zone(zone: MarkZone, mark: Mark, rules: BathRules) -> list[Conflict]:
    """Return why a mark may not be in its zone; nothing where it may."""
    why = f"zone cannot be told: {zone.why}" if zone.zone == "unknown" else _why(zone, mark, rules)
    return [Conflict(mark=mark.id, why=why, of=zone.of)] if why else []


def _why(zone: MarkZone, mark: Mark, rules: BathRules) -> str:
    called = mark.kind.replace("-", " ")
    if mark.kind in _SOCKETS:
        least_mm = round(1000 * (rules.socket_from_zone_1_m or 0))
        if zone.zone != "outside":
            return f"a socket in zone {zone.zone}"
        if zone.from_zone_1_mm < least_mm:
            return f"a socket {zone.from_zone_1_mm} mm from zone 1, and {least_mm} mm are wanted"
        return ""
    if mark.kind in _SWITCHES and zone.zone not in rules.switch_zones:
        return f"a {called} in zone {zone.zone}"
    if mark.kind == "shaver-socket" and zone.zone not in rules.shaver_zones:
        return f"a shaver supply in zone {zone.zone}"
    if mark.kind == "cord-switch" and zone.zone != "outside":
        return f"its body is in zone {zone.zone}: only the cord may hang there"
    wanted = rules.ip_by_zone.get(zone.zone)
    return "" if wanted is None or mark.kind in _NOT_BY_IP else _tight(zone.zone, wanted, mark.ip)


def _tight(zone: str, wanted: str, ip: str) -> str:
    """Return why a marking is not tight enough; one that is unsaid or says nothing of water cannot be told."""
    found = re.fullmatch(r"IP[0-6X]([0-9X])[A-D]?", ip)
    if found is None or found[1] == "X":
        return f"zone {zone} wants {wanted}: nobody has said how tight it is"
    return "" if int(found[1]) >= int(wanted[-1]) else f"zone {zone} wants {wanted}, and it is {ip}"
