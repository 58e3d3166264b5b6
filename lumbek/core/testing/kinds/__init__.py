"""The kinds of reading, one file each."""

from lumbek.core.model.reading import Quantity
from lumbek.core.testing.kind import Kind
from lumbek.core.testing.kinds.crossed import Crossed
from lumbek.core.testing.kinds.insulation import Insulation
from lumbek.core.testing.kinds.linked import R1PlusR2, R1PlusRn, R2ByLead
from lumbek.core.testing.kinds.own_electrode import OwnElectrode
from lumbek.core.testing.kinds.rcd_trip import RcdTrip
from lumbek.core.testing.kinds.ring_ends import RingEnds
from lumbek.core.testing.kinds.seen import (
    AfddButton,
    Function,
    LiveReason,
    PhaseSequence,
    Polarity,
    ProvedDead,
    RcdButton,
    RcdHalf,
)
from lumbek.core.testing.kinds.volt_drop import VoltDrop
from lumbek.core.testing.kinds.zs import Zs

KINDS: dict[Quantity, Kind] = {
    kind.quantity: kind
    for kind in (
        ProvedDead("isolation", "Isolated, locked, proved dead"),
        OwnElectrode("own-electrode", "Electrode of its own, RA"),
        RingEnds("r1", "Line, end to end (r1)", "L", fellow="rn"),
        RingEnds("rn", "Neutral, end to end (rn)", "N", fellow="r1"),
        RingEnds("r2", "cpc, end to end (r2)", "E"),
        Crossed("cross-ln", "L–N, cross-joined", "N"),
        Crossed("cross-le", "L–cpc, cross-joined", "E"),
        R1PlusR2("r1+r2", "R1+R2"),
        R1PlusRn("r1+rn", "R1+Rn"),
        R2ByLead("r2-lead", "R2 by a long lead"),
        Insulation("insulation-ll", "Between live conductors"),
        Insulation("insulation-le", "Live conductors to earth"),
        Insulation("insulation-l-e", "Line to earth"),
        Insulation("insulation-n-e", "Neutral to earth"),
        Polarity("polarity", "Polarity"),
        LiveReason("live-reason", "Live tests first, for a reason"),
        Zs("zs", "Zs"),
        VoltDrop("volt-drop", "Voltage drop under load"),
        RcdHalf("rcd-half", "Holds at half IΔn"),
        RcdTrip("rcd-trip", "Trip time at IΔn"),
        RcdTrip("rcd-five", "Trip time at 5 IΔn", five=True),
        RcdButton("rcd-button", "Test button"),
        AfddButton("afdd-button", "AFDD test button"),
        PhaseSequence("phase-sequence", "Phase sequence"),
        Function("function", "Switches and controls"),
    )
}
