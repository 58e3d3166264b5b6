"""How likely each suspect is after what has been read (Bayes' rule over hypotheses).

Finite low-ohm readings are taken as Gaussian, with a covariance of all that they share: lengths of legs, each for
itself and together, joints, the null of the leads, the size of the fault within its step; and the meter's noise. Open
and over range are outcomes of their own.
"""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from lumbek.core.diagnosis.accuse import all_suspects
from lumbek.core.diagnosis.catalogue import Catalogue, Test
from lumbek.core.diagnosis.noticed import Sign, View, is_sign, sign_of
from lumbek.core.diagnosis.patient import Patient
from lumbek.core.diagnosis.predict import Flags, Predicted, alike, predict, seen_ohm
from lumbek.core.diagnosis.suspects import Hypothesis, Suspect
from lumbek.core.network.changed import OPEN_FROM_OHM, Places, Reals

# What is so much less likely than the best is dropped after the first readings, and looked at no more.
_DROPPED_LN = 18.0
_LN10 = float(np.log(10.0))


@dataclass(frozen=True)
class Took:
    """A reading that was taken: the test's id, the figure in its unit, and whether it lay beyond the display."""

    test: str
    value: float
    beyond: bool = False

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

    def kept(self) -> "Belief":
        """Return what is still worth looking at: hypotheses that are not out of the question."""
        rows = np.flatnonzero(self.ln_likely > -_DROPPED_LN)
        return replace(self, hypotheses=tuple(self.hypotheses[at] for at in rows))

    def with_reading(self, test: Test, took: Took) -> "Belief":
        """Return the belief after one more reading."""
        return replace(self, taken=(*self.taken, (test, took)))

    def surprise(self) -> Reals:
        """Return how far what was read lies from each hypothesis, in standard deviations, shape (hypotheses,).

        Of all low-ohm readings together; what is open against what should not be, or insulation that is low where no
        path is, is further off than anything.
        """
        found = np.zeros(len(self.hypotheses))
        if self.low:
            squares, count, wrong = self._scatter(self.hypotheses).distance(*self._read, self._ln_ways.argmax(axis=1))
            found = np.maximum((squares - count) / np.sqrt(2 * np.maximum(count, 1)), 0.0) + 100.0 * wrong
        for test, took in self.taken:
            if test.insulation:
                found += 100.0 * (insulation_density(self.patient, self.hypotheses, test, took) < 1e-3)
        return np.asarray(found)

    @property
    def _read(self) -> tuple[Reals, Flags]:
        return (
            np.array([took.value for _, took in self.low]),
            np.array([took.is_open for _, took in self.low], dtype=np.bool_),
        )

    def _scatter(self, hypotheses: Sequence[Hypothesis]) -> "Scatter":
        tests = [test for test, _ in self.low]
        live = np.array([test.live for test in tests], dtype=np.bool_)
        return Scatter(self.patient, hypotheses, predict(self.patient, hypotheses, tests), self._read[0], live)

    @cached_property
    def _ln_ways(self) -> Reals:
        """The logarithm of the density of the low-ohm readings, with none of them a slip or one of them.

        Shape (hypotheses, 1 + readings): first with none.
        """
        if not self.low:
            return np.zeros((len(self.hypotheses), 1))
        rows, which = alike(self.patient, self.hypotheses, [test for test, _ in self.low])
        ways = self._scatter([self.hypotheses[at] for at in rows]).ln_ways(*self._read)
        return np.asarray(ways[which])

    @cached_property
    def _ln_besides(self) -> Reals:
        """The logarithm of prior and all that is no low-ohm reading, shape (hypotheses,)."""
        prior = np.log([self.suspects[each.suspect].prior * each.prior for each in self.hypotheses])
        return np.asarray(prior + self._ln_insulation() + self._ln_signs())

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

    def _ln_insulation(self) -> Reals:
        found = np.zeros(len(self.hypotheses))
        for test, took in self.taken:
            if test.insulation:
                found += np.log(insulation_density(self.patient, self.hypotheses, test, took))
        return found

    def of_sign(self, sign: Sign, hypotheses: Sequence[Hypothesis]) -> Reals:
        """Return how likely what was noticed is under each hypothesis, shape (hypotheses,)."""
        return sign.likely(View(self.patient, self.suspects, hypotheses, sign.point))

    def _ln_signs(self) -> Reals:
        found = np.zeros(len(self.hypotheses))
        for sign, _ in self.signs:
            found += np.log(self.of_sign(sign, self.hypotheses))
        return found


def insulation_density(patient: Patient, hypotheses: Sequence[Hypothesis], test: Test, took: Took) -> Reals:
    """Return how likely an insulation reading is under each hypothesis, per decade, shape (hypotheses,)."""
    figures, ohm = patient.figures, seen_ohm(patient, hypotheses, test)
    seen = np.isfinite(ohm)
    if took.beyond:
        return np.where(seen, figures.misread, 0.5)
    sound = 0.2 if took.value >= figures.sound_insulation_from_mohm else 1e-5
    # What a display in steps of 0.01 MΩ makes of little.
    mohm = np.where(seen, ohm, 0.0) * 1e-6
    read, said = np.log10(took.value + 0.005), np.log10(mohm + 0.005)
    cell = np.array([each.cell_ln for each in hypotheses]) / _LN10
    spread = np.sqrt(figures.insulation_noise_decades**2 + cell**2 + (0.005 / (mohm + 0.005) / _LN10) ** 2)
    density = np.exp(-0.5 * ((read - said) / spread) ** 2) / spread / np.sqrt(2 * np.pi)
    return np.where(seen, np.maximum(density, figures.misread), sound)


class Scatter:
    """Low-ohm readings under each hypothesis with their covariance."""

    def __init__(
        self,
        patient: Patient,
        hypotheses: Sequence[Hypothesis],
        predicted: Predicted,
        read: Reals | None = None,
        live: Flags | None = None,
    ) -> None:
        """Put together the mean and what the readings share, one column for each thing that is not known exactly.

        A meter's noise goes with what is at its leads: with what was `read`, shape (readings,), where that is known.
        Taken from what a suspect of the wrong size would read, noise would explain anything.
        """
        figures = patient.figures
        own = np.full((len(hypotheses), len(patient.legs)), figures.length_part)
        common = np.full(len(hypotheses), figures.common_length_part)
        gain = np.array([1.0 + each.gain for each in hypotheses])
        offset = np.array([each.offset_ohm for each in hypotheses])
        cell = np.array([each.cell_ln for each in hypotheses])
        for at, each in enumerate(hypotheses):
            if each.length_part is not None:
                own[at] = each.length_part
            if each.common_part is not None:
                common[at] = each.common_part
        own[:, [leg in patient.vague for leg in patient.legs]] = figures.unknown_length_part
        self.ohm = predicted.ohm * gain[:, None] + offset[:, None]
        self.open = self.ohm > OPEN_FROM_OHM
        by_leg = predicted.by_leg
        leads = np.full((*self.ohm.shape, 1), figures.lead_spread_ohm)
        self.shared = np.concatenate(
            (
                by_leg * own[:, None, :],
                by_leg.sum(axis=2, keepdims=True) * common[:, None, None],
                predicted.slope[:, :, None] * cell[:, None, None],
                leads,
            ),
            axis=2,
        )
        noisy = self.ohm if read is None else np.broadcast_to(read, self.ohm.shape)
        noise = figures.noise_part * np.minimum(noisy, OPEN_FROM_OHM) + figures.noise_ohm
        if live is not None:
            # Half the band of a loop tester, for each of the two loops whose difference it is.
            rough = figures.live_noise_part * np.minimum(noisy, OPEN_FROM_OHM) + figures.live_noise_ohm
            noise = np.where(live, rough, noise)
        # Two joints a branch; readings are shown in steps of 0.01 Ω.
        self.alone = noise**2 + 2 * figures.joint_spread_ohm**2 * predicted.joints + 0.01**2 / 12
        self._figures = figures

    def covariance(self, finite: Flags) -> Reals:
        """Return the covariances of the readings in Ω², shape (hypotheses, readings, readings).

        Where a reading is not finite it stands for itself with 1 Ω².
        """
        shared = np.where(finite[:, :, None], self.shared, 0.0)
        found = shared @ shared.transpose(0, 2, 1)
        places = np.arange(found.shape[1])
        found[:, places, places] += np.where(finite, self.alone, 1.0)
        return found

    def distance(self, read: Reals, is_open: Flags, way: Places) -> tuple[Reals, Reals, Reals]:
        """Return how far the readings lie off (Mahalanobis' squares), how many are finite, how many are open or finite
        against what should be; each (hypotheses,). `way` is which reading is a slip, from 1 on, and left out.
        """
        kept = np.arange(1, len(read) + 1)[None, :] != way[:, None]
        finite = ~self.open & ~is_open[None, :] & kept
        off = np.where(finite, read[None, :] - self.ohm, 0.0)
        lower = np.linalg.cholesky(self.covariance(finite))
        solved = np.linalg.solve(lower, off[:, :, None])[:, :, 0]
        wrong = ((self.open != is_open[None, :]) & kept).sum(axis=1)
        return (solved**2).sum(axis=1), finite.sum(axis=1), wrong

    def ln_ways(self, read: Reals, is_open: Flags) -> Reals:
        """Return the logarithm of how likely the readings are with none a slip, and with each of them one.

        Shape (hypotheses, 1 + readings). Of the inverse K of the covariance and d, readings less what is foretold,
        ln N(i | rest) = ½ ln(K_ii / 2π) - (K d)_i² / 2 K_ii: a slip at i leaves that factor out and has its own
        instead, open or even over decades.
        """
        figures = self._figures
        finite = ~self.open & ~is_open[None, :]
        wrong = self.open != is_open[None, :]
        off = np.where(finite, read[None, :] - self.ohm, 0.0)
        covariance = self.covariance(finite)
        inverse = np.linalg.inv(covariance)
        pulled = (inverse @ off[:, :, None])[:, :, 0]
        ln_root = 0.5 * np.linalg.slogdet(covariance)[1]
        all_ = -0.5 * (off * pulled).sum(axis=1) - ln_root - 0.5 * finite.sum(axis=1) * np.log(2 * np.pi)
        all_ += wrong.sum(axis=1) * np.log(figures.misread)
        own = np.diagonal(inverse, axis1=1, axis2=2)
        of_rest = np.where(finite, 0.5 * np.log(own / (2 * np.pi)) - pulled**2 / (2 * own), 0.0)
        of_rest = np.where(wrong, np.log(figures.misread), of_rest)
        least, most = figures.slip_ohm
        even = (1 - figures.slip_open) / (np.clip(read, least, most) * np.log(most / least))
        slip = figures.slip * np.where(is_open, figures.slip_open, even)
        none = all_ + np.log1p(-figures.slip * min(len(read), 100))
        return np.concatenate((none[:, None], all_[:, None] + np.log(slip)[None, :] - of_rest), axis=1)


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
