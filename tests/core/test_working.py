"""Every line of working that has an equals sign is done again here, as a person with a calculator would."""

import re
import unittest
from importlib.resources import files
from math import sqrt

from hypothesis import given, settings

from lumbek.core.judging.answers import answer_circuits
from lumbek.core.judging.check import Check, Step
from lumbek.core.model.ahead import Ahead, OwnEarth
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import Segment
from lumbek.core.model.point import Load
from lumbek.core.model.supply import MainFuse
from lumbek.core.survey.judgement import judge_supply
from lumbek.exchange.job_file import read_job
from tests.support.houses import BS, IEC, SUPPLY, fixed, judged, run, with_spur, worked_ring
from tests.support.random_jobs import designs
from tests.support.stated import a_device, an_rcd

_UNITS = r"(?<=[\d)]) ?(mV/A/m|mΩ/m|A²s|mm²|MΩ|kVA|kA|mA|Ω|%|A|V|m|ms)(?![\w/²])"
_NAMES = r"\b(Iz|Ib|It|Ct|Zs)\b"


def arithmetic(text: str) -> float | None:
    """Return what a written sum comes to, or None where it is no sum."""
    bare = re.sub(_NAMES, "", re.sub(_UNITS, "", text)).replace("×", "*").replace("²", "**2")
    bare = re.sub(r"√(\d+(\.\d+)?)", r"sqrt(\1)", bare).replace("√", "sqrt").strip()
    if not re.fullmatch(r"[\d.+\-*/() sqrt]+", bare) or not re.search(r"[*/+\-]|sqrt", bare):
        return None
    return float(eval(bare, {"__builtins__": {}}, {"sqrt": sqrt}))


def rounding(text: str) -> float:
    """Return the relative error that the rounding of the figures in a sum can make together."""
    total = 0.0
    for figure, squared in re.findall(r"(\d+\.\d+)(²?)", text):
        decimals = len(figure.partition(".")[2])
        total += (2 if squared else 1) * 0.5 * 10**-decimals / max(float(figure), 10**-decimals)
    return total


def halves(step: Step) -> tuple[str, str] | None:
    parts = step.sum.split(" = ")
    return (parts[-2], parts[-1]) if len(parts) > 1 else None


class Followed(unittest.TestCase):
    """A sum may differ from its result by the rounding of its figures and by one in the last place: limits go down."""

    def follow(self, check: Check) -> int:
        done = 0
        for step in check.steps:
            written = halves(step)
            if written is None:
                continue
            found, given_ = arithmetic(written[0]), re.match(r"[\d.]+", written[1])
            if found is None or given_ is None:
                continue
            result = float(given_.group())
            # A part of something, said in percent.
            found *= 100 if written[1].endswith("%") else 1
            decimals = len(given_.group().partition(".")[2])
            room = rounding(written[0]) * abs(found) + 1.01 * 10**-decimals
            self.assertAlmostEqual(result, found, delta=room, msg=f"{check.id}: {step.text}: {step.sum}")
            done += 1
        return done

    def follow_all(self, circuit: Circuit, supply=SUPPLY, rulebook=BS) -> int:
        return sum(self.follow(check) for check in judged(circuit, supply, rulebook).checks)

    def test_reading_a_sum(self) -> None:
        for text, value in (
            ("18 mV/A/m × 16.00 A × 30 m / 1000", 8.64),
            ("0.210 + 0.256 × 1.20", 0.5172),
            ("22.5 × 31.5 / 54 m × 19.51 mΩ/m / 1000", 0.2561),
            ("√45000 / 115", 1.8446),
            ("160² × 0.4", 10240),
        ):
            self.assertAlmostEqual(arithmetic(text), value, places=3)
        self.assertIsNone(arithmetic("type A"))
        self.assertIsNone(arithmetic("32 A"))

    def test_a_wrong_sum_would_be_found(self) -> None:
        wrong = judged(worked_ring()).checks[0].model_copy(update={"steps": (Step(text="a", sum="2 × 3 = 8 A"),)})
        with self.assertRaises(AssertionError):
            self.follow(wrong)

    def test_the_two_houses(self) -> None:
        for house in ("signal_box", "boathouse"):
            job = read_job((files("lumbek.services") / "demo_data" / f"{house}.json").read_bytes())
            done = 0
            for answer in answer_circuits(job):
                done += sum(self.follow(check) for check in answer.result.checks)
                done += sum(self.follow(item.check) for s in answer.tests.stages for item in s.items if item.check)
            self.assertGreater(done, 30)
            for check in judge_supply(BS if job.rulebook == "bs7671" else IEC, job.supply).checks:
                self.follow(check)

    def test_circuits_of_many_kinds(self) -> None:
        swa = Cable(type="armoured", insulation="xlpe90", csa_mm2=6)
        feed = Ahead(name="Feed", feed=swa, length_m=22, current_a=25)
        lofty = (
            run(8, 6, device=a_device(rating_a=20))
            .legs[0]
            .model_copy(
                update={"segments": (Segment(length_m=8, ambient_c=40, grouped_circuits=3, insulation_mm=120),)}
            )
        )
        semi = a_device(standard="bs3036", curve=None, rating_a=15, breaking_capacity_ka=2, rcd=an_rcd(shared=True))
        fused = with_spur(run(9, 9, 9, back=9), "P2", "F1", 1, kind="fused-spur", fuse_a=13)
        for circuit in (
            worked_ring(),
            worked_ring({"P2": 13, "P3": 10, "P6": 7, "S1": 2}).model_copy(update={"drop_with_ct": True}),
            fixed(14, 9500, 45, 10),
            fixed(17, 10500, 32, 6, kind="cooker"),
            fixed(28, 2300, 16, 2.5, kind="outdoor", cable=swa.model_copy(update={"csa_mm2": 2.5, "cpc_by": "armour"})),
            fixed(30, 9000, 16, 2.5, kind="three-phase", cable=Cable(type="multicore", csa_mm2=2.5)),
            run(6, 4, device=a_device(rating_a=20), ahead=(feed,), drop_with_ct=True),
            run(8, 6, device=semi),
            run(8, 6, device=a_device(rating_a=20)).model_copy(update={"legs": (lofty,)}),
            with_spur(fused, "F1", "Q1", 6, kind="fixed", loads={"Q1": 9}),
            fixed(20, 2000, 16, 2.5, kind="outdoor", own_earth=OwnEarth(electrode_ohm=80, electrode_origin="measured")),
        ):
            for book in (BS, IEC):
                self.assertGreater(self.follow_all(circuit, rulebook=book), 2)

    def test_a_switch_behind_the_supply_fuse(self) -> None:
        switch = a_device(
            standard="switch", curve=None, rating_a=100, breaking_capacity_ka=None, rcd=an_rcd(shared=True)
        )
        big = SUPPLY.model_copy(update={"main_fuse": MainFuse(standard="bs88-3", rating_a=100)})
        self.assertGreater(self.follow_all(run(20, device=switch), big), 2)

    def test_leakage_is_added_up(self) -> None:
        loads = tuple(Load(current_a=1, leakage_ma=leak) for leak in (0.75, 1.5, 3.25))
        circuit = run(5)
        point = circuit.points[0].model_copy(update={"loads": loads})
        found = next(c for c in judged(circuit.model_copy(update={"points": (point,)})).checks if c.id == "leakage")
        self.assertEqual(found.steps[0].sum, "0.75 + 1.50 + 3.25 = 5.50 mA")
        self.assertEqual(self.follow(found), 2)

    @settings(max_examples=80)
    @given(designs)
    def test_any_design(self, design: Circuit) -> None:
        for book in (BS, IEC):
            self.follow_all(design, rulebook=book)
