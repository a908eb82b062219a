"""Bayes over a few numbers whose likelihood is a run of the garden: tempered importance sampling.

Samples are drawn from the prior, weighed by a part of the likelihood, and drawn anew about those
that weigh most, until all of the likelihood counts (population Monte Carlo, Cappé et al. 2004,
recalled; tempered so that no few samples take all the weight).
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray
from scipy import stats
from scipy.special import logsumexp

Array = NDArray[np.float64]
SAMPLES, MOST_ROUNDS, SEED = 160, 10, 20
ENOUGH_WEIGH = 0.3  # of the samples, that share the weight
FROM_PRIOR, WIDER, TAIL = 0.1, 1.3, 6.0  # of new samples; their spread; degrees of freedom
RIDGE = 1e-4


@dataclass(frozen=True)
class Posterior:
    """Samples (S, N) of N standard normal numbers, with weights (S,) that add up to 1.

    ``part`` of the likelihood counts: not all of it where readings contradict each other so far
    that a few samples would take all the weight.
    """

    samples: Array
    weights: Array
    part: float = 1.0

    def quantiles(self, of: Array, shares: tuple[float, ...]) -> tuple[float, ...]:
        """Weighed quantiles of something told by each sample, (S,)."""
        order = np.argsort(of, kind="stable")
        sums = np.cumsum(self.weights[order]) - self.weights[order] / 2
        return tuple(float(np.interp(q, sums, of[order])) for q in shares)


def posterior(log_likelihood: Callable[[Array], Array], numbers: int) -> Posterior:
    """Of so many numbers, standard normal beforehand; the likelihood takes (S, N) and gives (S,).

    The same for the same likelihood.
    """
    dice = np.random.default_rng(SEED)
    z = dice.standard_normal((SAMPLES, numbers))
    log_q = _log_prior(z)
    part, found = 0.0, Posterior(z, np.full(SAMPLES, 1 / SAMPLES))
    for done in range(MOST_ROUNDS):
        told, prior = log_likelihood(z), _log_prior(z)
        part = _as_much_as_bears(told, prior - log_q, part)
        weights = _weights(part * told + prior - log_q)
        found = Posterior(z, weights)
        if part == 1.0 and _share_the_weight(weights) >= ENOUGH_WEIGH:
            return found
        if done < MOST_ROUNDS - 1:
            z, log_q = _drawn(dice, found)
    return replace(found, part=part)


def _log_prior(z: Array) -> Array:
    return np.asarray(stats.norm.logpdf(z).sum(axis=1))


def _weights(log_w: Array) -> Array:
    return np.asarray(np.exp(log_w - logsumexp(log_w)))


def _share_the_weight(weights: Array) -> float:
    """Effective share of the samples (Kish)."""
    return float(1 / (weights**2).sum() / len(weights))


def _as_much_as_bears(told: Array, other: Array, part: float) -> float:
    """The largest part of the likelihood, no less than before, that enough samples bear."""
    if _share_the_weight(_weights(told + other)) >= ENOUGH_WEIGH:
        return 1.0
    low, high = part, 1.0
    for _ in range(20):
        middle = (low + high) / 2
        enough = _share_the_weight(_weights(middle * told + other)) >= ENOUGH_WEIGH
        low, high = (middle, high) if enough else (low, middle)
    return low


def _drawn(dice: np.random.Generator, found: Posterior) -> tuple[Array, Array]:
    """New samples about those that weigh most, some of the prior among them; their density."""
    n = found.samples.shape[1]
    mean = found.weights @ found.samples
    off = found.samples - mean
    spread = WIDER * (off.T * found.weights) @ off + RIDGE * np.eye(n)
    near = stats.multivariate_t(mean, spread, df=TAIL, seed=dice)
    z = np.asarray(near.rvs(SAMPLES)).reshape(SAMPLES, n)
    prior = dice.random(SAMPLES) < FROM_PRIOR
    z[prior] = dice.standard_normal((int(prior.sum()), n))
    dense = np.logaddexp(np.log(1 - FROM_PRIOR) + near.logpdf(z),
                         np.log(FROM_PRIOR) + _log_prior(z))
    return z, np.asarray(dense).reshape(SAMPLES)
