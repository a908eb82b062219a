"""A symmetric sparse matrix taken apart as L D Lᵀ, in the order in which its rows stand.

The way of Davis (2005, "Algorithm 849: a concise sparse Cholesky factorization package", ACM
Transactions on Mathematical Software 31; recalled). Where the farthest junctions of a tree of pipes
stand first nothing fills in, and the work is in step with their number.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from euhydra.core.numerics.compiled import compiled, written_in

Array = NDArray[np.float64]
Ints = NDArray[np.int32]


class Elimination:
    """The pattern of a matrix, and what of it fills in: by column, as in a sparse array."""

    def __init__(self, indptr: Ints, indices: Ints) -> None:
        self.indptr, self.indices = indptr.astype(np.int32), indices.astype(np.int32)
        self.parent, filled = branch_out(self.indptr, self.indices)
        self.begins = np.concatenate([[0], np.cumsum(filled)]).astype(np.int32)

    def solve(self, data: Array, right: Array) -> Array:
        """What the matrix with this data turns into the right side.

        Raises RuntimeError where it has no inverse in floating point.
        """
        answer = right.astype(float)
        if take_apart(self.indptr, self.indices, data, self.parent, self.begins, answer) >= 0:
            raise RuntimeError("The matrix has no inverse in floating point.")
        return answer


@compiled
def branch_out(indptr: Ints, indices: Ints) -> tuple[Ints, Ints]:
    """Which row each row's elimination first reaches (-1: none), and how many it reaches."""
    n = len(indptr) - 1
    parent, filled = np.full(n, -1, dtype=np.int32), np.zeros(n, dtype=np.int32)
    seen = np.full(n, -1, dtype=np.int32)
    for row in range(n):
        seen[row] = row
        for at in range(indptr[row], indptr[row + 1]):
            before = indices[at]
            while before < row and seen[before] != row:
                if parent[before] < 0:
                    parent[before] = row
                filled[before] += 1
                seen[before] = row
                before = parent[before]
    return parent, filled


@compiled
def take_apart(indptr: Ints, indices: Ints, data: Array, parent: Ints, begins: Ints,
               right: Array) -> int:
    """Factorise, and put the answer in the place of the right side.

    Gives the row at which it comes to nothing, else -1.
    """
    n = len(right)
    lower, below = np.empty(begins[n]), np.empty(begins[n], dtype=np.int32)
    ends, diagonal = begins[:n].copy(), np.empty(n)
    row_of, seen = np.zeros(n), np.full(n, -1, dtype=np.int32)
    path, reached = np.empty(n, dtype=np.int32), np.empty(n, dtype=np.int32)
    for row in range(n):
        top = _reach(row, indptr, indices, data, parent, row_of, seen, path, reached)
        diagonal[row], row_of[row] = row_of[row], 0.0
        for k in range(top, n):
            column = reached[k]
            value, row_of[column] = row_of[column], 0.0
            for at in range(begins[column], ends[column]):
                row_of[below[at]] -= lower[at] * value
            share = value / diagonal[column]
            diagonal[row] -= share * value
            below[ends[column]], lower[ends[column]] = row, share
            ends[column] += 1
        if not diagonal[row] > 0:
            return row
    _put_back(begins, ends, below, lower, diagonal, right)
    return -1


@written_in
def _reach(row: int, indptr: Ints, indices: Ints, data: Array, parent: Ints, row_of: Array,
           seen: Ints, path: Ints, reached: Ints) -> int:
    """Which columns a row meets, each after those it waits for, from a place of ``reached`` on."""
    top = len(reached)
    seen[row] = row
    for at in range(indptr[row], indptr[row + 1]):
        before = indices[at]
        if before <= row:
            row_of[before] += data[at]
            length = 0
            while seen[before] != row:
                path[length] = before
                seen[before] = row
                length += 1
                before = parent[before]
            while length > 0:
                top, length = top - 1, length - 1
                reached[top] = path[length]
    return top


@written_in
def _put_back(begins: Ints, ends: Ints, below: Ints, lower: Array, diagonal: Array,
              right: Array) -> None:
    n = len(right)
    for column in range(n):
        for at in range(begins[column], ends[column]):
            right[below[at]] -= lower[at] * right[column]
    for column in range(n - 1, -1, -1):
        right[column] /= diagonal[column]
        for at in range(begins[column], ends[column]):
            right[column] -= lower[at] * right[below[at]]
