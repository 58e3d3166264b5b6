"""What a paper says of a circuit beside its verdict, taken where the circuit is studied anyway."""

from lumbek.core.model.device import Rcd
from lumbek.core.numbers import plain
from lumbek.core.protection.zs_limit import zs_limit
from lumbek.core.study.study import Study
from lumbek.core.value import Frozen


class CircuitFacts(Frozen):
    """The size of the cpc, the RCD nearest the circuit, and the least of the greatest Zs of its points, in Ω."""

    cpc_mm2: float | None
    rcd: Rcd | None
    max_zs_ohm: float | None


def rcd_words(rcd: Rcd | None) -> str:
    """Return an RCD in words; nothing where there is none, or nobody has read what it is rated for."""
    return "" if rcd is None or rcd.rated_ma is None else f"{plain(rcd.rated_ma)} mA {rcd.type or ''}".strip()


def facts_of(study: Study) -> CircuitFacts:
    """Return the facts of a circuit that has been studied."""
    circuit = study.circuit
    limits = [zs_limit(study, point.id) for point in circuit.points] if study.ahead.earthing else []
    return CircuitFacts(
        cpc_mm2=study.rulebook.cpc_mm2(circuit.cable),
        # Its own, or that of its group.
        rcd=circuit.device.known_rcd or next(iter(reversed(study.known_rcds)), None),
        max_zs_ohm=min((limit.ohm for limit in limits if limit), default=None),
    )
