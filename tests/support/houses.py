"""Circuits to test with, made as short as they can be said."""

from lumbek.core.judging.check import Check
from lumbek.core.judging.judgement import judge_circuit
from lumbek.core.judging.verdict import CircuitResult
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import Leg, Segment
from lumbek.core.model.point import Load, Point
from lumbek.core.model.reading import Reading
from lumbek.core.model.supply import MainFuse, Service, Supply, Tails
from lumbek.core.network.wiring import ALONE, IN_SERVICE, Setup
from lumbek.core.rulebooks import load_rulebook
from lumbek.core.study.door import study_of
from lumbek.core.study.study import Study
from tests.support.stated import a_circuit, a_device

BS = load_rulebook("bs7671")
IEC = load_rulebook("iec60364")

SUPPLY = Supply(
    earthing="TN-C-S",
    ze_ohm=0.21,
    fault_current_ka=1.1,
    main_fuse=MainFuse(standard="bs88-3", rating_a=80),
    tails=Tails(csa_mm2=25, length_m=2),
    earthing_conductor_mm2=16,
    services=(Service(what="water", material="plastic"),),
    surge_protection="fitted",
)


def leg(leg_id: str, a: str, b: str, length_m: float | None, **more: object) -> Leg:
    return Leg(id=leg_id, a=a, b=b, segments=(Segment(length_m=length_m),), **more)


def run(*lengths: float | None, back: float | None = None, loads: dict[str, float] | None = None, **more) -> Circuit:
    """A run board-P1-P2...; `back` closes it to a ring with a last leg of that length."""
    points = [f"P{index}" for index in range(1, len(lengths) + 1)]
    ends = ["board", *points]
    legs = [leg(f"L{i + 1}", ends[i], ends[i + 1], length) for i, length in enumerate(lengths)]
    if back is not None:
        legs.append(leg(f"L{len(legs) + 1}", points[-1], "board", back))
    return a_circuit(points=tuple(point(p, loads) for p in points), legs=tuple(legs), **more)


def point(point_id: str, loads: dict[str, float] | None = None, **more: object) -> Point:
    amps = (loads or {}).get(point_id)
    given = (Load(current_a=amps),) if amps is not None else ()
    return Point(id=point_id, loads=given, **more)


def with_spur(circuit: Circuit, off: str, point_id: str, length_m: float, **more: object) -> Circuit:
    spur = leg(f"S{len(circuit.legs)}", off, point_id, length_m)
    amps = more.pop("loads", None)
    return circuit.model_copy(
        update={
            "points": (*circuit.points, point(point_id, amps, **more)),
            "legs": (*circuit.legs, spur),
        }
    )


def worked_ring(loads: dict[str, float] | None = None) -> Circuit:
    """The ring of worked cases 1 to 4: seven points and a spur of 3.5 m from P4."""
    ring = run(9, 4.5, 6, 3, 7.5, 5, 8, back=11, loads=loads)
    return with_spur(ring, "P4", "S1", 3.5, loads=loads)


def fixed(length_m: float, watts: float, rating_a: float, csa_mm2: float, kind: str = "shower", **more) -> Circuit:
    """One load at the end of one leg."""
    load = Point(id="P1", kind="fixed", loads=(Load(power_w=watts),))
    return a_circuit(
        kind=kind,
        points=(load,),
        legs=(leg("L1", "board", "P1", length_m),),
        device=more.pop("device", a_device(rating_a=rating_a)),
        cable=more.pop("cable", Cable(csa_mm2=csa_mm2)),
        **more,
    )


def judged(circuit: Circuit, supply: Supply = SUPPLY, rulebook=BS) -> CircuitResult:
    return judge_circuit(rulebook, supply, circuit)


def check(result: CircuitResult, check_id: str) -> Check:
    return next(each for each in result.checks if each.id == check_id)


def study(circuit: Circuit, supply: Supply = SUPPLY, rulebook=BS, as_found: Setup = IN_SERVICE) -> Study:
    return study_of(rulebook, supply, circuit, as_found).longest


def cut(*cores: tuple[str, str]) -> Setup:
    """Breaks in single cores, each by leg and core."""
    return Setup(broken=frozenset((ALONE, leg, core) for leg, core in cores))


AT = "2026-01-31T09:30:00Z"


def read(quantity: str, value: float | None = None, point: str | None = None, **more: object) -> Reading:
    return Reading.model_validate(
        {"quantity": quantity, "value": value, "point": point, "by": "Robin Ash", "at": AT, **more}
    )
