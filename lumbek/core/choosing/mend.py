"""The smallest changes that make a failing circuit pass, each of them tried and judged."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import cached_property
from itertools import islice

from lumbek.core.choosing.attempt import DEVICE, PART, RUN, SHAPE, Try
from lumbek.core.choosing.device_tries import device_tries
from lumbek.core.choosing.leg_tries import ahead_tries, leg_tries, shorter_tries
from lumbek.core.choosing.shape_tries import shape_tries
from lumbek.core.judging.check import Check, Verdict
from lumbek.core.judging.judgement import judge_circuit
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.supply import Supply
from lumbek.core.numbers import counted, plain
from lumbek.core.rulebooks import Rulebook
from lumbek.core.study.door import study_of
from lumbek.core.study.read import NOT_READ, Read, still_read
from lumbek.core.value import Frozen


class Mend(Frozen):
    """One change, what it mends, what still fails after it, and the circuit with it made.

    What is `elsewhere` is done at the board: a feed, a device on the way, an RCD that circuits share.
    """

    change: str
    mends: tuple[str, ...]
    leaves: tuple[str, ...]
    elsewhere: bool
    design: Circuit


# What a house says of a circuit as it would be: the ids of what fails between it and its fellows.
HouseFails = Callable[[Circuit], set[str]]
# Where no single change mends all, pairs are begun with so many of the first and no more are tried or offered.
_FIRSTS, _MOST_PAIRS, _MOST_OFFERED = 6, 240, 4


def mend(
    rulebook: Rulebook, supply: Supply, circuit: Circuit, read: Read = NOT_READ, house_fails: HouseFails | None = None
) -> tuple[Mend, ...]:
    """Return the changes that mend at least one failing check and break none, whole repairs first.

    Tried one at a time, then in pairs where no single one mends all. Each is judged whole, and in its house where
    `house_fails` says what fails there: nothing is offered that spoils what it touches. Of those that mend as much the
    order is an electrician's: the device comes last where the cable is right.
    """
    failed = _failed(rulebook, supply, circuit, read)
    if not failed:
        return ()
    judge = _Judge(rulebook, supply, circuit, read, tuple(check.title for check in failed), house_fails)
    tries = _tries(rulebook, supply, circuit, any(check.id == "cable" for check in failed))
    helps = [(attempt, each) for attempt in tries if (each := judge.judged(attempt)) is not None]
    found = [each for _, each in helps]
    if all(mend.leaves for _, mend in found):
        found += _pairs(judge, [attempt for attempt, _ in helps])
    found.sort(key=lambda each: (len(each[1].leaves), each[0]))
    return tuple(mend for _, mend in found)


@dataclass(frozen=True)
class _Judge:
    """What a change is held to: what fails of the circuit as it is, by titles, and what fails in its house with it."""

    rulebook: Rulebook
    supply: Supply
    circuit: Circuit
    read: Read
    failing: tuple[str, ...]
    house_fails: HouseFails | None

    @cached_property
    def before(self) -> set[str]:
        """What fails in the house with the circuit as it is."""
        return self.house_fails(self.circuit) if self.house_fails else set()

    def judged(self, attempt: Try) -> tuple[int, Mend] | None:
        """Return a change with its rank; None where it mends nothing, or breaks something here or in the house."""
        circuit, design = self.circuit, attempt.design
        read = still_read(self.read, circuit, design)
        left = tuple(check.title for check in _failed(self.rulebook, self.supply, design, read))
        if not set(left) < set(self.failing) or self._spoils(design):
            return None
        elsewhere = design.ahead != circuit.ahead or (_shares(design) and not _shares(circuit))
        mends = tuple(title for title in self.failing if title not in left)
        return attempt.rank, Mend(change=attempt.words, mends=mends, leaves=left, elsewhere=elsewhere, design=design)

    def _spoils(self, design: Circuit) -> bool:
        if self.house_fails is None or design.ahead != self.circuit.ahead:
            return False
        return not self.house_fails(design) <= self.before


def _pairs(judge: _Judge, singles: list[Try]) -> list[tuple[int, Mend]]:
    """Return pairs of changes that mend all together, one for each first: the second made on the circuit with it."""
    found: dict[str, tuple[int, Mend]] = {}
    for both in islice(_both(judge.rulebook, judge.supply, singles), _MOST_PAIRS):
        first = both.words.partition(";")[0]
        if first not in found and (each := judge.judged(both)) is not None and not each[1].leaves:
            found[first] = each
        if len(found) >= _MOST_OFFERED:
            break
    return list(found.values())


def _both(rulebook: Rulebook, supply: Supply, singles: list[Try]) -> Iterator[Try]:
    for first in sorted(singles, key=lambda each: each.rank)[:_FIRSTS]:
        for second in _tries(rulebook, supply, first.design, True):
            if second.rank >= first.rank:
                words = f"{first.words}; and {second.words[:1].lower()}{second.words[1:]}"
                yield Try(words, second.design, second.rank)


def _shares(circuit: Circuit) -> bool:
    """Whether a circuit's RCD is one that it shares."""
    return circuit.device.known_rcd is not None and circuit.device.known_rcd.shared


def _failed(rulebook: Rulebook, supply: Supply, circuit: Circuit, read: Read) -> list[Check]:
    checks = judge_circuit(rulebook, supply, circuit, read).checks
    return [check for check in checks if check.verdict is Verdict.FAIL]


def _tries(rulebook: Rulebook, supply: Supply, circuit: Circuit, cable_fails: bool) -> Iterator[Try]:
    study = study_of(rulebook, supply, circuit).longest
    # The study has its lengths settled; what is proposed keeps them as they are known.
    for words, design in shape_tries(study, circuit):
        yield Try(words, design, SHAPE)
    yield from device_tries(study, circuit, PART if cable_fails else DEVICE)
    yield from leg_tries(study, circuit)
    yield from ahead_tries(study, circuit)
    own = sum(leg.cable is not None for leg in circuit.legs)
    apart = f", except {counted(own, 'cable with its', 'cables with their')} own size" if own else ""
    larger = [
        csa
        for csa in rulebook.listed_csas(circuit.cable, circuit.method, 2 if study.phases == 1 else 3)
        if csa > circuit.cable.csa_mm2
    ]
    for csa in larger[:3]:
        cable = circuit.cable.model_copy(update={"csa_mm2": csa, "cpc_mm2": None})
        yield Try(f"The whole run in {plain(csa)} mm²{apart}", circuit.model_copy(update={"cable": cable}), RUN)
    yield from shorter_tries(rulebook, supply, circuit)
