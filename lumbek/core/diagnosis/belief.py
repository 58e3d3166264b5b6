"""How likely each suspect is after what has been read (Bayes' rule over hypotheses).

Finite low-ohm readings are taken as Gaussian, with a covariance of all that they share: lengths of legs, each for
itself and together, joints, the null of the leads, the size of the fault within its step; and the meter's noise. Open
and over range are outcomes of their own.
"""

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
from lumbek.core.network.changed import OPEN_FROM_OHM, Reals

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
    def _low(self) -> list[tuple[Test, Took]]:
        return [each for each in self.taken if not each[0].insulation]

    @cached_property
    def ln_likely(self) -> Reals:
        """The logarithm of prior and likelihood together, shape (hypotheses,), greatest 0."""
        prior = np.log([self.suspects[each.suspect].prior * each.prior for each in self.hypotheses])
        found = prior + self._ln_low() + self._ln_insulation() + self._ln_signs()
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
        if self._low:
            squares, count, wrong, _ = self._scatter(self.hypotheses).distance(*self._read)
            found = np.maximum((squares - count) / np.sqrt(2 * np.maximum(count, 1)), 0.0) + 100.0 * wrong
        for test, took in self.taken:
            if test.insulation:
                found += 100.0 * (insulation_density(self.patient, self.hypotheses, test, took) < 1e-3)
        return np.asarray(found)

    @property
    def _read(self) -> tuple[Reals, Flags]:
        return (
            np.array([took.value for _, took in self._low]),
            np.array([took.is_open for _, took in self._low], dtype=np.bool_),
        )

    def _scatter(self, hypotheses: Sequence[Hypothesis]) -> "Scatter":
        tests = [test for test, _ in self._low]
        live = np.array([test.live for test in tests], dtype=np.bool_)
        return Scatter(self.patient, hypotheses, predict(self.patient, hypotheses, tests), self._read[0], live)

    def _ln_low(self) -> Reals:
        if not self._low:
            return np.zeros(len(self.hypotheses))
        rows, which = alike(self.patient, self.hypotheses, [test for test, _ in self._low])
        density = self._scatter([self.hypotheses[at] for at in rows]).ln_density(*self._read)
        return np.asarray(density[which])

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
        self._misread = figures.misread

    def covariance(self, finite: Flags) -> Reals:
        """Return the covariances of the readings in Ω², shape (hypotheses, readings, readings).

        Where a reading is not finite it stands for itself with 1 Ω².
        """
        shared = np.where(finite[:, :, None], self.shared, 0.0)
        found = shared @ shared.transpose(0, 2, 1)
        places = np.arange(found.shape[1])
        found[:, places, places] += np.where(finite, self.alone, 1.0)
        return found

    def distance(self, read: Reals, is_open: Flags) -> tuple[Reals, Reals, Reals, Reals]:
        """Return how far the readings lie off (Mahalanobis' squares), how many are finite, how many are open or finite
        against what should be, and the logarithm of the root of the covariance's determinant; each (hypotheses,).
        """
        finite = ~self.open & ~is_open[None, :]
        off = np.where(finite, read[None, :] - self.ohm, 0.0)
        lower = np.linalg.cholesky(self.covariance(finite))
        solved = np.linalg.solve(lower, off[:, :, None])[:, :, 0]
        log_root = np.log(np.diagonal(lower, axis1=1, axis2=2)).sum(axis=1)
        wrong = (self.open != is_open[None, :]).sum(axis=1)
        return (solved**2).sum(axis=1), finite.sum(axis=1), wrong, log_root

    def ln_density(self, read: Reals, is_open: Flags) -> Reals:
        """Return the logarithm of how likely the readings are under each hypothesis, shape (hypotheses,)."""
        squares, count, wrong, log_root = self.distance(read, is_open)
        density = -0.5 * squares - log_root - 0.5 * count * np.log(2 * np.pi)
        return np.asarray(density + wrong * np.log(self._misread))


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
