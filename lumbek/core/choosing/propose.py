"""Everything that can be proposed for one circuit, together."""

from lumbek.core.choosing.mend import HouseFails, Mend, mend
from lumbek.core.choosing.protect import Protection, protect
from lumbek.core.choosing.reach import Reach, reach
from lumbek.core.choosing.rebalance import Rebalance, rebalance
from lumbek.core.choosing.size import Sizes, size_it
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.job import School
from lumbek.core.model.supply import Supply
from lumbek.core.rulebooks import Rulebook
from lumbek.core.study.read import Read
from lumbek.core.value import Frozen


class Proposals(Frozen):
    """What may be done with a circuit: repairs, sizes, protection, how far it may go, how a ring shares better."""

    mends: tuple[Mend, ...]
    rebalances: tuple[Rebalance, ...]
    sizes: Sizes
    protection: Protection
    reach: Reach


def propose(
    rulebook: Rulebook,
    supply: Supply,
    circuit: Circuit,
    school: School,
    read: Read | None = None,
    house_fails: HouseFails | None = None,
) -> Proposals:
    """Return all proposals for a circuit, by what was read of it and what its house says of each."""
    return Proposals(
        mends=mend(rulebook, supply, circuit, read or Read(), house_fails),
        rebalances=rebalance(rulebook, supply, circuit),
        sizes=size_it(rulebook, supply, circuit),
        protection=protect(rulebook, supply, circuit, school),
        reach=reach(rulebook, supply, circuit),
    )
