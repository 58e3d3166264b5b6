"""Change one figure, sign, comparison or word of the core at a time, and say which changes no test noticed.

    python -m tools.mutate map                  which test calls which function, kept in var/ (minutes)
    python -m tools.mutate map tests.core.new   the same of some tests only, put to what is kept
    python -m tools.mutate 60 --seed 7          sixty mutants; of each, the tests that call its function, quickest first
    python -m tools.mutate 60 checks board      of these folders, or files, of the core only

A mutant that lives is a test that is missing, or a line that says the same otherwise: read it.
"""

import argparse
import ast
import importlib
import json
import os
import random
import signal
import sys
import time
import types
import unittest
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from hypothesis import settings

from tests.run import cases, suite

ROOT = Path(__file__).resolve().parents[1]
CORE = ROOT / "lumbek" / "core"
CALLED_BY = ROOT / "var" / "called_by.json"
# What is tried on one mutant takes so long at most, and it may take twice that.
MOST_S = 60.0

_COMPARED: dict[type[ast.cmpop], tuple[type[ast.cmpop], ...]] = {
    ast.Lt: (ast.LtE, ast.GtE),
    ast.LtE: (ast.Lt, ast.Gt),
    ast.Gt: (ast.GtE, ast.LtE),
    ast.GtE: (ast.Gt, ast.Lt),
    ast.Eq: (ast.NotEq,),
    ast.NotEq: (ast.Eq,),
    ast.In: (ast.NotIn,),
    ast.NotIn: (ast.In,),
    ast.Is: (ast.IsNot,),
    ast.IsNot: (ast.Is,),
}
_RECKONED: dict[type[ast.operator], type[ast.operator]] = {
    ast.Add: ast.Sub,
    ast.Sub: ast.Add,
    ast.Mult: ast.Div,
    ast.Div: ast.Mult,
    ast.FloorDiv: ast.Mult,
}
_NAMES = {"min": "max", "max": "min", "any": "all", "all": "any", "ceil": "floor", "floor": "ceil"}


def wrong_ones(node: ast.expr) -> list[ast.expr]:
    """Return what an expression could wrongly be."""
    match node:
        case ast.Compare(left=left, ops=[op], comparators=held):
            return [ast.Compare(left, [wrong()], held) for wrong in _COMPARED[type(op)]]
        case ast.BinOp(left=left, op=op, right=right) if type(op) in _RECKONED:
            return [ast.BinOp(left, _RECKONED[type(op)](), right)]
        case ast.BoolOp(op=op, values=values):
            other = ast.Or() if isinstance(op, ast.And) else ast.And()
            return [ast.BoolOp(other, values), *(_without(node, index) for index in range(len(values)))]
        case ast.UnaryOp(op=ast.Not() | ast.USub(), operand=operand):
            return [operand]
        case ast.Constant(value=bool() as value):
            return [ast.Constant(not value)]
        case ast.Constant(value=int() | float() as value):
            return [ast.Constant(value + 1 if isinstance(value, int) or not value else value * 1.1)]
        case ast.Name(id=name) if name in _NAMES:
            return [ast.Name(_NAMES[name], ast.Load())]
        case ast.IfExp(test=test, body=body, orelse=orelse):
            return [ast.IfExp(test, orelse, body)]
    return []


def _without(node: ast.BoolOp, index: int) -> ast.expr:
    left = [each for at, each in enumerate(node.values) if at != index]
    return left[0] if len(left) == 1 else ast.BoolOp(node.op, left)


@dataclass(frozen=True)
class Mutant:
    """One wrong expression in one function: the wrong one put where `at` is among the expressions of the function."""

    file: str
    function: str
    line: int
    was: str
    now: str
    at: int
    which: int

    def code(self) -> types.CodeType:
        """Return the code of the function with the wrong expression in it."""
        tree = ast.parse((ROOT / self.file).read_text())
        function = dict(functions(tree))[self.function]
        node = list(expressions(function))[self.at]
        wrong = ast.fix_missing_locations(ast.copy_location(wrong_ones(node)[self.which], node))
        _Put(node, wrong).visit(tree)
        found = _code_of(compile(tree, str(ROOT / self.file), "exec"), self.function)
        assert found is not None
        return found


class _Put(ast.NodeTransformer):
    def __init__(self, here: ast.expr, wrong: ast.expr) -> None:
        self.here, self.wrong = here, wrong

    def visit(self, node: ast.AST) -> Any:
        return self.wrong if node is self.here else super().visit(node)


def functions(tree: ast.AST, within: str = "") -> Iterator[tuple[str, ast.FunctionDef]]:
    """Yield functions and methods by their qualified names."""
    for node in ast.iter_child_nodes(tree):
        if isinstance(node, ast.ClassDef):
            yield from functions(node, f"{within}{node.name}.")
        elif isinstance(node, ast.FunctionDef):
            yield within + node.name, node


def expressions(function: ast.FunctionDef) -> Iterator[ast.expr]:
    """Yield the expressions of a function's body; words are not for a figure to be wrong in.

    Nor is `strict=True` of a zip: where both are as long, as they always are, it says nothing.
    """
    nodes = [node for statement in function.body for node in ast.walk(statement)]
    silent = [node.value for node in nodes if isinstance(node, ast.keyword) and node.arg == "strict"]
    for node in nodes:
        words = isinstance(node, ast.JoinedStr | ast.FormattedValue)
        if isinstance(node, ast.expr) and not words and node not in silent:
            yield node


def _code_of(code: types.CodeType, name: str) -> types.CodeType | None:
    for each in code.co_consts:
        if isinstance(each, types.CodeType):
            found = each if each.co_qualname == name else _code_of(each, name)
            if found is not None:
                return found
    return None


def mutants(file: Path, called: dict[str, list[Any]]) -> Iterator[Mutant]:
    """Yield every mutant of a file of which some test calls the function."""
    short = str(file.relative_to(ROOT))
    for name, function in functions(ast.parse(file.read_text())):
        if f"{short}:{name}" in called:
            for at, node in enumerate(expressions(function)):
                for which, wrong in enumerate(wrong_ones(node)):
                    yield Mutant(short, name, node.lineno, ast.unparse(node), ast.unparse(wrong), at, which)


def put_in(mutant: Mutant) -> None:
    """Make the loaded function the mutant."""
    module = importlib.import_module(mutant.file.removesuffix(".py").replace("/", "."))
    found: Any = module
    *classes, last = mutant.function.split(".")
    for each in classes:
        found = getattr(found, each)
    found = found.__dict__[last]
    for inner in ("__func__", "fget", "func", "__wrapped__"):
        found = getattr(found, inner, found)
    found.__code__ = mutant.code()


def lives(mutant: Mutant, tests: list[str]) -> bool:
    """Tell whether a mutant outlives the tests, in a process of its own."""
    child = os.fork()
    if child == 0:
        quiet = os.open(os.devnull, os.O_WRONLY)
        os.dup2(quiet, 1)
        os.dup2(quiet, 2)
        # Of the processor: on a busy machine a mutant is no quicker dead.
        signal.setitimer(signal.ITIMER_PROF, 2 * MOST_S)
        put_in(mutant)
        result = unittest.TestResult()
        result.failfast = True
        suite(tests).run(result)
        os._exit(0 if result.wasSuccessful() else 1)
    _, status = os.waitpid(child, 0)
    return status == 0


def quickest(tests: list[tuple[float, str]]) -> list[str]:
    """Return the tests that fit into the time, the quickest first."""
    took_s, names = 0.0, dict[str, None]()
    for each_s, name in tests:
        took_s += each_s
        if took_s > MOST_S and names:
            break
        names[name] = None
    return list(names)


def make_map(names: list[str]) -> None:
    """Write down which test calls which function of the core, and how long each test takes."""
    seen: set[types.CodeType] = set()

    def note(frame: types.FrameType, _event: str, _argument: object) -> None:
        seen.add(frame.f_code)

    tests = list(cases(suite(names or ["core"])))
    anew = {test.id() for test in tests}
    kept: dict[str, list[tuple[float, str]]] = json.loads(CALLED_BY.read_text()) if names else {}
    called = {key: [(took_s, name) for took_s, name in found if name not in anew] for key, found in kept.items()}
    for test in tests:
        seen.clear()
        began = time.process_time()
        sys.settrace(note)
        unittest.TestSuite([test]).run(unittest.TestResult())
        sys.settrace(None)
        took_s = time.process_time() - began
        for code in seen:
            if code.co_filename.startswith(str(CORE)):
                key = f"{Path(code.co_filename).relative_to(ROOT)}:{code.co_qualname.split('.<locals>')[0]}"
                called.setdefault(key, []).append((round(took_s, 3), test.id()))
    CALLED_BY.write_text(json.dumps({key: sorted(set(found)) for key, found in sorted(called.items())}))


def main() -> int:
    asked = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    asked.add_argument("count")
    asked.add_argument("folders", nargs="*")
    asked.add_argument("--seed", type=int, default=1)
    said = asked.parse_args()
    settings.register_profile("mutants", derandomize=True, database=None)
    settings.load_profile("mutants")
    if said.count == "map":
        make_map(said.folders)
        return 0
    called: dict[str, list[tuple[float, str]]] = json.loads(CALLED_BY.read_text())
    suite(["core"])
    folders = [CORE / each for each in said.folders] or [CORE]
    all_of_them = [
        mutant
        for folder in folders
        for file in (sorted(folder.rglob("*.py")) if folder.is_dir() else [folder])
        for mutant in mutants(file, called)
    ]
    lived = 0
    chosen = random.Random(said.seed).sample(all_of_them, min(int(said.count), len(all_of_them)))  # noqa: S311
    for mutant in chosen:
        if lives(mutant, quickest(called[f"{mutant.file}:{mutant.function}"])):
            lived += 1
            print(f"lives: {mutant.file}:{mutant.line} {mutant.function}: {mutant.was}  ->  {mutant.now}", flush=True)
    print(f"{len(chosen) - lived} of {len(chosen)} were noticed")
    return 0


if __name__ == "__main__":
    sys.exit(main())
