"""Least squares with damped steps: Levenberg 1944, Marquardt 1963."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
import numpy.typing as npt

Numbers = npt.NDArray[np.float64]

#: Steps taken at most, and how much of each variable's own step no longer counts as one.
ROUNDS, STILL = 16, 0.02


def least_squares(
    residuals: Callable[[Numbers], Numbers], start: Numbers, steps: Numbers
) -> Numbers:
    """The variables with the smallest sum of squares near where they start.

    `steps` are how far each is moved to see what that does, in its own measure.
    """
    values, left = start.copy(), residuals(start)
    loss, damping = float(left @ left), 1e-3
    for _ in range(ROUNDS):
        slopes = np.stack([(residuals(values + step) - left) for step in np.diag(steps)], axis=1)
        square = slopes.T @ slopes
        down = slopes.T @ left
        moved = False
        for _ in range(6):
            damped = square + damping * np.diag(np.diag(square) + 1e-12)
            by = -np.linalg.solve(damped, down) * steps
            tried = residuals(values + by)
            if float(tried @ tried) < loss:
                values, left, loss = values + by, tried, float(tried @ tried)
                damping, moved = damping / 8, True
                break
            damping *= 6
        if not moved or np.all(np.abs(by) < STILL * steps):
            break
    return values
