"""All workable pairs of device rating and cable size for a circuit as it is drawn."""

from lumbek.core.circuit.standing import PLAIN_SOCKETS
from lumbek.core.circuit.usual import is_usual, least_usual_a
from lumbek.core.judging.check import Check, Verdict
from lumbek.core.judging.judgement import judge_circuit
from lumbek.core.judging.verdict import CircuitResult
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.supply import Supply
from lumbek.core.rulebooks import Rulebook
from lumbek.core.study.door import study_of
from lumbek.core.study.study import Study
from lumbek.core.value import Frozen

# Less than this part of a limit is shown as nothing left.
_SOME_LEFT = 0.01


class Size(Frozen):
    """A pair that complies, with its tightest check and what is left there."""

    rating_a: float
    csa_mm2: float
    cpc_mm2: float | None
    in_force: bool
    verdict: Verdict
    tightest: str
    answer: str
    margin: float | None
    left: str
    design: Circuit


class Sizes(Frozen):
    """The workable pairs, cheapest first: thinner copper before thicker, then the device nearest the load.

    Where no load is stated the larger device comes first, for what it may be asked to carry is not known.

    `tried` pairs were judged; with none workable `nearest` is the check that most pairs fell at.
    """

    sizes: tuple[Size, ...]
    tried: int
    nearest: str


def size_it(rulebook: Rulebook, supply: Supply, circuit: Circuit) -> Sizes:
    """Return every pair of listed rating and size that fails no check, each judged whole.

    The type of device, the type of cable and its surroundings stay as drawn. Legs with a cable of their own keep it.
    """
    study = study_of(rulebook, supply, circuit).longest
    ib = study.currents.demand.ib_a if study.currents.demand and study.currents.demand.stated else 0.0
    ratings = _ratings(rulebook, study, ib)
    # What people plug in is not known, whatever is stated today: socket radials keep to the pairs of guidance.
    guided = any(point.kind in PLAIN_SOCKETS for point in circuit.points) and not study.is_socket_ring
    found, failures, tried = [], list[str](), 0
    for csa in rulebook.listed_csas(circuit.cable, circuit.method, 2 if study.phases == 1 else 3):
        for rating in sorted(ratings, reverse=ib == 0):
            design = circuit.model_copy(
                update={
                    "device": circuit.device.model_copy(update={"rating_a": rating}),
                    "cable": _sized(circuit, csa),
                }
            )
            if guided and not is_usual(rulebook, design):
                continue
            tried += 1
            result = judge_circuit(rulebook, supply, design)
            if result.verdict is Verdict.FAIL:
                failures += [check.title for check in result.checks if check.verdict is Verdict.FAIL]
                continue
            found.append(_size(rulebook, circuit, design, result))
    # Of several alike the first in the order of the checks: the same wherever it is worked out.
    most = max(dict.fromkeys(failures), key=failures.count, default="")
    # What is open, or has nothing left, comes after what is sure and has some room.
    found.sort(
        key=lambda size: (size.verdict is not Verdict.PASS, size.margin is not None and size.margin < _SOME_LEFT)
    )
    return Sizes(sizes=tuple(found), tried=tried, nearest="" if found else most)


def _ratings(rulebook: Rulebook, study: Study, ib: float) -> list[float]:
    """Return the listed ratings that come into question for a load of `ib` A: nothing less than usual is proposed."""
    ratings = [rating for rating in rulebook.devices[study.circuit.device.standard].ratings_a if rating >= ib]
    if study.is_socket_ring:
        return [rating for rating in ratings if rating in rulebook.data.ring.ratings_a]
    least = least_usual_a(rulebook, study.circuit)
    return [rating for rating in ratings if rating >= least]


def _sized(circuit: Circuit, csa: float) -> object:
    """Return the circuit's cable in another size, with that size's usual cpc."""
    if csa == circuit.cable.csa_mm2:
        return circuit.cable
    return circuit.cable.model_copy(update={"csa_mm2": csa, "cpc_mm2": None})


def _size(rulebook: Rulebook, circuit: Circuit, design: Circuit, result: CircuitResult) -> Size:
    tightest: Check | None = next((check for check in result.checks if check.id == result.tightest), None)
    return Size(
        rating_a=design.device.rating_a,
        csa_mm2=design.cable.csa_mm2,
        cpc_mm2=rulebook.cpc_mm2(design.cable),
        in_force=design == circuit,
        verdict=result.verdict,
        tightest=tightest.title if tightest else "",
        answer=tightest.answer if tightest else "",
        margin=tightest.margin if tightest else None,
        left=tightest.shown_margin if tightest else "",
        design=design,
    )
