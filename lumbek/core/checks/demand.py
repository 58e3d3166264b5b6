"""What the circuit draws against what the supply fuse carries."""

from lumbek.core.judging.check import Check, Step
from lumbek.core.judging.question import Question
from lumbek.core.numbers import plain
from lumbek.core.study.study import Study

QUESTION = Question(
    "demand", "Demand on the supply", "Does the supply fuse carry what this circuit alone draws?", "demand"
)


def check_demand(study: Study) -> Check:
    """Ib with its diversity <= the main fuse, A (311.1). What the whole house draws is judged with its board."""
    fuse, demand = study.supply.main_fuse.rating_a, study.currents.demand
    if demand is None or not demand.stated:
        return QUESTION.not_applicable(study, "No loads stated")
    if fuse is None:
        return QUESTION.not_applicable(study, "The main fuse is not known: the survey asks for it")
    return QUESTION.held(
        study,
        demand.ib_a,
        fuse,
        "at most",
        "Ib {value} A, main fuse {limit} A",
        unit="A",
        decimals=1,
        place=study.whole,
        steps=(*demand.steps, Step(text="Main fuse", sum=f"{plain(fuse)} A")),
    )
