"""A cable: its type, insulation, conductor sizes, and what its cores are called."""

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from lumbek.core.model.terminals import CONDUCTORS, CoreName
from lumbek.core.model.text import CsaMm2
from lumbek.core.value import Frozen

Insulation = Literal["pvc70", "xlpe90"]
CpcBy = Literal["core", "armour", "conduit", "none"]
# Steel conduit by its trade size and gauge.
Conduit = Literal["20-light", "20-heavy", "25-light", "25-heavy"]
Colours = Literal["harmonised", "uk-before-2004", "australia-new-zealand", "north-america"]
CableKind = Literal[
    "flat-twin-and-earth",
    "flat-three-core-and-earth",
    "flat-single-and-earth",
    "single-core",
    "multicore",
    "armoured",
    "flex",
]
# Conductors that a cable with one live core may be.
Lone = Literal["L", "N"]


class Cable(Frozen):
    """A cable by type, insulation and conductor sizes in mm²; a cpc of None is the usual one for the type.

    The cpc is a core, the steel armour, a metal conduit (by its size and gauge, or as its maker states its
    resistance or somebody read it), or there is none. `alone` says of a single that goes its own way which live
    conductor it is: the line goes by the switches then, the neutral straight to the lights. Where nobody has said, a
    cable that always has a cpc has it; figures of an armoured cable are then those of a core, if it has one for that,
    and no verdict rests on it.
    """

    type: CableKind = "flat-twin-and-earth"
    insulation: Insulation = "pvc70"
    csa_mm2: CsaMm2 = 2.5
    cpc_mm2: CsaMm2 | None = None
    cpc_by: CpcBy | None = None
    cores: Literal[2, 3, 4, 5] = 3
    conduit: Conduit | None = None
    conduit_milliohm_per_m: Annotated[float, Field(ge=0.001, le=100, allow_inf_nan=False)] | None = None
    colours: Colours = "harmonised"
    alone: Lone | None = None

    @model_validator(mode="after")
    def _cpc_is_there(self) -> Self:
        if self.cpc_by == "armour" and self.type != "armoured":
            raise ValueError("cpc_by: only an armoured cable has armour")
        if self.cpc_by == "conduit" and self.type != "single-core":
            raise ValueError("cpc_by: only singles run in conduit")
        if self.alone is not None and self.type not in ("single-core", "flat-single-and-earth"):
            raise ValueError("alone: only a single goes its own way, apart from its neutral")
        return self

    @property
    def earth_by(self) -> CpcBy | None:
        """What its figures take for its cpc: as said, else a core; None where nobody has said, and no core is free."""
        if self.cpc_by is not None:
            return self.cpc_by
        return None if self.earth_unsaid and self.cores == 2 else "core"

    @property
    def earth_unsaid(self) -> bool:
        """Whether nobody has said what serves as its cpc, and it may be one or the other."""
        return self.cpc_by is None and self.type == "armoured" and self.cpc_mm2 is None

    @property
    def lacks_core(self) -> bool:
        """Whether the core that is to be its cpc is not there: both cores of a two-core cable are live."""
        return self.earth_by == "core" and self.cores == 2 and self.type in ("multicore", "armoured")

    @property
    def lone(self) -> Lone | None:
        """The only live conductor that it carries: a flat single's is its line unless it is said to be its neutral."""
        return self.alone or ("L" if self.type == "flat-single-and-earth" else None)

    @property
    def core_names(self) -> tuple[CoreName, ...]:
        """What its conductors are called: line, neutral and cpc (whatever serves as that), then those to spare.

        A flat cable of three cores has one more live core than a circuit needs, `S1`; what a multicore or armoured
        cable has beyond line, neutral and cpc is counted on, and so are singles drawn into a conduit.
        """
        if self.lone is not None:
            return (self.lone, "E")
        if self.type == "flat-three-core-and-earth":
            return (*CONDUCTORS, "S1")
        if self.type in ("multicore", "armoured", "single-core"):
            used = 3 if self.earth_by == "core" else 2
            return (*CONDUCTORS, *(f"S{index}" for index in range(1, self.cores - used + 1)))
        return CONDUCTORS

    @property
    def live_cores(self) -> tuple[CoreName, ...]:
        """Those that may be live, in the order of the cable's colours."""
        return tuple(name for name in self.core_names if name != "E")
