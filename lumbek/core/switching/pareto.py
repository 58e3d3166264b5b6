"""Leaving out what something else is at least as good as in every respect."""

import numpy as np
from numpy.typing import NDArray

_AT_ONCE = 256


def least(vectors: NDArray[np.int16]) -> NDArray[np.intp]:
    """Return the rows (shape (n, m)) that no other row is at most in every column; of equal rows the first.

    Rows are taken by their sums: one that is at most another everywhere has no greater sum.
    """
    order = np.argsort(vectors.sum(axis=1), kind="stable")
    kept: list[int] = []
    held = np.empty((0, vectors.shape[1]), dtype=vectors.dtype)
    for start in range(0, len(order), _AT_ONCE):
        rows = order[start : start + _AT_ONCE]
        block = vectors[rows]
        if len(held):
            beaten = np.zeros(len(rows), dtype=np.bool_)
            for each in held:
                beaten |= (block >= each).all(axis=1)
            rows, block = rows[~beaten], block[~beaten]
        fresh: list[int] = []
        for at in range(len(rows)):
            if not any((block[at] >= block[other]).all() for other in fresh):
                fresh.append(at)
        kept += rows[fresh].tolist()
        held = np.concatenate((held, block[fresh]))
    return np.array(kept, dtype=np.intp)
