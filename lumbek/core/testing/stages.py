"""The steps of testing in their order (BS 7671 Part 6; IEC 60364-6): what is joined, and what is read.

Dead tests guard the live ones: those of a circuit open when its guards have been read and none of them fails.
"""

from collections.abc import Callable
from dataclasses import dataclass

from lumbek.core.model.reading import Quantity
from lumbek.core.study.study import Study


@dataclass(frozen=True)
class StageKind:
    """A step of testing: how it is set up, whether it is live, what is read in it, and whether a circuit wants it.

    What is `beside` may be read as well, and is asked of nobody. `guards` are those without which nothing is live.
    """

    id: str
    title: str
    how: str
    quantities: tuple[Quantity, ...]
    live: bool = False
    wanted: Callable[[Study], bool] = lambda _: True
    beside: tuple[Quantity, ...] = ()
    guards: tuple[Quantity, ...] = ()


def _ring(study: Study) -> bool:
    return study.is_socket_ring


def _own_earth(study: Study) -> bool:
    return study.circuit.own_earth is not None


def _three_phase(study: Study) -> bool:
    return study.phases == 3


STAGES: tuple[StageKind, ...] = (
    StageKind(
        "isolation",
        "Safe isolation",
        "Identify, switch off, lock and tag, prove the indicator, test every pair, prove it again.",
        ("isolation",),
    ),
    StageKind(
        "electrode",
        "Electrode of its own",
        "Dead, the earthing conductor off it: read the electrode alone, against two spikes. Then join it again.",
        ("own-electrode",),
        wanted=_own_earth,
    ),
    StageKind(
        "ring-1",
        "Ring, end to end",
        "Take both ends out at the board. Read each conductor from end to end.",
        ("r1", "rn", "r2"),
        wanted=_ring,
        guards=("r1", "rn", "r2"),
    ),
    StageKind(
        "ring-2",
        "Ring, line and neutral crossed",
        "Join the line of each end to the neutral of the other. Read L–N at every point: all alike.",
        ("cross-ln",),
        wanted=_ring,
    ),
    StageKind(
        "ring-3",
        "Ring, line and cpc crossed",
        "Join the line of each end to the cpc of the other. Read L–cpc at every point: this is R1+R2.",
        ("cross-le",),
        wanted=_ring,
        guards=("cross-le",),
    ),
    StageKind(
        "cpc",
        "Continuity of the cpc",
        "Link line and cpc at the board. Read between them at every point: R1+R2. Line and neutral the same way.",
        ("r1+r2",),
        wanted=lambda study: not _ring(study),
        beside=("r1+rn", "r2-lead"),
        guards=("r1+r2",),
    ),
    StageKind(
        "insulation",
        "Insulation resistance",
        "{insulation_v} V d.c., loads out, switches on, electronics disconnected.",
        ("insulation-ll", "insulation-le"),
        beside=("insulation-l-e", "insulation-n-e"),
        guards=("insulation-ll", "insulation-le"),
    ),
    StageKind(
        "polarity",
        "Polarity",
        "Line to the device and the switches, every outlet right way round.",
        ("polarity",),
        guards=("polarity",),
    ),
    StageKind(
        "zs",
        "Earth fault loop",
        "Live. Read Zs at every point; the highest goes on the schedule.",
        ("zs",),
        live=True,
        beside=("volt-drop",),
    ),
    StageKind(
        "rcd",
        "RCD",
        "Live. It holds at half IΔn and trips in time at IΔn, from both half waves; then the button.",
        ("rcd-trip", "rcd-button"),
        live=True,
        wanted=lambda study: bool(study.rcds),
        beside=("rcd-half", "rcd-five"),
    ),
    StageKind(
        "afdd",
        "Arc fault detection",
        "Live. Press the test button: it opens.",
        ("afdd-button",),
        live=True,
        wanted=lambda study: study.circuit.device.afdd,
    ),
    StageKind(
        "phases",
        "Phase sequence",
        "Live. The three lines follow each other in their order.",
        ("phase-sequence",),
        live=True,
        wanted=_three_phase,
    ),
    StageKind(
        "function",
        "Function",
        "Live. Work every switch, control and interlock.",
        (),
        live=True,
        beside=("function",),
    ),
)
