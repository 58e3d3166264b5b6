"""Circuits to be looked into for faults, and what is read of them first."""

from lumbek.core.diagnosis.accuse import all_suspects
from lumbek.core.diagnosis.belief import Belief, Took
from lumbek.core.diagnosis.catalogue import Catalogue, first_tests
from lumbek.core.diagnosis.inquiry import go_on
from lumbek.core.diagnosis.next_test import propose_tests
from lumbek.core.diagnosis.patient import Patient, patient_of
from lumbek.core.diagnosis.predict import predict
from lumbek.core.model.circuit import Circuit
from lumbek.core.study.door import study_of
from lumbek.practice.hidden import Meter
from lumbek.simulated.house import Installed
from tests.support.houses import BS, SUPPLY


def patient(circuit: Circuit) -> Patient:
    return patient_of(study_of(BS, SUPPLY, circuit))


def ideal(of: Patient, installed: Installed | None = None) -> list[Took]:
    """What an ideal meter reads first on a sound circuit."""
    tests = [Catalogue(of).test(each) for each in first_tests(of)]
    low = [test for test in tests if not test.insulation]
    ohms = predict(of, [hypotheses[0] for suspect, hypotheses in all_suspects(of) if suspect.id == "sound"], low).ohm[0]
    taken = [Took(test.id, round(float(ohm), 2)) for test, ohm in zip(low, ohms, strict=True)]
    return [*taken, *(Took(test.id, 999.0, True) for test in tests if test.insulation)]


def settled(belief: Belief, house: Installed, meter: Meter) -> Belief:
    """What is believed once every reading that may be a slip was taken again."""
    for _ in range(6):
        if not belief.doubtful:
            break
        test = propose_tests(belief)[0].test
        belief = go_on(belief, test, meter.read(house, test))
    return belief
