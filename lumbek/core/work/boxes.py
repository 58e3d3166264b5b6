"""First fix and second fix, box by box: where it comes, which cables reach it, what is fitted, what stays off."""

from collections import Counter
from collections.abc import Iterator, Mapping

from lumbek.core.items.amounts import accessory_of, box_of, cable_of, laying_of
from lumbek.core.model.leg import BOARD
from lumbek.core.model.plan import Mark, MarkKind
from lumbek.core.plan.naming import wall_names
from lumbek.core.work.box_fit import too_shallow
from lumbek.core.work.box_room import BoxEnd, too_full
from lumbek.core.work.site import WorkSite, called
from lumbek.core.work.step import CableAt, WorkStep

# What a kind of accessory wants to be told where it is fitted.
_FITTED: Mapping[MarkKind, tuple[str, ...]] = {
    "socket": ("Both earths under their screws; a metal box has its own link.",),
    "fused-spur": (
        "Feed to the supply side, what it feeds to the load side.",
        "The fuse for the load, not for the plate.",
    ),
    "switch": ("Every line in a switch is sleeved as a line; no neutral under a switch's screw.",),
    "light": ("The line from the switch at the lamp; the loop terminal is live though the switch is off.",),
    "downlight": ("The driver's cable has room; no insulation over it unless it says so.",),
    "cooker-switch": ("Supply above, cooker below; both tails whole to the plate.",),
    "isolator": ("All poles, in their order, on both sides.",),
    "fan": ("The permanent line and the switched one each to its own terminal.",),
    "smoke-alarm": ("The link to its own terminal in every head.",),
    "heat-alarm": ("The link to its own terminal in every head.",),
}
_NO_BOX: Mapping[MarkKind, str] = {"downlight": "Cut out, cable left hanging", "fan": "Cut out, cable left hanging"}
_LONG = "The tail stays a metre long, coiled and labelled: something comes over it later."


def box_steps(site: WorkSite) -> Iterator[WorkStep]:
    """Yield the boxes and fittings of every new mark, and what comes into those that are there."""
    for mark in site.places.marks:
        if mark.fate == "remove" or mark.kind == "board":
            continue
        cables = site.cables_at.get(mark.id, ())
        if mark.is_put_in:
            yield _box(site, mark, cables)
            yield _fit(site, mark, cables)
        elif any(not each.is_found for each in cables):
            what = f"{site.name_of(mark)}: opened, new cable into its box"
            yield WorkStep(
                key=f"enter/{mark.id}", phase="first-fix", room=mark.room, what=what, mark=mark.id, cables=cables
            )


def _box(site: WorkSite, mark: Mark, cables: tuple[CableAt, ...]) -> WorkStep:
    amounts = box_of(mark)
    sort = next((each.what for each in amounts), _NO_BOX.get(mark.kind, "Cable left where it comes"))
    return WorkStep(
        key=f"box/{mark.id}",
        phase="first-fix",
        room=mark.room,
        what=f"{site.name_of(mark)}: {sort[0].lower()}{sort[1:]}",
        told=(*_where(site, mark), *_minded(mark, cables)),
        mark=mark.id,
        cables=cables,
        **site.taken(amounts),
    )


def _fit(site: WorkSite, mark: Mark, cables: tuple[CableAt, ...]) -> WorkStep:
    return WorkStep(
        key=f"fit/{mark.id}",
        phase="second-fix",
        room=mark.room,
        what=f"{site.name_of(mark)}: fitted",
        told=_FITTED.get(mark.kind, ()),
        mark=mark.id,
        cables=cables,
        **site.taken(accessory_of(mark)),
    )


def _minded(mark: Mark, cables: tuple[CableAt, ...]) -> tuple[str, ...]:
    if not cables:
        return ("No cable comes here yet.",)
    shallow = too_shallow(mark, [cable.csa_mm2 for cable in cables])
    full = too_full(mark, [BoxEnd(cable.cores, cable.csa_mm2) for cable in cables])
    long = _LONG if any(each.is_long for each in cables) else ""
    return tuple(filter(None, (shallow[:1].upper() + shallow[1:], full, long)))


def _where(site: WorkSite, mark: Mark) -> tuple[str, ...]:
    end = site.routed.house.ends.get(mark.id)
    if end is None:
        return ("Where it comes is not known yet.",)
    if not end.wall:
        return ("In the ceiling, by the set-out sheet.",)
    names = wall_names(site.routed.house.placing.outline(end.room))
    return (f"Wall {names[end.wall]}, {end.at_mm} mm from its left end, {end.height_mm} mm up.",)


def pull_steps(site: WorkSite) -> Iterator[WorkStep]:
    """Yield the cables that are laid now, each in the room that it leads to."""
    for key, design, leg in site.new_legs:
        way = site.ways.get((key, leg.id))
        cable = cable_of(leg, design, way, site.rulebook)
        name, mm = next(iter(cable.items()), (None, 0)) if cable is not None else (None, 0)
        far, near = (leg.a, leg.b) if leg.b == BOARD else (leg.b, leg.a)
        how = f", {name.what}" if name is not None else ", length not known"
        told = [f"Cut {mm / 1000:.2f} m, mark both ends {design.number}/{leg.id}."] if mm else []
        holes = 0 if way is None else sum(piece.joist_holes for piece in way.pieces)
        if holes:
            told.append(f"Joists drilled in the middle of their depth: {holes}.")
        yield WorkStep(
            key=f"pull/{key}/{leg.id}",
            phase="first-fix",
            room=site.room_of(key, far, design),
            what=f"Circuit {design.number}: {called(design, near)} to {called(design, far)}{how}",
            told=tuple(told),
            **site.taken((cable or Counter()) + laying_of(leg.cable or design.cable, way)),
        )
