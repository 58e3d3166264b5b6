"""One resistance of a network whose resistances lie far apart, to the last digit.

Nodes are taken out one by one by star-mesh transformation (Rosen): a node with conductances g1, g2 ... to its
neighbours leaves gi gj / (g1 + g2 + ...) between each two of them. Nothing is ever subtracted, so megohms beside
milliohms cost no accuracy, whatever the ratio.
"""

import numpy as np
from numpy.typing import NDArray


def ohm_by_elimination(branches: NDArray[np.intp], siemens: NDArray[np.float64], i: int, j: int) -> float:
    """Return the resistance in Ω between nodes i and j; infinite where nothing joins them.

    `branches` are pairs of nodes, shape (branches, 2), `siemens` has shape (branches,).
    """
    if i == j:
        return 0.0
    nodes, places = np.unique(np.concatenate((branches.ravel(), [i, j])), return_inverse=True)
    size = len(nodes)
    pairs = places[:-2].reshape(-1, 2)
    g = np.zeros((size, size))
    np.add.at(g, (pairs[:, 0], pairs[:, 1]), siemens)
    g += g.T
    np.fill_diagonal(g, 0.0)
    kept = [int(places[-2]), int(places[-1])]
    for node in range(size):
        if node in kept:
            continue
        row = g[node].copy()
        total = row.sum()
        if total > 0:
            g += np.outer(row, row / total)
            np.fill_diagonal(g, 0.0)
        g[node, :] = 0.0
        g[:, node] = 0.0
    between = float(g[kept[0], kept[1]])
    return 1.0 / between if between > 0 else float("inf")
