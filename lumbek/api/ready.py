"""Imported once, by the process that heavy work is forked from: all it needs has been loaded and has run.

Setting a first page finds the fonts and reads the style sheets, which takes as long as setting a whole document does;
what is forked afterwards has them already.
"""

import gc
from typing import get_args

# Loaded here, so that no piece of work waits for it.
import scipy.optimize  # noqa: F401

from lumbek.api import pool  # noqa: F401
from lumbek.core.circuit.usual import usual_circuit
from lumbek.core.documents.calculation import calculation_paper
from lumbek.core.documents.gathered import gather
from lumbek.core.model.job import Job, JobCircuit, RulebookId
from lumbek.core.model.supply import Supply
from lumbek.core.rulebooks import load_rulebook
from lumbek.exchange.paper_pdf import paper_pdf
from lumbek.services import heavy  # noqa: F401

_papers = []
for _rulebook in get_args(RulebookId):
    _design = usual_circuit(load_rulebook(_rulebook), "sockets")
    _job = Job(rulebook=_rulebook, supply=Supply(), circuits=(JobCircuit.of(_design, (), "C1"),))
    _papers.append(calculation_paper(gather(_job, "C1")))
# One page finds every font.
paper_pdf(_papers[0])
# What is there stays: nobody who is forked goes through it again, nor copies it by doing so.
gc.freeze()
