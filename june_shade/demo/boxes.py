"""The demo's box at the boulevard's valve, whose emitters are clogged in part; its stand-in runs beside the program."""

from collections.abc import Sequence

from june_shade.demo import scenario
from june_shade.plans.boxes import kept
from june_shade.plans.drip import lines
from june_shade.plans.work import Session, SessionMaker, reading, transaction
from june_shade.store import boxes as store
from june_shade.store.box_tables import ValveBox
from june_shade.store.site_tables import Line

BOX = scenario.name_id("box", "depot")
SITE = scenario.name_id("site", "RT")
EARLY = (180.0, 480.0)
CLOGGED = 0.15
"""So much of the flow is lost to emitters that are clogged (invented)."""


def _line(session: Session) -> Line | None:
    found = session.get(Line, scenario.name_id("line", "RT", "Depot Street valve"))
    return found if found is not None and found.closed_on is None else None


def told(sessions: SessionMaker) -> Sequence[str]:
    """What the box's stand-in is started with: the flow of its line, events that were taken in, how clogged it is.

    Empty where there is no such line, or a person closed the box.
    """
    with reading(sessions) as session:
        line, row = _line(session), session.get(ValveBox, BOX)
        if line is None or (row is not None and row.closed_on is not None):
            return ()
        flow_l_per_h = lines.plan_line(session, line.id).flow.flow_l_per_h
        after = 0 if row is None else store.state(session, BOX).last_seq
    return ("--outlet", f"{flow_l_per_h / 60:.4f}", "--told", str(after), "--clogged", str(CLOGGED))


def fill(sessions: SessionMaker, address: str) -> None:
    """Have the box known at the address of its stand-in, its line on the first outlet where nobody said otherwise."""
    with transaction(sessions) as session:
        line, row = _line(session), session.get(ValveBox, BOX)
        if row is not None:
            row.address = address
        elif line is not None and store.outlet_of(session, line.id) is None:
            values = {"site_id": SITE, "name": "Depot Street box", "address": address, "hours": [list(EARLY)]}
            kept.put(session, BOX, values, {1: line.id})
