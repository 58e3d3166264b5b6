"""Imported once, by the process that heavy work is forked from: all it needs has been loaded and has run.

Setting a first page finds the fonts and reads the style sheets, which takes as long as setting a whole document does;
what is forked afterwards has them already.
"""

import gc
from typing import get_args

from lumbek.api import pool  # noqa: F401
from lumbek.core.circuit.usual import usual_circuit
from lumbek.core.model.job import JobHead, RulebookId
from lumbek.core.model.supply import Supply
from lumbek.core.rulebooks import rulebook_of
from lumbek.exchange import labels_pdf, make_off_pdf, results_pdf, schedule_pdf  # noqa: F401
from lumbek.exchange.calculation_pdf import calculation_pdf
from lumbek.services import heavy  # noqa: F401

for _rulebook in get_args(RulebookId):
    _head = JobHead(rulebook=_rulebook)
    calculation_pdf(_head, Supply(), usual_circuit(rulebook_of(_head), "sockets"))
# What is there stays: nobody who is forked goes through it again, nor copies it by doing so.
gc.collect()
gc.freeze()
