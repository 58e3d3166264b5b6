"""Do dimmers suit their lamps, and does the device stand what is switched on at once?"""

from lumbek.core.model.accessory import Accessory
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.point import Load
from lumbek.core.model.scheme import Control
from lumbek.core.numbers import plain, show_down, show_up
from lumbek.core.question import Question
from lumbek.core.result import Step, Verdict
from lumbek.core.switching.proving import Answered, Hazard, Proving

DIMMERS = Question("dimmers", "Dimmers", "Does each dimmer suit the lamps behind it, one to a set?", "dimmer-load")
INRUSH = Question("inrush", "Switching on", "Does the device stand what is switched on at once?", "inrush")


def _gangs(circuit: Circuit, control: Control) -> list[Accessory]:
    """Return the gangs of a control as they are fitted."""
    found = (circuit.point(gang.point).accessory(gang.gang) for gang in control.gangs)
    return [accessory for accessory in found if accessory is not None]


def _loads(circuit: Circuit, control: Control) -> list[Load]:
    return [
        load for output in control.outputs for load in circuit.point(output.point).loads if load.line == output.line
    ]


def _hazard(kind: str, words: str, symptom: str) -> Hazard:
    return Hazard(id=kind, check=DIMMERS.id, words=words, symptom=symptom)


def check_dimmers(proving: Proving) -> Answered:
    """Hold the lamps of a dimmer to its least and greatest load (BS 7671 134.1.1, 512.1.2; its maker's instructions).

    LEDs count for more than their watts: of its rating a dimmer takes only a part in them.
    """
    hazards: list[Hazard] = []
    steps, missing = [], list[str]()
    found = False
    for number, control in proving.controls:
        circuit = proving.circuits[number]
        dimmers = [gang for gang in _gangs(circuit, control) if gang.dims]
        if not dimmers:
            continue
        found = True
        name = control.name or control.id
        if len(dimmers) > 1:
            words = f"{name} has {len(dimmers)} dimmers; one to a set of lamps"
            hazards.append(_hazard("two-dimmers", words, "Lamps flicker, dimmers fail"))
        watts = [load.power_w for load in _loads(circuit, control)]
        dimmer = dimmers[0]
        if not watts or any(each is None for each in watts):
            missing.append(f"power of the lamps of {name}")
            continue
        if dimmer.most_w is None:
            missing.append(f"greatest load of the dimmer of {name}")
            continue
        part = proving.book.switching.dimmer_led_part
        total, most = sum(each or 0.0 for each in watts), dimmer.most_w * part
        steps.append(
            Step(
                text=f"Lamps of {name}; of LEDs a dimmer takes {plain(part)} of its rating",
                sum=f"{show_up(total, 0)} W, at most {plain(dimmer.most_w)} × {plain(part)} = {show_down(most, 0)} W",
            )
        )
        if total > most:
            words = f"{name}: {show_up(total, 0)} W of lamps on a dimmer for {show_down(most, 0)} W"
            hazards.append(_hazard("dimmer-over", words, "The dimmer runs hot, and fails"))
        elif dimmer.least_w is not None and total < dimmer.least_w:
            words = f"{name}: {show_down(total, 0)} W of lamps; the dimmer needs {plain(dimmer.least_w)} W"
            hazards.append(_hazard("dimmer-under", words, "Lamps flicker or never go out"))
    if not found:
        return Answered(DIMMERS.not_applicable(proving, "No dimmer"))
    if hazards:
        return Answered(DIMMERS.check(proving, Verdict.FAIL, hazards[0].words, steps=tuple(steps)), tuple(hazards))
    if missing:
        return Answered(DIMMERS.cannot_tell(proving, tuple(missing), steps=tuple(steps)))
    return Answered(DIMMERS.check(proving, Verdict.PASS, "Lamps within its load", steps=tuple(steps)))


def check_inrush(proving: Proving) -> Answered:
    """Hold the peaks of what one switch turns on against the least current that trips the device at once, A.

    Peaks of drivers do not all fall together, so more than the device stands is told, not failed (512.1.2, 533.1).
    """
    worst: tuple[float, str, int] | None = None
    for number, control in proving.controls:
        peaks = [load.inrush_a for load in _loads(proving.circuits[number], control) if load.inrush_a is not None]
        if peaks and (worst is None or sum(peaks) > worst[0]):
            worst = sum(peaks), control.name or control.id, number
    if worst is None:
        return Answered(INRUSH.not_applicable(proving, "No peak is stated"))
    peak, name, number = worst
    device = proving.circuits[number].device
    times = proving.book.data.selectivity.least_multiple.get(device.curve) if device.curve else None
    if times is None:
        return Answered(INRUSH.cannot_tell(proving, ("curve of the device",)))
    least = times * device.rating_a
    step = Step(
        text=f"Peak of {name}; the device may trip at once from", sum=f"{show_up(peak, 0)} A; {show_down(least, 0)} A"
    )
    caution = (
        "" if peak <= least else f"{name} may trip the device as it is switched on: a slower curve, or fewer at once"
    )
    answer = f"{show_up(peak, 0)} A at most at once"
    return Answered(INRUSH.check(proving, Verdict.PASS, answer, steps=(step,), caution=caution))
