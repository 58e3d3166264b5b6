"""What is looked at itself before it stands accused: a place found from afar, or by what the others are not."""

from collections.abc import Iterator

import numpy as np

from lumbek.core.diagnosis.accuse import all_suspects
from lumbek.core.diagnosis.belief import Belief
from lumbek.core.diagnosis.catalogue import Catalogue, Test
from lumbek.core.diagnosis.predict import Flags, InsulationPaths
from lumbek.core.diagnosis.suspects import Suspect
from lumbek.core.model.leg import BOARD
from lumbek.core.model.terminals import CONDUCTORS


def to_make_sure(belief: Belief) -> list[Test]:
    """Return the next test that looks at what was found itself, where it was found from afar and not looked at yet."""
    best = belief.likeliest
    catalogue = Catalogue(belief.patient)
    done = {took.test for _, took in belief.taken}
    for part in best.parts or (best.id,):
        asked = catalogue.known(_looks_at(belief, belief.suspects[part], alone=not best.parts))
        left = [test for test in asked if test.id not in done]
        if left:
            return left[:1]
    return []


def _looks_at(belief: Belief, suspect: Suspect, alone: bool) -> Iterator[str]:
    """Yield the ids of the tests that look at a suspect itself; `alone` says that it stands for all that is wrong."""
    match suspect.kind:
        case "load-left-in" | "load-fault":
            # By elimination alone no load is found: it was out, and with another fault beside it nothing else was.
            if not alone or not _was_out(belief, suspect):
                yield f"ins/{suspect.cores}/unplug/{suspect.place}"
        case "mixed-neutral":
            # Its way back is at the board: onward from a point nothing is seen of it.
            yield f"ins/{suspect.cores}/split/{suspect.place}/{Catalogue(belief.patient).side}"
        case "insulation-leg" | "insulation-point":
            if not _is_singled_out(belief, suspect):
                yield from _around(belief, suspect)
        case "open" | "cut" | "loose" | "crossed-leg":
            yield from _along(belief, suspect)


def _was_out(belief: Belief, suspect: Suspect) -> bool:
    """Whether insulation was read between its two conductors with a load out, it or others too."""
    between = f"ins/{suspect.cores}/"
    return any(suspect.place in test.unplugged for test, took in belief.taken if took.test.startswith(between))


def _around(belief: Belief, suspect: Suspect) -> Iterator[str]:
    """Yield the insulation of a cable by itself; of a point, all that comes to it without it, then with it."""
    patient, cores = belief.patient, suspect.cores
    if suspect.place_kind == "leg":
        leg = patient.study.legs[suspect.place]
        at_board = BOARD in (leg.a, leg.b) and not patient.ring
        yield f"ins/{cores}/split/{leg.other_end(BOARD)}/-" if at_board else f"ins/{cores}/alone/{leg.id}"
        return
    legs = patient.legs_at(suspect.place)
    yield f"ins/{cores}/split/{suspect.place}/{Catalogue(patient).side}"
    yield from (f"ins/{cores}/out/{suspect.place}/{leg}" for leg in legs)
    yield from (f"ins/{cores}/out/{patient.study.legs[leg].other_end(suspect.place)}/{leg}" for leg in legs)


def _along(belief: Belief, suspect: Suspect) -> Iterator[str]:
    """Yield each core of a cable by itself, where it was told from others by more than the sheet."""
    if all(took.test.startswith(("read/", "ins/")) for _, took in belief.taken):
        return
    whole = suspect.kind in ("cut", "crossed-leg")
    # A core to spare has no terminal of its own name to be probed at.
    cores = [core for core in (suspect.cores if whole else (suspect.cores,)) if core in CONDUCTORS]
    yield from (f"leg/{core}/{suspect.place}" for core in (cores[:1] if suspect.kind == "crossed-leg" else cores))


def _is_singled_out(belief: Belief, suspect: Suspect) -> bool:
    """Whether one reading that is low can only be so at this place: two others, on either side, look as one between.

    What any reading shows to be sound is left out of all others.
    """
    paths = [(each, some[0]) for each, some in all_suspects(belief.patient) if some[0].paths]
    alike = [(each, one) for each, one in paths if each.cores == suspect.cores]
    insulation = InsulationPaths(belief.patient, [one for _, one in alike])
    mine = np.array([each.place == suspect.place for each, _ in alike], dtype=np.bool_)
    seen: list[tuple[Flags, bool]] = [
        (
            np.isfinite(insulation.seen_ohm(test)),
            took.beyond or took.value >= belief.patient.figures.sound_insulation_from_mohm,
        )
        for test, took in belief.taken
        if test.insulation
    ]
    sound = np.zeros(len(alike), dtype=np.bool_)
    for here, is_sound in seen:
        sound |= here & is_sound
    left = [here & ~sound for here, is_sound in seen if not is_sound]
    return any((each & mine).any() and not (each & ~mine).any() for each in left)
