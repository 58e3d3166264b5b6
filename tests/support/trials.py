"""Trials of fault finding: seeded circuits as the simulator installs them, read by its own meter, followed to the end.

The simulator (`lumbek.simulated`) shares no code, no figure and no list of faults with the diagnosis. Noise is Gaussian
with 2 % + 0.02 Ω as its standard deviation, which is harsher than a meter that stays within that.
"""

import math
import random
from dataclasses import dataclass, field

from lumbek.core.diagnosis.belief import Belief
from lumbek.core.diagnosis.catalogue import Catalogue, Test, first_tests
from lumbek.core.diagnosis.inquiry import go_on, open_inquiry
from lumbek.core.diagnosis.next_test import propose_tests
from lumbek.core.diagnosis.patient import Patient
from lumbek.core.diagnosis.suspects import NO_FAULT
from lumbek.core.diagnosis.verdict import accusation, standing, tied
from lumbek.core.model.supply import Supply
from lumbek.core.rulebooks import load_rulebook
from lumbek.core.study.door import study_of
from lumbek.practice.hidden import Meter, draw, go_wrong, ideal, is_seen, one_cut
from lumbek.simulated.house import Installed
from lumbek.simulated.mishaps import EVERYWHERE, IN_RINGS, Mishap

BOOK = load_rulebook("bs7671")
SUPPLY = Supply(earthing="TN-C-S", ze_ohm=0.21)
MOST_TESTS = 14


@dataclass
class Ran:
    """One circuit gone through: what was hidden, what was accused, after how many tests."""

    seed: int
    shape: str
    kind: str
    tests: int = 0
    effort: float = 0.0
    bits: float = 0.0
    place: int = 99
    inside: bool = False
    alone: bool = False
    accused: bool = False
    right: bool = False
    # Whether a leg or a point that is accused has something wrong, if perhaps by another name.
    at_place: bool = False
    redrawn: list[str] = field(default_factory=list)
    said: str = ""
    # Of two: whether each shows in the first readings beside the other, and both are named, the second at once or when
    # the first is put right and all is read again.
    both_show: bool = False
    both: bool = False


def run(
    seed: int, faults: int, length_off: float, gain: float, kind: str = "", points: tuple[int, int] = (8, 30)
) -> Ran:
    """Hide something in a circuit, read it, follow the proposals to their end."""
    chance = random.Random(seed)
    shapes = ("ring",) if kind in IN_RINGS else ("radial",) if kind == "neutrals mixed" else ("ring", "radial")
    circuit, document, shape = draw(chance, points, shapes)
    patient = Patient(study_of(BOOK, SUPPLY, circuit).middle)
    catalogue = Catalogue(patient)
    first = [catalogue.test(each) for each in first_tests(patient)]
    ran = Ran(seed, shape, "sound")
    truth: list[set[str]] = []
    mishaps: list[Mishap] = []
    alone: list[Installed] = []
    if faults:
        names = EVERYWHERE + (IN_RINGS if shape == "ring" else ())
        hidden = go_wrong(
            chance, document, lambda: [kind or chance.choice(names) for _ in range(faults)], first, length_off
        )
        inst, alone, mishaps, truth = hidden.inst, hidden.alone, hidden.mishaps, hidden.truth
        ran.kind, ran.redrawn = " + ".join(each.kind for each in mishaps), hidden.redrawn
    else:
        inst = Installed(document, chance, length_off)
    meter = Meter(chance, chance.uniform(-0.02, 0.02), gain)
    belief = _follow(ran, patient, first, inst, meter, truth, mishaps)
    # Two faults are found one after the other: the first is whichever is accused.
    _note(ran, belief, _names(truth, mishaps))
    ran.at_place = bool(_accused_places(belief) & {place for each in mishaps for place in (each.leg, *each.points)})
    if faults == 2:
        ran.both_show = all(is_seen(ideal(each, first), ideal(inst, first)) for each in alone)
        ran.both = _both_named(ran, belief, patient, first, meter, truth, mishaps, alone)
    return ran


def _names(truth: list[set[str]], mishaps: list[Mishap]) -> set[str]:
    return set().union(*truth, one_cut(mishaps)) if truth else {"sound"}


def _follow(
    ran: Ran,
    patient: Patient,
    first: list[Test],
    inst: Installed,
    meter: Meter,
    truth: list[set[str]],
    mishaps: list[Mishap],
) -> Belief:
    """Read a circuit and follow the proposals to their end, counting them."""
    belief = open_inquiry(patient, [meter.read(inst, test) for test in first])
    left, names = tied(belief), _names(truth, mishaps)
    ran.inside, ran.bits = any(names & {each, *belief.suspects[each].parts} for each in left), math.log2(len(left))
    while ran.tests < MOST_TESTS:
        proposals = propose_tests(belief)
        if not proposals:
            break
        test = proposals[0].test
        belief = go_on(belief, test, meter.read(inst, test))
        ran.tests, ran.effort = ran.tests + 1, ran.effort + test.effort
    return belief


def _both_named(
    ran: Ran,
    belief: Belief,
    patient: Patient,
    first: list[Test],
    meter: Meter,
    truth: list[set[str]],
    mishaps: list[Mishap],
    alone: list[Installed],
) -> bool:
    """Whether the second fault is accused as well: with the first, or when the first is put right and read again."""
    accused = set(accusation(belief) or ())
    accused |= {part for each in accused for part in belief.suspects[each].parts}
    found = [bool(each & accused) for each in truth]
    if all(found) or one_cut(mishaps) & accused:
        return True
    if not any(found):
        return False
    other = found.index(False)
    again = Ran(ran.seed, ran.shape, ran.kind)
    after = _follow(again, patient, first, alone[other], meter, [truth[other]], [mishaps[other]])
    return bool(truth[other] & set(accusation(after) or ()))


def _accused_places(belief: Belief) -> set[str]:
    suspects = [belief.suspects[each] for each in accusation(belief) or ()]
    parts = [belief.suspects[part] for each in suspects for part in each.parts or (each.id,)]
    return {place for each in parts for place in each.id.split("/")}


def _note(ran: Ran, belief: Belief, names: set[str]) -> None:
    ranked = list(belief.by_suspect.items())
    names = names | {each.id for each in belief.suspects.values() if names & set(each.parts)}
    group = standing(belief)
    order = [set(group), *({suspect} for suspect, _ in ranked if suspect not in group)]
    ran.place = next((at for at, one in enumerate(order) if names & one), 99)
    ran.alone = len(group) == 1
    accused = accusation(belief)
    ran.accused = accused is not None
    ran.right = accused is not None and bool(names & set(accused))
    if ran.kind == "sound":
        ran.right = ranked[0][0] in NO_FAULT
    ran.said = ", ".join(f"{suspect} {share:.2f}" for suspect, share in ranked[:4])
