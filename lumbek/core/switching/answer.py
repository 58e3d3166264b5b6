"""Everything about one circuit's lighting, for the shell: proof, plan, repair, next test, cores by cable."""

from collections.abc import Mapping

from lumbek.core.judging.check import Verdict
from lumbek.core.model.circuit import Circuit
from lumbek.core.rulebooks import Rulebook
from lumbek.core.switching.faces import joined_circuits
from lumbek.core.switching.make_off import CableLine, make_off
from lumbek.core.switching.mend import mend
from lumbek.core.switching.moves import Mended
from lumbek.core.switching.plan import SwitchingPlan, plan
from lumbek.core.switching.prove import Proof, prove
from lumbek.core.switching.unknown import ContinuityTest, next_test
from lumbek.core.value import Frozen


class SwitchingAnswer(Frozen):
    """What there is to say of a circuit's lighting. Plan and repair are there where they are wanted."""

    number: int
    name: str
    proof: Proof
    cables: tuple[CableLine, ...]
    plan: SwitchingPlan | None
    mended: Mended | None
    next_test: ContinuityTest | None


def answer_switching(book: Rulebook, designs: Mapping[int, Circuit], number: int) -> SwitchingAnswer:
    """Return everything about the lighting of one circuit of a job."""
    circuits = joined_circuits(dict(designs), number)
    design = circuits[number]
    proof = prove(book, circuits)
    scheme = design.scheme
    return SwitchingAnswer(
        number=number,
        name=design.name,
        proof=proof,
        cables=make_off(book, design).cables,
        plan=None if scheme is None or not scheme.controls else plan(book, design, scheme),
        mended=mend(book, design) if proof.verdict is Verdict.FAIL else None,
        next_test=next_test(book, design),
    )
