"""The figures that suspicion rests on: how likely faults are, how large, how far meters and drawings are off."""

from functools import cache

from lumbek.core.rulebooks.tables import DATA
from lumbek.core.value import Frozen


class DiagnosisFigures(Frozen):
    """The file `diagnosis.json`.

    `sound` is how likely a circuit is sound before anything is read, `weights` how faults share the rest by their
    kind. Sizes are in Ω. Lengths, joints, leads and meter: standard deviations, of lengths as a part of the drawn one;
    `off_drawing` is how often a drawing is further off than that. `misread` is how often an open circuit is read as a
    figure or the other way round. A suspect is found beyond `enough`, a circuit accused beyond `accused`; a test that
    tells less than `worth_bits` is not asked for.
    """

    sound: float
    weights: dict[str, float]
    loose_ohm: tuple[float, ...]
    leak_ohm: tuple[float, ...]
    load_ohm: tuple[float, ...]
    bar_ohm: tuple[float, ...]
    metal_ohm: tuple[float, ...]
    leads_ohm: tuple[float, ...]
    gain: tuple[float, ...]
    length_part: float
    common_length_part: float
    off_length_part: float
    unknown_length_part: float
    off_common_length_part: float
    off_drawing: float
    joint_ohm: float
    joint_spread_ohm: float
    lead_spread_ohm: float
    noise_part: float
    noise_ohm: float
    live_noise_part: float
    live_noise_ohm: float
    insulation_noise_decades: float
    sound_insulation_from_mohm: float
    misread: float
    slip: float
    slip_open: float
    slip_ohm: tuple[float, float]
    doubt: float
    enough: float
    accused: float
    worth_bits: float


@cache
def diagnosis_figures() -> DiagnosisFigures:
    """Return the figures, from their file."""
    return DiagnosisFigures.model_validate_json((DATA / "common" / "diagnosis.json").read_text(encoding="utf-8"))
