"""Whether repairs are the least there are: walls with up to three ends moved, beside trying everything.

    python -m bench.repairs              300 walls, 500 more that are only put right and proved anew
    python -m bench.repairs --count 40   fewer of each

Trying everything is every one and every two moves of ends (so that three are the least where nothing less does), judged
by the quick proof; what is put right, and of the wirings tried some that are drawn, are judged by a second prover that
shares no code with either.
"""

import argparse
import random
import time
from collections import Counter
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass

from lumbek.core.model.circuit import Circuit
from lumbek.core.rulebooks import load_rulebook
from lumbek.core.switching.mend import mend
from lumbek.core.switching.moves import with_ends
from lumbek.core.switching.quick import Layout
from tests.support.lighting import as_found, control, light, lit, second_proof, stair, switch, ways, wired

BOOK = load_rulebook("bs7671")
# Of the wirings tried so many are put to the second prover.
_DRAWN = 12


@dataclass
class Ran:
    """One wall: how many ends were moved, how many moves put it right, how many are the least, and what disagreed."""

    seed: int
    made: int
    moves: int
    exact: bool
    least: int
    disagreed: list[str]
    seconds: float


def walls() -> list[Circuit]:
    """Return the wirings that are damaged."""
    hall = lit("H", [switch("H"), light("Z")], [control("Hall", "Z", "H")], ways("H-Z 3"))
    two = lit(
        "H",
        [switch("H"), light("Y"), light("Z")],
        [control("A", "Y", "H"), control("B", "Z", "H2")],
        ways("H-Y 3", "Y-Z 3"),
    )
    porch = lit("H", [switch("H"), switch("S"), light("Z")], [control("Porch", "Z", "H", "S")], ways("H-S 3", "S-Z 1"))
    return [wired(each) for each in (stair("H", "H T"), stair("H", "H M T"), hall, porch, two)]


def damaged(chance: random.Random, count: int) -> Layout:
    """Return a wall that does not work, `count` of its ends moved."""
    while True:
        layout = Layout(as_found(chance.choice(walls())))
        at = list(layout.at)
        for end in chance.sample(range(len(at)), count):
            at[end] = chance.choice(layout.options(end) or [at[end]])
        if not layout.works(at):
            return Layout(with_ends(layout.circuit, layout, at, {}))


def run(task: tuple[int, bool]) -> Ran:
    """Damage a wall, put it right, and look for less."""
    seed, everything = task
    chance = random.Random(seed)
    made = chance.randint(1, 3)
    layout = damaged(chance, made)
    begun = time.process_time()
    found = mend(BOOK, layout.circuit)
    ran = Ran(seed, made, 99, False, 0, [], time.process_time() - begun)
    if found is None:
        ran.disagreed.append("cannot be put right")
        return ran
    ran.moves, ran.exact = len(found.moves), found.exact
    ran.disagreed += second_proof(found.design)[:1]
    if everything:
        ran.least = least(layout, chance, ran)
    return ran


def least(layout: Layout, chance: random.Random, ran: Ran) -> int:
    """Return the fewest moves that do, by trying every one and every two; 3 where neither does."""
    moves = [(end, join) for end in range(len(layout.ends)) for join in layout.options(end)]
    for end, join in chance.sample(moves, min(_DRAWN, len(moves))):
        at = [*layout.at[:end], join, *layout.at[end + 1 :]]
        # The second prover knows less: it does not ask for the supply of a sensor.
        if layout.works(at) and second_proof(with_ends(layout.circuit, layout, at, {})):
            ran.disagreed.append(f"{layout.ends[end]} into {layout.joins[join]}: said to work")
    at = list(layout.at)
    for end, join in moves:
        at[end] = join
        if layout.works(at):
            return 1
        at[end] = layout.at[end]
    if ran.moves <= 2:
        return 2
    for one, (end, join) in enumerate(moves):
        at[end] = join
        for other, then in moves[one + 1 :]:
            if other == end:
                continue
            at[other] = then
            if layout.works(at):
                return 2
            at[other] = layout.at[other]
        at[end] = layout.at[end]
    return 3


def main() -> None:
    """Run the walls."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--count", type=int, default=300)
    parser.add_argument("--seed", type=int, default=1)
    given = parser.parse_args()
    tasks = [(given.seed * 1_000_000 + at, at < given.count) for at in range(given.count + given.count * 5 // 3)]
    with ProcessPoolExecutor() as pool:
        ran = list(pool.map(run, tasks, chunksize=2))
    tried, rest = ran[: given.count], ran[given.count :]
    print(
        f"seed {given.seed}: ends moved and moves found {dict(sorted(Counter((e.made, e.moves) for e in ran).items()))}"
    )
    print(f"  {sum(each.moves == each.least for each in tried)} of {len(tried)} as few as trying everything")
    print(f"  {sum(each.moves <= each.made for each in rest)} of {len(rest)} others no more than were made")
    print(f"  {sum(each.exact for each in ran)} called exact; longest {max(each.seconds for each in ran):.1f} s")
    for each in ran:
        if each.disagreed or each.moves > each.made or (each.least and each.moves != each.least):
            print("   ", each)


if __name__ == "__main__":
    main()
