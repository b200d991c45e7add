"""What is wanted of each tree within some litres: to grow, to hold or to survive, so that harm is least.

One choice a tree under one limit, solved by HiGHS [HuangfuHall18]; without room for even the least of each, the least.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from scipy.optimize import Bounds, LinearConstraint, milp
from scipy.sparse import csr_array

from june_shade.core.choosing.patterns import TOLERANCE, Array

MOST_HARM = 3.0
"""No terms are proposed that cost a tree more than so many days of growth in a fortnight (calibrated)."""
SECONDS, GAP = 10.0, 1e-4
"""How long the choice may take, and how near its bound is near enough, as a share."""


@dataclass(frozen=True, slots=True)
class Terms:
    """What was chosen: of each tree, by position, array (trees,); litres of all [L]; harm, weighted [days]; whether it
    keeps to the litres that there are."""

    chosen: Array
    litres: float
    harm: float
    fits: bool


def may_be_proposed(harm: Array, dies: Array) -> Array:
    """Which terms may be proposed to each tree: none of which it may die that would not on the first, and none that
    costs it much, array (trees, terms).

    harm: beyond that of the first [days], dies: whether it has days of hardly any uptake, arrays (trees, terms).
    """
    found: Array = (~dies | dies[:, :1]) & (harm <= MOST_HARM)
    found[:, 0] = True
    return found


def together(values: Array, units: Sequence[Array]) -> Array:
    """Sums of trees that are watered together, array (units, terms). values: array (trees, terms)."""
    return np.array([values[on].sum(axis=0) for on in units]).reshape(len(units), values.shape[1])


def within(litres: Array, harm: Array, allowed: Array, most_l: float) -> Terms:
    """The choice that harms least with these litres; of those that harm alike the first for each tree.

    litres [L], harm (weighted) [days], allowed (whether): of each tree on each of its terms, arrays (trees, terms), at
    least one allowed for each; most_l: of all trees together [L].
    """
    trees, terms = litres.shape
    priced = np.where(allowed, litres, np.inf)
    if float(np.sum(np.min(priced, axis=1))) > most_l + TOLERANCE:
        return _told(litres, harm, np.argmin(priced, axis=1), fits=False)
    free = np.argmin(np.where(allowed, harm, np.inf), axis=1)
    if float(litres[np.arange(trees), free].sum()) <= most_l + TOLERANCE:
        return _told(litres, harm, free, fits=True)
    at = np.arange(trees * terms)
    pick = csr_array((np.ones(len(at)), (at // terms, at)), shape=(trees, len(at)))
    takes = csr_array(np.ravel(litres)[None, :])
    found = milp(
        np.ravel(harm), integrality=np.ones(len(at)), bounds=Bounds(0, np.ravel(allowed).astype(float)),
        constraints=[LinearConstraint(pick, 1, 1), LinearConstraint(takes, -np.inf, most_l)],
        options={"time_limit": SECONDS, "mip_rel_gap": GAP},
    )  # fmt: skip
    if found.x is None:
        return _told(litres, harm, np.argmin(priced, axis=1), fits=True)
    return _told(litres, harm, np.argmax(np.reshape(found.x, litres.shape), axis=1), fits=True)


def _told(litres: Array, harm: Array, chosen: Array, *, fits: bool) -> Terms:
    at = np.arange(len(chosen)), chosen
    return Terms(chosen, float(litres[at].sum()), float(harm[at].sum()), fits)
