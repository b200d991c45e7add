"""What a catch test found takes the place of what was reckoned."""

from collections.abc import Mapping
from typing import Any

import numpy as np

from june_shade.core.drip import catch
from june_shade.core.drip.catch import Catch
from june_shade.core.drip.choice import as_kept
from june_shade.core.drip.edits import sold_as
from june_shade.core.drip.verdict import Fed
from june_shade.store.drip_tables import DripCatch, DripLayout


def said(row: DripCatch, choice: Mapping[str, Any]) -> Catch:
    """What a test says. choice: the measures of the layout that it is of, as they are stored."""
    return catch.caught(row.minutes, row.caught_ml, np.array(sold_as(as_kept(choice), len(row.caught_ml))))


def as_measured(fed: Fed, layout: DripLayout | None, row: DripCatch | None) -> Fed:
    """A tree as its last test found it; as it was reckoned where there is none, or other emitters are drawn now."""
    if layout is None or row is None or len(row.caught_ml) != len(fed.emitter_l_per_h):
        return fed
    return catch.measured(fed, said(row, layout.choice))
