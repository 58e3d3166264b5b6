"""How likely each suspect is after what has been read (Bayes' rule over hypotheses).

Finite low-ohm readings are taken as Gaussian (`scatter`); open and over range are outcomes of their own.
"""

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from lumbek.core.diagnosis.accuse import all_suspects
from lumbek.core.diagnosis.catalogue import Catalogue, Test
from lumbek.core.diagnosis.noticed import Sign, View, is_sign, sign_of
from lumbek.core.diagnosis.patient import Patient
from lumbek.core.diagnosis.predict import InsulationPaths, alike, predict
from lumbek.core.diagnosis.scatter import ALL_OFF, Foretold, ReadOhms, Scatter
from lumbek.core.diagnosis.suspects import Hypothesis, Suspect
from lumbek.core.network.changed import OPEN_FROM_OHM, Places, Reals

# What is so much less likely than the best is dropped after the first readings, and looked at no more.
_DROPPED_LN = 18.0
# So many are weighed together.
_FEW, _AT_ONCE = 48, 512
_LN10 = float(np.log(10.0))


@dataclass(frozen=True)
class Took:
    """A reading that was taken: the test's id, the figure in its unit, whether it lay beyond the display, and when."""

    test: str
    value: float
    beyond: bool = False
    at: str = ""

    @property
    def is_open(self) -> bool:
        """Whether a low-ohm reading was of an open circuit."""
        return self.beyond or self.value > OPEN_FROM_OHM


@dataclass(frozen=True)
class Belief:
    """Hypotheses of a circuit with the logarithm of how likely each is, and the readings that made them so."""

    patient: Patient
    suspects: dict[str, Suspect]
    hypotheses: tuple[Hypothesis, ...]
    taken: tuple[tuple[Test, Took], ...]
    # What was noticed, or read of voltages, with the reading that says so.
    signs: tuple[tuple[Sign, Took], ...] = ()
    # What was read before the circuit changed, and is no evidence any more.
    before: tuple[tuple[Test, Took], ...] = ()
    # What was worked out before, for the first of the hypotheses: of the low-ohm readings, and of all besides.
    known: tuple[Reals, Reals] | None = None

    @cached_property
    def low(self) -> list[tuple[Test, Took]]:
        """The low-ohm readings, in the order they were taken."""
        return [each for each in self.taken if not each[0].insulation]

    @cached_property
    def ln_likely(self) -> Reals:
        """The logarithm of prior and likelihood together, shape (hypotheses,), greatest 0."""
        found = self._ln_besides + np.logaddexp.reduce(self._ln_ways, axis=1)
        return np.asarray(found - found.max())

    @cached_property
    def weight(self) -> Reals:
        """How likely each hypothesis is, shape (hypotheses,), adding up to 1."""
        found = np.exp(self.ln_likely)
        return np.asarray(found / found.sum())

    @cached_property
    def by_suspect(self) -> dict[str, float]:
        """How likely each suspect is, the likeliest first."""
        found: dict[str, float] = {}
        for each, weight in zip(self.hypotheses, self.weight.tolist(), strict=True):
            found[each.suspect] = found.get(each.suspect, 0.0) + weight
        return dict(sorted(found.items(), key=lambda item: -item[1]))

    @property
    def likeliest(self) -> Suspect:
        """The suspect that leads all others."""
        return self.suspects[next(iter(self.by_suspect))]

    def kept(self) -> "Belief":
        """Return what is still worth looking at: hypotheses that are not out of the question."""
        return self.only(np.flatnonzero(self.ln_likely > -_DROPPED_LN))

    def only(self, rows: Places) -> "Belief":
        """Return the belief with some of its hypotheses."""
        hypotheses = tuple(self.hypotheses[at] for at in rows)
        return replace(self, hypotheses=hypotheses, known=(self._ln_ways[rows], self._ln_besides[rows]))

    def and_also(self, suspects: Mapping[str, Suspect], hypotheses: Sequence[Hypothesis]) -> "Belief":
        """Return the belief with more suspects and hypotheses."""
        return replace(
            self,
            suspects={**self.suspects, **suspects},
            hypotheses=(*self.hypotheses, *hypotheses),
            known=(self._ln_ways, self._ln_besides),
        )

    def with_reading(self, test: Test, took: Took) -> "Belief":
        """Return the belief after one more reading."""
        return replace(self, taken=(*self.taken, (test, took)), known=None)

    def surprise(self) -> Reals:
        """Return how far what was read lies from each hypothesis, in standard deviations, shape (hypotheses,).

        Of all low-ohm readings together; what is open against what should not be, or insulation that is low where no
        path is, is further off than anything.
        """
        found = np.zeros(len(self.hypotheses))
        if self.low:
            scatter = Scatter(self._foretold(self.hypotheses), self._read)
            squares, count, wrong = scatter.distance(self._read, self._ln_ways.argmax(axis=1))
            found = np.maximum((squares - count) / np.sqrt(2 * np.maximum(count, 1)), 0.0) + 100.0 * wrong
        insulation = InsulationPaths(self.patient, self.hypotheses)
        for test, took in self._insulation_taken:
            found += 100.0 * (insulation_density(insulation, test, took) < 1e-3)
        return np.asarray(found)

    def left_over(self) -> Reals:
        """Return how much of each reading each hypothesis leaves for another to explain, (hypotheses, readings)."""
        insulation = InsulationPaths(self.patient, self.hypotheses)
        _, which, foretold = replace(self, known=None)._apart if self.known else self._apart
        low = foretold.left_over(self._read)[which]
        others = [
            ALL_OFF * (insulation_density(insulation, test, took) < 1e-3) for test, took in self._insulation_taken
        ]
        return np.column_stack((low, *others))

    @cached_property
    def _read(self) -> ReadOhms:
        took = [took for _, took in self.low]
        return ReadOhms(
            np.array([each.value for each in took]),
            np.array([each.is_open for each in took], dtype=np.bool_),
            np.array([test.live for test, _ in self.low], dtype=np.bool_),
        )

    def _foretold(self, hypotheses: Sequence[Hypothesis], currents: bool = True) -> Foretold:
        predicted = predict(self.patient, hypotheses, [test for test, _ in self.low], currents)
        return Foretold(self.patient, hypotheses, predicted)

    @cached_property
    def _ln_ways(self) -> Reals:
        """The logarithm of the density of the low-ohm readings, with none of them a slip or one of them.

        Shape (hypotheses, 1 + readings): first with none. Of what is out of the question anyway it is only about so.
        """
        known = np.zeros((0, 1 + len(self.low))) if self.known is None else self.known[0]
        if len(known) == len(self.hypotheses):
            return known
        if not self.low:
            return np.zeros((len(self.hypotheses), 1))
        hypotheses, which, foretold = self._apart
        besides = np.full(len(hypotheses), -np.inf)
        np.maximum.at(besides, which, self._ln_besides[len(known) :])
        best = (self._ln_besides[: len(known)] + known.max(axis=1)).max() if len(known) else -np.inf
        return np.concatenate((known, self._ways_of(hypotheses, foretold, besides, best)[which]))

    @cached_property
    def _apart(self) -> tuple[list[Hypothesis], Places, Foretold]:
        """What the low-ohm readings can part of the hypotheses that are new, and what it foretells but for currents.

        First of each that are alike, then for each hypothesis which of them it is.
        """
        new = self.hypotheses[0 if self.known is None else len(self.known[0]) :]
        rows, which = alike(self.patient, new, [test for test, _ in self.low])
        first = [new[at] for at in rows]
        return first, which, self._foretold(first, currents=False)

    def _ways_of(self, hypotheses: list[Hypothesis], foretold: Foretold, besides: Reals, best: float) -> Reals:
        """Return the same for hypotheses that no reading says are alike; exact for what comes near the best of all.

        `besides` is what speaks for each beside the readings, `best` the best of all others.
        """
        at_most, about = foretold.ln_at_best(self._read)
        found = np.full((len(hypotheses), 1 + len(self.low)), -np.inf)
        found[:, 0] = about
        # A few first that are likely to be the best: they say what all others are measured by.
        order = np.argsort(-(about + besides))
        for some in np.split(order, range(_FEW, len(order), _AT_ONCE)):
            rows = some[(at_most + besides)[some] > best - _DROPPED_LN]
            if len(rows) == 0:
                continue
            found[rows] = Scatter(self._foretold([hypotheses[at] for at in rows]), self._read).ln_ways(self._read)
            best = max(best, float((found[rows].max(axis=1) + besides[rows]).max()))
        return found

    @cached_property
    def _ln_besides(self) -> Reals:
        """The logarithm of prior and all that is no low-ohm reading, shape (hypotheses,)."""
        known = np.zeros(0) if self.known is None else self.known[1]
        others = self.hypotheses[len(known) :]
        found = np.log(np.array([self.suspects[each.suspect].prior * each.prior for each in others]))
        insulation = InsulationPaths(self.patient, others)
        for test, took in self._insulation_taken:
            found += np.log(insulation_density(insulation, test, took))
        for sign, _ in self.signs:
            found += np.log(self.of_sign(sign, others))
        return np.concatenate((known, found))

    @cached_property
    def by_way(self) -> Reals:
        """How likely each hypothesis is with none or one of the low-ohm readings a slip; adds up to 1."""
        found = self._ln_besides[:, None] + self._ln_ways
        weight = np.exp(found - found.max())
        return np.asarray(weight / weight.sum())

    @cached_property
    def doubtful(self) -> tuple[int, ...]:
        """Which of the low-ohm readings may well be slips and were read but once, the likeliest first."""
        share = self.by_way.sum(axis=0)[1:]
        times = Counter(test.id for test, _ in self.low)
        found = [
            at
            for at in np.argsort(-share).tolist()
            if share[at] >= self.patient.figures.doubt and times[self.low[at][0].id] == 1
        ]
        return tuple(at for at in found if not self.low[at][0].live)

    @property
    def _insulation_taken(self) -> list[tuple[Test, Took]]:
        return [each for each in self.taken if each[0].insulation]

    def of_sign(self, sign: Sign, hypotheses: Sequence[Hypothesis]) -> Reals:
        """Return how likely what was noticed is under each hypothesis, shape (hypotheses,)."""
        return sign.likely(View(self.patient, self.suspects, hypotheses, sign.point))


def insulation_density(insulation: InsulationPaths, test: Test, took: Took) -> Reals:
    """Return how likely an insulation reading is under each hypothesis, per decade, shape (hypotheses,)."""
    figures, ohm = insulation.patient.figures, insulation.seen_ohm(test)
    seen = np.isfinite(ohm)
    if took.beyond:
        return np.where(seen, figures.misread, 0.5)
    sound = 0.2 if took.value >= figures.sound_insulation_from_mohm else 1e-5
    # What a display in steps of 0.01 MΩ makes of little.
    mohm = np.where(seen, ohm, 0.0) * 1e-6
    read, said = np.log10(took.value + 0.005), np.log10(mohm + 0.005)
    cell = np.array([each.cell_ln for each in insulation.hypotheses]) / _LN10
    spread = np.sqrt(figures.insulation_noise_decades**2 + cell**2 + (0.005 / (mohm + 0.005) / _LN10) ** 2)
    density = np.exp(-0.5 * ((read - said) / spread) ** 2) / spread / np.sqrt(2 * np.pi)
    return np.where(seen, np.maximum(density, figures.misread), sound)


def begin(patient: Patient, readings: Sequence[Took]) -> Belief:
    """Return what the first readings of a circuit leave under suspicion.

    Raises UnknownTestError, and CannotDiagnoseError where the network is not known.
    """
    catalogue = Catalogue(patient)
    _ = patient.wiring
    found = all_suspects(patient)
    return Belief(
        patient,
        {suspect.id: suspect for suspect, _ in found},
        tuple(hypothesis for _, hypotheses in found for hypothesis in hypotheses),
        tuple((catalogue.test(took.test), took) for took in readings if not is_sign(took.test)),
        tuple((sign_of(patient, took.test, took.value), took) for took in readings if is_sign(took.test)),
    )
