"""Do dimmers suit their lamps, and does the device stand what is switched on at once?"""

from collections.abc import Iterator, Sequence
from typing import NamedTuple

from lumbek.core.judging.check import Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.model.accessory import Accessory
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.point import Load
from lumbek.core.model.scheme import Control
from lumbek.core.numbers import plain, show_down, show_up
from lumbek.core.switching.proving import Hazard, ProvedAnswer, Proving

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


class _Found(NamedTuple):
    """What is known of one dimmer: what is wrong, the working, and what nobody has said."""

    hazards: tuple[Hazard, ...] = ()
    steps: tuple[Step, ...] = ()
    missing: tuple[str, ...] = ()


def check_dimmers(proving: Proving) -> ProvedAnswer:
    """Hold lamps to their dimmer's load and kind (BS 7671 134.1.1, 512.1.2, 512.1.5; its maker's instructions).

    LEDs count for more than their watts: of its rating a dimmer takes only a part in them.
    """
    found = list[_Found]()
    for number, control in proving.controls:
        circuit = proving.circuits[number]
        dimmers = [gang for gang in _gangs(circuit, control) if gang.dims]
        if dimmers:
            name, loads = control.name or control.id, _loads(circuit, control)
            found += [_one_to_a_set(dimmers, name), _by_load(proving, dimmers[0], loads, name)]
            found.append(_by_kind(proving, dimmers[0], loads, name))
    if not found:
        return ProvedAnswer(DIMMERS.not_applicable(proving, "No dimmer"))
    hazards = tuple(hazard for each in found for hazard in each.hazards)
    steps = tuple(step for each in found for step in each.steps)
    missing = tuple(what for each in found for what in each.missing)
    if hazards:
        return ProvedAnswer(DIMMERS.check(proving, Verdict.FAIL, hazards[0].words, steps=steps), hazards)
    if missing:
        return ProvedAnswer(DIMMERS.cannot_tell(proving, missing, steps=steps))
    return ProvedAnswer(DIMMERS.check(proving, Verdict.PASS, "Lamps suit it, within its load", steps=steps))


def _one_to_a_set(dimmers: Sequence[Accessory], name: str) -> _Found:
    if len(dimmers) < 2:
        return _Found()
    words = f"{name} has {len(dimmers)} dimmers; one to a set of lamps"
    return _Found((_hazard("two-dimmers", words, "Lamps flicker, dimmers fail"),))


def _by_load(proving: Proving, dimmer: Accessory, loads: Sequence[Load], name: str) -> _Found:
    """Hold the watts of the lamps between the least and the greatest load of their dimmer."""
    watts = [load.power_w for load in loads if load.power_w is not None]
    if not loads or len(watts) < len(loads):
        return _Found(missing=(f"power of the lamps of {name}",))
    if dimmer.most_w is None:
        return _Found(missing=(f"greatest load of the dimmer of {name}",))
    part = proving.book.switching.dimmer_led_part
    total, most = sum(watts), dimmer.most_w * part
    step = Step(
        text=f"Lamps of {name}; of LEDs a dimmer takes {plain(part)} of its rating",
        sum=f"{show_up(total, 0)} W, at most {plain(dimmer.most_w)} × {plain(part)} = {show_down(most, 0)} W",
    )
    if total > most:
        words = f"{name}: {show_up(total, 0)} W of lamps on a dimmer for {show_down(most, 0)} W"
        return _Found((_hazard("dimmer-over", words, "The dimmer runs hot, and fails"),), (step,))
    if dimmer.least_w is not None and total < dimmer.least_w:
        words = f"{name}: {show_down(total, 0)} W of lamps; the dimmer needs {plain(dimmer.least_w)} W"
        return _Found((_hazard("dimmer-under", words, "Lamps flicker or never go out"),), (step,))
    return _Found(steps=(step,))


def _by_kind(proving: Proving, dimmer: Accessory, loads: Sequence[Load], name: str) -> _Found:
    """Hold what the lamps may be dimmed by against how their dimmer dims; the symptom of each that does not suit."""
    data = proving.book.switching
    if dimmer.dims_by is None:
        return _Found(missing=(f"how the dimmer of {name} dims: by which edge, or which control line",))
    if any(load.dimmed_by is None for load in loads):
        return _Found(missing=(f"how the lamps of {name} may be dimmed",))
    rules = data.dimming[dimmer.dims_by]
    unsuited = dict.fromkeys(load.dimmed_by for load in loads if load.dimmed_by not in rules.dims)
    hazards = tuple(
        _hazard("dimmer-kind", f"{name}: lamps {kind.name} on a {rules.name}", kind.otherwise)
        for kind in (data.dimmed_by[str(each)] for each in unsuited)
    )
    return _Found(hazards, (Step(text=f"Lamps of {name}", sum=f"dimmed by a {rules.name}"),))


def _peaks(proving: Proving) -> Iterator[tuple[float, str, int]]:
    """Yield what each control turns on at once at the most, A, with its name and circuit; only what is stated."""
    for number, control in proving.controls:
        peaks = [load.inrush_a for load in _loads(proving.circuits[number], control) if load.inrush_a is not None]
        if peaks:
            yield sum(peaks), control.name or control.id, number


def check_inrush(proving: Proving) -> ProvedAnswer:
    """Hold the peaks of what one switch turns on against the least current that trips the device at once, A.

    Peaks of drivers do not all fall together, so more than the device stands is told, not failed (512.1.2, 533.1).
    """
    peaks = list(_peaks(proving))
    if not peaks:
        return ProvedAnswer(INRUSH.not_applicable(proving, "No peak is stated"))
    peak, name, number = max(peaks, key=lambda each: each[0])
    device = proving.circuits[number].device
    times = proving.book.data.selectivity.least_multiple.get(device.curve) if device.curve else None
    if times is None:
        return ProvedAnswer(INRUSH.cannot_tell(proving, ("curve of the device",)))
    least = times * device.rating_a
    step = Step(
        text=f"Peak of {name}; the device may trip at once from", sum=f"{show_up(peak, 0)} A; {show_down(least, 0)} A"
    )
    caution = (
        "" if peak <= least else f"{name} may trip the device as it is switched on: a slower curve, or fewer at once"
    )
    answer = f"{show_up(peak, 0)} A at most at once"
    return ProvedAnswer(INRUSH.check(proving, Verdict.PASS, answer, steps=(step,), caution=caution))
