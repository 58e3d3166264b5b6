"""The kinds of reading, one file each."""

from lumbek.core.model.reading import Quantity
from lumbek.core.testing.kind import Kind
from lumbek.core.testing.kinds.crossed import Crossed
from lumbek.core.testing.kinds.insulation import Insulation
from lumbek.core.testing.kinds.r1_r2 import R1PlusR2
from lumbek.core.testing.kinds.rcd_trip import RcdTrip
from lumbek.core.testing.kinds.ring_ends import RingEnds
from lumbek.core.testing.kinds.seen import Isolation, Polarity, RcdButton
from lumbek.core.testing.kinds.zs import Zs

KINDS: dict[Quantity, Kind] = {
    kind.quantity: kind
    for kind in (
        Isolation("isolation", "Isolated, locked, proved dead"),
        RingEnds("r1", "Line, end to end (r1)", "L", fellow="rn"),
        RingEnds("rn", "Neutral, end to end (rn)", "N", fellow="r1"),
        RingEnds("r2", "cpc, end to end (r2)", "E"),
        Crossed("cross-ln", "L–N, cross-joined", "N"),
        Crossed("cross-le", "L–cpc, cross-joined", "E"),
        R1PlusR2("r1+r2", "R1+R2"),
        Insulation("insulation-ll", "Between live conductors"),
        Insulation("insulation-le", "Live conductors to earth"),
        Polarity("polarity", "Polarity"),
        Zs("zs", "Zs"),
        RcdTrip("rcd-trip", "Trip time at IΔn"),
        RcdButton("rcd-button", "Test button"),
    )
}
