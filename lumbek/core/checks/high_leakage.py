"""A protective conductor that carries current in ordinary use: it must not be lost."""

from lumbek.core.checks.rcd_type import leakage_ma
from lumbek.core.checks.withstand import cpc_area_mm2
from lumbek.core.judging.check import Check, Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.numbers import plain, show
from lumbek.core.study.study import Study

QUESTION = Question(
    "high-leakage", "High-integrity cpc", "Is the cpc safe to lose nothing where it carries current?", "high-leakage"
)


def check_high_leakage(study: Study) -> Check:
    """Over 10 mA of protective-conductor current: 10 mm² by itself, two cpcs, or a ring with both ends (543.7.1).

    Metal conduit counts as a second cpc beside a core; of armour with a core as cpc the same holds.
    """
    rules, total = study.rulebook.data.high_leakage, sum(leakage_ma(study))
    if total <= rules.over_ma or study.standing.feeds_only_boards:
        return QUESTION.not_applicable(study, f"No more than {plain(rules.over_ma)} mA stated")
    steps = (Step(text="Protective-conductor currents that are stated", sum=f"{show(total)} mA"),)
    caution = "Each end of the cpc in a terminal of its own, and a label at the board."
    if study.is_socket_ring and not study.wires.without_cpc:
        return QUESTION.check(study, Verdict.PASS, "A ring, both ends", place=study.whole, steps=steps, caution=caution)
    thin = [leg.id for leg in study.wires.legs if not _is_strong(study, leg.id)]
    if not thin:
        return QUESTION.check(study, Verdict.PASS, "Strong enough", place=study.whole, steps=steps, caution=caution)
    area = cpc_area_mm2(study, study.circuit.cable_of(study.legs[thin[0]])) or 0.0
    return QUESTION.check(
        study,
        Verdict.FAIL,
        f"{show(total, 1)} mA on an ordinary cpc of {plain(area)} mm²",
        place=study.leg_place(thin[0]),
        steps=(*steps, Step(text=f"{plain(rules.least_cpc_mm2)} mm², a second cpc, or a ring with both ends")),
    )


def _is_strong(study: Study, leg_id: str) -> bool:
    """Whether a leg's cpc is thick enough by itself, or there are two: a core and the metal round it."""
    cable = study.circuit.cable_of(study.legs[leg_id])
    area = cpc_area_mm2(study, cable)
    two = cable.type == "armoured" and cable.earth_by == "core"
    return two or cable.earth_by == "conduit" or (area or 0.0) >= study.rulebook.data.high_leakage.least_cpc_mm2
