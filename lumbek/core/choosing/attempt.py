"""A change that may mend a circuit, and its place in an electrician's order."""

from dataclasses import dataclass

from lumbek.core.model.circuit import Circuit

# Places in the order: what is joined wrongly, what is bought as a part, what is laid otherwise, what is rewired, and
# last the device, where the cable itself is right.
SHAPE, PART, LAID, LEG, RUN, SHORTER, DEVICE = range(7)


@dataclass(frozen=True)
class Try:
    """A change in words, the circuit with it made, and its place in the order, least work first."""

    words: str
    design: Circuit
    rank: int
