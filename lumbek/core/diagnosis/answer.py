"""The diagnosis as it is shown: who is under suspicion and where, what speaks for it, what to measure next."""

from itertools import takewhile
from math import inf, log
from typing import Literal

import numpy as np

from lumbek.core.diagnosis.belief import Belief, insulation_density
from lumbek.core.diagnosis.catalogue import Test
from lumbek.core.diagnosis.instruction import instruction
from lumbek.core.diagnosis.next_test import Proposal, propose_tests
from lumbek.core.diagnosis.noticed import Noticeable, Sign, noticeable
from lumbek.core.diagnosis.predict import InsulationPaths, predict
from lumbek.core.diagnosis.remedy import remedy_of
from lumbek.core.diagnosis.suspects import NO_FAULT, Hypothesis, Suspect
from lumbek.core.diagnosis.verdict import accusation, is_explained, standing, tied
from lumbek.core.judging.check import Place
from lumbek.core.network.changed import OPEN_FROM_OHM
from lumbek.core.numbers import plain, show
from lumbek.core.value import Frozen

State = Literal["sound", "looking", "found", "unexplained", "meter"]
# So many suspects are shown by name; and so many other tests beside the best.
_SHOWN, _OTHERS = 8, 3
# So many readings are named that nothing explains.
_ODD = 4
# A reading so many standard deviations off is not explained.
_OFF = 3.0


class EvidenceLine(Frozen):
    """A reading beside what a suspect says of it."""

    reading: str
    read: str
    says: str


class Noticed(Frozen):
    """Something that was noticed, or a voltage that was read: its id, as it is said, and where."""

    id: str
    title: str
    point: str
    read: str


class SuspectLine(Frozen):
    """A suspect: how likely, where, and the readings it explains that a sound circuit does not, or fails to explain."""

    id: str
    title: str
    place: Place
    share: float
    explains: tuple[EvidenceLine, ...]
    fails: tuple[EvidenceLine, ...]


class ForetoldLine(Frozen):
    """What a test would show if a suspect is at fault."""

    suspect: str
    shows: str


class NextTest(Frozen):
    """A measurement to take: how, in what unit, what it is worth in bits, and what each suspect says it shows."""

    id: str
    title: str
    steps: tuple[str, ...]
    unit: str
    bits: float
    effort: float
    foretold: tuple[ForetoldLine, ...]
    # The same as data, for a meter that follows it.
    instruction: dict[str, object]


class Remedial(Frozen):
    """What to do about what was found, what to read again, and the entry in the remedial list."""

    do: tuple[str, ...]
    again: tuple[str, ...]
    entry: str


class Suspicion(Frozen):
    """How much suspicion lies on a place, 0 to 1."""

    kind: str
    id: str
    share: float


class Diagnosis(Frozen):
    """What the readings leave. `left` counts the suspects beside each other; those of `standing` no test parts."""

    state: State
    sentence: str
    left: int
    suspects: tuple[SuspectLine, ...]
    along: tuple[Suspicion, ...]
    standing: tuple[str, ...]
    next: NextTest | None
    others: tuple[NextTest, ...]
    remedy: Remedial | None
    # What these readings would not have shown, where nothing else is wrong.
    unseen: str = ""
    # Whether anything explains all that was read; where not, shares say only what fails least.
    explained: bool = True
    # What was read before the circuit changed, and is left out.
    left_out: tuple[str, ...] = ()
    noticed: tuple[Noticed, ...] = ()
    noticeable: tuple[Noticeable, ...] = noticeable()


def diagnosis_of(belief: Belief) -> Diagnosis:
    """Return the diagnosis as it stands."""
    proposals = propose_tests(belief)
    one = standing(belief)
    accused = accusation(belief)
    explained = is_explained(belief)
    state = _state(belief, accused, explained, bool(proposals))
    ranked = [(belief.suspects[each], share) for each, share in belief.by_suspect.items()]
    shown = list(takewhile(lambda each: each[1] > 0.002, ranked[:_SHOWN]))
    lines = _Lines(belief)
    suspects = tuple(lines.line(suspect, share) for suspect, share in shown)
    said = _sentence(belief, state, one) if explained else _unexplained(suspects, bool(proposals))
    return Diagnosis(
        state=state,
        sentence=_changed(belief) + said,
        left=len(tied(belief)),
        suspects=suspects,
        along=_along(ranked),
        standing=tuple(one),
        next=lines.test(proposals[0], shown) if proposals else None,
        others=tuple(lines.test(each, shown) for each in _others(proposals)),
        unseen=_unseen(belief) if state == "sound" and belief.taken else "",
        explained=explained,
        left_out=tuple(_called(test) for test, _ in belief.before),
        remedy=_remedy(belief, one) if state in ("found", "meter") else None,
        noticed=tuple(
            Noticed(id=sign.id, title=sign.title, point=sign.point, read=_noticed(sign)) for sign, _ in belief.signs
        ),
    )


_SOUND_BUT = "Nothing wrong in the wiring by these readings. What was noticed may lie in what is connected to it."
_LOOK = " Open the plate and look, whatever the readings say: not every bad contact shows without its load."


def _state(belief: Belief, accused: list[str] | None, explained: bool, more: bool) -> State:
    if not explained:
        return "looking" if more else "unexplained"
    if belief.likeliest.kind in ("leads", "gain") and not more:
        return "meter"
    if accused is None:
        return "looking" if more else "sound"
    return "looking" if more else "found"


def _sound(belief: Belief) -> str:
    if not belief.signs:
        return "Nothing wrong: the readings are those of the circuit as drawn."
    return _SOUND_BUT + (_LOOK if any(sign.kind in ("warm", "tingle") for sign, _ in belief.signs) else "")


def _changed(belief: Belief) -> str:
    """Return what was left out of what was read, and why."""
    if not belief.before:
        return ""
    count, first = len(belief.before), _called(belief.taken[0][0])
    left_out = "one older reading is" if count == 1 else f"{count} older readings are"
    return f"The circuit has changed: {left_out} of how it was before {first} was read, and left out. "


def _unexplained(suspects: tuple[SuspectLine, ...], more: bool) -> str:
    """Return that nothing explains what was read, and what is oddest: what the likeliest fails to explain."""
    odd = list(dict.fromkeys(f"{each.reading} ({each.read})" for each in suspects[0].fails))[:_ODD]
    oddest = f" Oddest: {', '.join(odd)}." if odd else ""
    go_on = "The next measurement tells more." if more else "Repeat what looks oddest, then go on."
    return (
        f"No fault, and no two together, explain these readings.{oddest} If the circuit was changed meanwhile, "
        f"read it anew. {go_on}"
    )


def _sentence(belief: Belief, state: State, standing_ids: list[str]) -> str:
    one = [belief.suspects[each] for each in standing_ids]
    if not belief.taken and not belief.signs:
        return "Nothing has been read yet: the readings of the sheet come first."
    if state == "sound":
        return _sound(belief)
    if state == "meter":
        return f"{one[0].title}: the circuit itself may be sound."
    if state == "found" and len(one) == 1:
        return one[0].title
    if state == "found":
        return f"These {len(one)} cannot be told apart by tests; open them and look: " + "; or ".join(
            each.title for each in one[:4]
        )
    return _still_looking(belief, one)


def _still_looking(belief: Belief, one: list[Suspect]) -> str:
    """Return what is left beside each other, and what comes first."""
    if belief.doubtful:
        again = _called(belief.low[belief.doubtful[0]][0])
        return f"All rests on one reading: {again}. It may be a slip, so repeat it before anything is opened."
    count = len(tied(belief))
    if count == 1:
        return f"{one[0].title}: one more reading confirms it."
    if belief.likeliest.kind in NO_FAULT:
        if belief.signs:
            return f"It may lie in what is connected; {count - 1} faults in the wiring would look the same."
        return f"Nothing wrong in what has been read; {count - 1} faults would not have shown yet."
    return f"{count} faults are possible. The next measurement tells them apart."


# A size that makes the readings less likely than this beside a sound circuit, as a logarithm, would have shown.
_HIDDEN_LN = -2.0


def _unseen(belief: Belief) -> str:
    """Return in how many legs a cable of another size would hide in its length, by r1, r2 and their ratio together."""
    best: dict[str, float] = {}
    for each, likely in zip(belief.hypotheses, belief.ln_likely.tolist(), strict=True):
        best[each.suspect] = max(best.get(each.suspect, -inf), likely - log(belief.suspects[each.suspect].prior))
    sound = best.get("sound")
    if sound is None:
        return ""
    hidden = {
        suspect.place
        for suspect in belief.suspects.values()
        if suspect.kind == "wrong-size" and best.get(suspect.id, -inf) >= sound + _HIDDEN_LN
    }
    if not hidden:
        return ""
    legs = "one cable" if len(hidden) == 1 else f"{len(hidden)} cables"
    return f"A wrong size in {legs} would hide in the length: look at the cable where it can be seen."


def _along(ranked: list[tuple[Suspect, float]]) -> tuple[Suspicion, ...]:
    """Return how suspicion lies along the drawing: each place with the shares of all that is suspected there."""
    found: dict[tuple[str, str], float] = {}
    for suspect, share in ranked:
        if suspect.kind not in NO_FAULT:
            key = (suspect.place_kind, suspect.place)
            found[key] = found.get(key, 0.0) + share
    return tuple(
        Suspicion(kind=kind, id=place, share=round(share, 4)) for (kind, place), share in found.items() if share > 0.001
    )


def _others(proposals: list[Proposal]) -> list[Proposal]:
    """Return the best tests of other kinds than the first: for what cannot be done there."""
    found: dict[str, Proposal] = {}
    for each in proposals[1:]:
        kind = "/".join(each.test.id.split("/")[:3:2])
        if kind != "/".join(proposals[0].test.id.split("/")[:3:2]):
            found.setdefault(kind, each)
    return list(found.values())[:_OTHERS]


_OF_RINGS = ("r1", "rn", "r2", "cross-ln", "cross-le")


def _remedy(belief: Belief, one: list[str]) -> Remedial:
    suspect = belief.suspects[one[0]]
    found = remedy_of(suspect, tuple(belief.suspects[part] for part in suspect.parts))
    # What only a ring has is not read again on anything else.
    again = tuple(each for each in found.again if belief.patient.ring or each not in _OF_RINGS)
    return Remedial(do=found.do, again=again, entry=found.entry)


class _Lines:
    """The lines about suspects, each by its likeliest hypothesis."""

    def __init__(self, belief: Belief) -> None:
        self._belief = belief
        self._best: dict[str, Hypothesis] = {}
        for at in np.argsort(-belief.ln_likely):
            each = belief.hypotheses[at]
            self._best.setdefault(each.suspect, each)
        self._sound = Hypothesis("sound", 1.0)
        self._said: dict[Hypothesis, dict[str, float]] = {}

    def line(self, suspect: Suspect, share: float) -> SuspectLine:
        """Return a suspect with the readings it explains and fails to explain."""
        best = self._best[suspect.id]
        explains, fails = [], []
        for at, (test, took) in enumerate(self._belief.taken):
            off, says = self._against(best, at)
            if off > _OFF:
                shown = _shown(test, took.value, took.beyond)
                fails.append(EvidenceLine(reading=_called(test), read=shown, says=says))
            elif suspect.kind != "sound" and self._against(self._sound, at)[0] > _OFF:
                explains.append(
                    EvidenceLine(reading=_called(test), read=_shown(test, took.value, took.beyond), says=says)
                )
        for sign, _ in self._belief.signs:
            likely, sound = self._belief.of_sign(sign, (best, self._sound))
            line = EvidenceLine(reading=self._sign(sign), read=_noticed(sign), says=_SAYS[_band(likely)])
            if _band(likely) == 0:
                fails.append(line)
            elif _band(sound) == 0:
                explains.append(line)
        return SuspectLine(
            id=suspect.id,
            title=suspect.title,
            place=self._place(suspect),
            share=round(share, 4),
            explains=tuple(explains),
            fails=tuple(fails),
        )

    def _sign(self, sign: Sign) -> str:
        title = self._belief.patient.study.circuit.point_title
        return f"{sign.title} at {title(sign.point)}" if sign.point else sign.title

    def _against(self, each: Hypothesis, at: int) -> tuple[float, str]:
        """Return how many standard deviations a reading lies from what a hypothesis says, and what that is."""
        test, took = self._belief.taken[at]
        says = self._says(each, test)
        if test.insulation:
            likely = insulation_density(InsulationPaths(self._belief.patient, [each]), test, took)[0]
            return (0.0 if likely > 1e-3 else 10.0), says
        ohm = self._ohm(each, test)
        if (ohm > OPEN_FROM_OHM) != took.is_open:
            return 10.0, says
        if took.is_open:
            return 0.0, says
        figures = self._belief.patient.figures
        spread = np.hypot(figures.noise_part * ohm + figures.noise_ohm, figures.length_part * ohm / 2)
        return float(abs(took.value - ohm) / spread), says

    def _ohm(self, each: Hypothesis, test: Test) -> float:
        said = self._said.setdefault(each, {})
        if test.id not in said:
            # All that was taken in one go: most of what is asked next is of those.
            tests = [test, *(one for one, _ in self._belief.low if one.id not in said)]
            ohms = predict(self._belief.patient, [each], tests, currents=False).ohm[0].tolist()
            said.update((one.id, ohm) for one, ohm in zip(tests, ohms, strict=True))
        ohm = said[test.id]
        return ohm if ohm > OPEN_FROM_OHM else ohm * (1 + each.gain) + each.offset_ohm

    def _says(self, each: Hypothesis, test: Test) -> str:
        if test.insulation:
            ohm = float(InsulationPaths(self._belief.patient, [each]).seen_ohm(test)[0])
            return "high" if np.isinf(ohm) else f"{show(ohm / 1e6)} MΩ"
        ohm = self._ohm(each, test)
        return "open" if ohm > OPEN_FROM_OHM else f"{show(max(0.0, ohm))} Ω"

    def test(self, proposal: Proposal, shown: list[tuple[Suspect, float]]) -> NextTest:
        """Return a test with what the suspects shown say of it."""
        test = proposal.test
        return NextTest(
            id=test.id,
            title=test.title,
            steps=test.steps,
            unit=test.unit,
            bits=round(proposal.bits, 2),
            effort=test.effort,
            foretold=tuple(
                ForetoldLine(suspect=suspect.title, shows=self._says(self._best[suspect.id], test))
                for suspect, _ in shown[:4]
            ),
            instruction=instruction(test),
        )

    def _place(self, suspect: Suspect) -> Place:
        study = self._belief.patient.study
        if suspect.place_kind == "leg":
            return study.leg_place(suspect.place)
        if suspect.place_kind == "point":
            return study.point_place(suspect.place)
        return study.whole


# What a hypothesis says of something that was noticed, by how likely it makes it.
_SAYS = ("something else", "perhaps", "just that")


def _band(likely: float) -> int:
    return 0 if likely < 0.05 else 1 if likely < 0.5 else 2


def _noticed(sign: Sign) -> str:
    return "noticed" if sign.volts is None else f"{plain(sign.volts)} V"


def _called(test: Test) -> str:
    return test.title.removeprefix("Read ").removesuffix(" again")


def _shown(test: Test, value: float, beyond: bool) -> str:
    if not test.insulation and (beyond or value > OPEN_FROM_OHM):
        return "open"
    return f"{'>' if beyond else ''}{plain(value)} {test.unit}"
