"""How low-ohm readings scatter about what a hypothesis foretells, and how likely those that were taken are.

They are taken as Gaussian, with a covariance of all that they share: lengths of legs, each for itself and together,
the null of the leads, the size of the fault within its step; and joints and the meter's noise, each for itself.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from lumbek.core.diagnosis.patient import Patient
from lumbek.core.diagnosis.predict import Flags, Predicted
from lumbek.core.diagnosis.suspects import Hypothesis
from lumbek.core.diagnosis.usual_figures import DiagnosisFigures
from lumbek.core.network.changed import OPEN_FROM_OHM, Places, Reals

# Where the fault's size stands among what readings share: next to the last.
_OF_SIZE = -2
# Readings are shown in steps of 0.01 Ω.
_STEP_SQUARE = 0.01**2 / 12
# A reading so many standard deviations off is not explained, however much further off it is; and their square.
_FAR_OFF = 4.0
ALL_OFF = _FAR_OFF**2
_LN_2PI = float(np.log(2 * np.pi))


@dataclass(frozen=True)
class ReadOhms:
    """Low-ohm readings that were taken: figures in Ω, which were open, which were taken live; each (readings,)."""

    ohm: Reals
    is_open: Flags
    live: Flags

    def noise_ohm(self, figures: DiagnosisFigures) -> Reals:
        """Return the standard deviation of what the meter makes of each.

        It goes with what is at its leads. Taken from what a suspect of the wrong size would read, noise would explain
        anything.
        """
        # Half the band of a loop tester, for each of the two loops whose difference it is.
        rough = figures.live_noise_part * np.minimum(self.ohm, OPEN_FROM_OHM) + figures.live_noise_ohm
        return np.where(self.live, rough, _noise_ohm(figures, self.ohm))


def _noise_ohm(figures: DiagnosisFigures, ohm: Reals) -> Reals:
    return np.asarray(figures.noise_part * np.minimum(ohm, OPEN_FROM_OHM) + figures.noise_ohm)


class Foretold:
    """What readings would be under each hypothesis, and how far each thing that is not known may be off.

    `ohm` and `open` have the shape (hypotheses, readings), `own` is of legs, (hypotheses, legs), `common` of all of
    them together and `cell` of the fault's size, (hypotheses,): standard deviations, as parts.
    """

    def __init__(self, patient: Patient, hypotheses: Sequence[Hypothesis], predicted: Predicted) -> None:
        """Take what each hypothesis says of lengths, leads and meter; what it does not say is as usual."""
        figures = patient.figures
        self.patient, self.predicted = patient, predicted
        self.own = np.full((len(hypotheses), len(patient.legs)), figures.length_part)
        self.common = np.full(len(hypotheses), figures.common_length_part)
        self.cell = np.array([each.cell_ln for each in hypotheses])
        for at, each in enumerate(hypotheses):
            if each.length_part is not None:
                self.own[at] = each.length_part
            if each.common_part is not None:
                self.common[at] = each.common_part
        self.own[:, [leg in patient.vague for leg in patient.legs]] = figures.unknown_length_part
        gain = np.array([1.0 + each.gain for each in hypotheses])
        offset = np.array([each.offset_ohm for each in hypotheses])
        self.ohm = predicted.ohm * gain[:, None] + offset[:, None]
        self.open = self.ohm > OPEN_FROM_OHM

    def ln_at_best(self, read: ReadOhms) -> tuple[Reals, Reals]:
        """Return what the logarithm of the likelihood of readings is at the most, and about; each (hypotheses,).

        At the most: with one of them a slip, and all others explained but the worst. Nothing is shared by more than
        what a reading is, for each leg's part of it is its own (Tellegen), and so no reading has a greater variance
        than is taken here. About: as if they shared nothing. Neither needs the currents in the network.
        """
        figures = self.patient.figures
        finite, wrong = ~self.open & ~read.is_open[None, :], self.open != read.is_open[None, :]
        meter = read.noise_ohm(figures) ** 2 + _STEP_SQUARE
        square = self._off(read)
        peak = (np.where(finite, -0.5 * (np.log(meter) + _LN_2PI), 0.0)).sum(axis=1)
        misread = np.log(figures.misread)
        second = np.sort(square, axis=1)[:, -2] if square.shape[1] > 1 else np.zeros(len(square))
        count = wrong.sum(axis=1)
        at_most = peak - 0.5 * second + np.maximum(count - 1, 0) * misread + np.log(1 + square.shape[1])
        return at_most, np.minimum(at_most, peak - 0.5 * square.sum(axis=1) + count * misread)

    def left_over(self, read: ReadOhms) -> Reals:
        """Return how much of each reading is left for something else to explain, shape (hypotheses, readings).

        It counts up to what is out of the question, and no further: with a second fault beside it a suspect may be as
        wrong of some readings as it likes, where it is right of the others.
        """
        wrong = self.open != read.is_open[None, :]
        return np.where(wrong, ALL_OFF, np.minimum(self._off(read), ALL_OFF))

    def _off(self, read: ReadOhms) -> Reals:
        """Return the squares of how far readings lie off, in the most that a standard deviation may be; 0 for open."""
        figures = self.patient.figures
        ohm = np.where(self.open, 0.0, self.predicted.ohm)
        lengths = (self.own.max(axis=1, initial=0.0) ** 2 + self.common**2)[:, None] * ohm**2
        size = (self.predicted.slope * self.cell[:, None]) ** 2
        joints = 2 * figures.joint_spread_ohm**2 * ohm / self.patient.ohms.min()
        most = read.noise_ohm(figures) ** 2 + _STEP_SQUARE + lengths + size + joints + figures.lead_spread_ohm**2
        return np.where(~self.open & ~read.is_open[None, :], (read.ohm[None, :] - self.ohm) ** 2 / most, 0.0)


class Scatter:
    """Low-ohm readings under each hypothesis with what they share and what each has alone."""

    def __init__(self, foretold: Foretold, read: ReadOhms | None = None) -> None:
        """Put together what readings share, one column for each thing that is not known exactly.

        Where nothing was read yet, the meter's noise goes with what is foretold.
        """
        figures, predicted = foretold.patient.figures, foretold.predicted
        self._figures, self._foretold = figures, foretold
        self.ohm, self.open = foretold.ohm, foretold.open
        self.shared = np.concatenate(
            (
                predicted.by_leg * foretold.own[:, None, :],
                predicted.by_leg.sum(axis=2, keepdims=True) * foretold.common[:, None, None],
                predicted.slope[:, :, None] * foretold.cell[:, None, None],
                np.full((*self.ohm.shape, 1), figures.lead_spread_ohm),
            ),
            axis=2,
        )
        noise = read.noise_ohm(figures) if read else _noise_ohm(figures, self.ohm)
        # Two joints a branch.
        self.alone = noise**2 + _STEP_SQUARE + 2 * figures.joint_spread_ohm**2 * predicted.joints

    def _weighed(self, finite: Flags, off: Reals) -> tuple[Reals, Reals, Reals]:
        """Return of the inverse K of the readings' covariance: K d of what they lie `off`, K's diagonal, ln det K.

        Shapes (hypotheses, readings) twice and (hypotheses,). Where a reading is not finite it stands for itself with
        1 Ω². What is shared has few columns, one for each unknown, so that is what is inverted (Woodbury).
        """
        alone = np.where(finite, self.alone, 1.0)
        shared = np.where(finite[:, :, None], self.shared, 0.0)
        by_alone = shared / alone[:, :, None]
        inner = shared.transpose(0, 2, 1) @ by_alone
        inner[:, range(inner.shape[1]), range(inner.shape[1])] += 1.0
        explained = by_alone @ np.linalg.inv(inner)
        pulled = off / alone - (explained @ (by_alone.transpose(0, 2, 1) @ off[:, :, None]))[:, :, 0]
        own = 1.0 / alone - np.einsum("hrc,hrc->hr", explained, by_alone)
        return pulled, own, -np.linalg.slogdet(inner)[1] - np.log(alone).sum(axis=1)

    def _too_little(self, read: ReadOhms) -> Flags:
        """Return which readings are less than any size of the fault within its step makes of them.

        Sizes go by their logarithm. Taken straight, as they are for all else, a joint of hundreds of ohms would be but
        three standard deviations from none at all.
        """
        least = self.ohm + self._foretold.predicted.slope * np.expm1(-_FAR_OFF * self._foretold.cell)[:, None]
        besides = np.delete(self.shared, _OF_SIZE, axis=2)
        spread = np.sqrt((besides**2).sum(axis=2) + self.alone)
        return np.asarray(read.ohm[None, :] < least - _FAR_OFF * spread)

    def distance(self, read: ReadOhms, way: Places) -> tuple[Reals, Reals, Reals]:
        """Return how far the readings lie off (Mahalanobis' squares), how many are finite, how many are out of the
        question; each (hypotheses,). `way` is which reading is a slip, from 1 on, and left out.

        Out of the question is what is open against what should be, or the other way about, and what is too little for
        any size of the fault.
        """
        kept = np.arange(1, len(read.ohm) + 1)[None, :] != way[:, None]
        finite = ~self.open & ~read.is_open[None, :] & kept
        off = np.where(finite, read.ohm[None, :] - self.ohm, 0.0)
        wrong = ((self.open != read.is_open[None, :]) & kept) | (finite & self._too_little(read))
        return (off * self._weighed(finite, off)[0]).sum(axis=1), finite.sum(axis=1), wrong.sum(axis=1)

    def ln_ways(self, read: ReadOhms) -> Reals:
        """Return the logarithm of how likely the readings are with none a slip, and with each of them one.

        Shape (hypotheses, 1 + readings). Of the inverse K of the covariance and d, readings less what is foretold,
        ln N(i | rest) = ½ ln(K_ii / 2π) - (K d)_i² / 2 K_ii: a slip at i leaves that factor out and has its own
        instead, open or even over decades.
        """
        figures = self._figures
        finite = ~self.open & ~read.is_open[None, :]
        wrong = self.open != read.is_open[None, :]
        off = np.where(finite, read.ohm[None, :] - self.ohm, 0.0)
        pulled, own, ln_determinant = self._weighed(finite, off)
        all_ = 0.5 * (ln_determinant - (off * pulled).sum(axis=1) - finite.sum(axis=1) * _LN_2PI)
        all_ += wrong.sum(axis=1) * np.log(figures.misread)
        of_rest = np.where(finite, 0.5 * (np.log(own) - _LN_2PI) - pulled**2 / (2 * own), 0.0)
        of_rest = np.where(wrong, np.log(figures.misread), of_rest)
        least, most = figures.slip_ohm
        even = (1 - figures.slip_open) / (np.clip(read.ohm, least, most) * np.log(most / least))
        slip = figures.slip * np.where(read.is_open, figures.slip_open, even)
        none = all_ + np.log1p(-figures.slip * min(len(read.ohm), 100))
        return np.concatenate((none[:, None], all_[:, None] + np.log(slip)[None, :] - of_rest), axis=1)
