"""What to do about a fault that was found, what to read again after it, and how it is written down."""

from typing import NamedTuple

from lumbek.core.diagnosis.suspects import Suspect, SuspectKind


class Remedy(NamedTuple):
    """What to do, which tests to take again (as quantities of the test sheet), and the remedial entry."""

    do: tuple[str, ...]
    again: tuple[str, ...]
    entry: str


_ISOLATED = "Isolated and proved dead, the lock still on."
_CONTINUITY = ("r1", "rn", "r2", "cross-ln", "cross-le", "r1+r2", "r1+rn", "polarity", "zs")
_INSULATION = ("insulation-ll", "insulation-le", "insulation-l-e", "insulation-n-e")

_DO: dict[SuspectKind, tuple[tuple[str, ...], tuple[str, ...]]] = {
    "open": (
        (
            "Open both ends of that cable and look: a core out of its terminal, cut short or pinched under the plate.",
            "At the board a ring's end may be in another device: read to the free ends of other rings too.",
            "If both ends are sound the cable itself is broken: replace it.",
        ),
        _CONTINUITY,
    ),
    "cut": (
        (
            "Read the cable alone, end to end, at both points.",
            "Replace a broken cable, or joint it where the joint stays accessible or is maintenance-free.",
        ),
        (*_CONTINUITY, *_INSULATION),
    ),
    "loose": (
        (
            "Open both ends of that cable: tug every core, look for heat marks; make off again to the torque given.",
            "An accessory that has been hot is replaced, not tightened.",
        ),
        _CONTINUITY,
    ),
    "open-accessory": (
        ("Open that point: a core out of its terminal behind the plate. Make it off, pull at every other one too.",),
        _CONTINUITY,
    ),
    "loose-accessory": (
        (
            "Repeat the reading at another outlet of the plate: a worn contact shows there.",
            "Open the point: tighten; an accessory that has been hot or no longer grips is replaced.",
        ),
        _CONTINUITY,
    ),
    "crossed-accessory": (
        ("Open that point and put the conductors into their own terminals.",),
        ("cross-ln", "cross-le", "r1+r2", "r1+rn", "polarity"),
    ),
    "crossed-leg": (
        ("Open both ends of that cable: at one of them two cores are in each other's terminals, or sleeved wrong.",),
        (*_CONTINUITY, *_INSULATION),
    ),
    "rings-crossed": (
        (
            "At the board, find the end that belongs with this one: read each free line to it.",
            "Put both ends of each ring into one device, and label them.",
        ),
        _CONTINUITY,
    ),
    "bridged": (
        ("Open both points: a third cable is there. Take it out, or draw it and judge that circuit.",),
        _CONTINUITY,
    ),
    "not-as-drawn": (
        ("Open the point: one cable means a spur. Draw it so; a spur off a spur goes into the ring, or is fused.",),
        ("cross-ln", "cross-le"),
    ),
    "wrong-size": (
        ("Look at the cable at both ends, measure its cores. Draw the size that is there and judge again.",),
        ("zs",),
    ),
    "insulation-leg": (
        (
            "Disconnect the cable at both ends and test it alone.",
            "Damp, a nail, a clip too tight: replace the cable.",
        ),
        _INSULATION,
    ),
    "insulation-point": (
        ("Open the point: water, insects, a core nicked behind the plate, a strand across. Dry, clear, replace.",),
        _INSULATION,
    ),
    "load-left-in": (("Unplug or switch off what is left in there, lamps and neon indicators too.",), _INSULATION),
    "load-fault": (
        ("Disconnect that load and leave it off. It is repaired or replaced before it is connected again.",),
        (*_INSULATION, "rcd-trip"),
    ),
    "mixed-neutral": (
        (
            "Isolate both circuits, open that point and the others of both; separate neutrals that share a terminal.",
            "Each neutral goes to the bar or the device of its own circuit.",
        ),
        (*_INSULATION, "rcd-trip"),
    ),
    "parallel-earth": (
        (
            "Metal touches: find where. It is no fault by itself, but no reading through it proves the cpc.",
            "Read the cpc again with the metal disconnected, or by itself from end to end.",
        ),
        ("r2", "cross-le", "r1+r2"),
    ),
    "leads": (
        ("Null the leads on each other, and take the readings again.",),
        ("r1", "rn", "r2", "cross-ln", "cross-le", "r1+r2", "r1+rn"),
    ),
    "gain": (
        ("Check the meter on a known resistance. If it is off, have it calibrated and repeat its readings.",),
        _CONTINUITY,
    ),
    "drawing": (("The run is longer or shorter than drawn: take the lengths from the readings.",), ()),
    "sound": ((), ()),
    "pair": ((), ()),
}


def remedy_of(suspect: Suspect, parts: tuple[Suspect, ...] = ()) -> Remedy:
    """Return what to do about a suspect; `parts` are the single faults that it is made of."""
    if parts:
        each = [remedy_of(part) for part in parts]
        return Remedy(
            tuple(dict.fromkeys(step for one in each for step in one.do)),
            tuple(dict.fromkeys(test for one in each for test in one.again)),
            "; ".join(one.entry for one in each),
        )
    do, again = _DO[suspect.kind]
    if suspect.kind in ("sound", "drawing", "leads", "gain"):
        return Remedy(do, again, "")
    return Remedy((_ISOLATED, *do), again, f"{suspect.title}: found by test. Put right: …. Tested again: ….")
