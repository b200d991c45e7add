"""The demo's box at the valves of boulevard and hedge, whose emitters clog; its stand-in runs beside the program."""

from collections.abc import Sequence

from june_shade.demo import scenario
from june_shade.plans.boxes import kept, talk
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


LINES = ("Depot Street valve", "Hedge valve")
"""What hangs on its outlets, from the first on."""


def _lines(session: Session) -> list[Line]:
    found = [session.get(Line, scenario.name_id("line", "RT", name)) for name in LINES]
    return [line for line in found if line is not None and line.closed_on is None]


def told(sessions: SessionMaker) -> Sequence[str]:
    """What the box's stand-in is started with: the flow of its lines, events that were taken in, how clogged it is.

    Empty where there are no such lines, or a person closed the box.
    """
    with reading(sessions) as session:
        on, row = _lines(session), session.get(ValveBox, BOX)
        if not on or (row is not None and row.closed_on is not None):
            return ()
        flows_l_per_h = [lines.plan_line(session, line.id).flow.flow_l_per_h for line in on]
        after = 0 if row is None else store.state(session, BOX).last_seq
    outlets = [word for flow in flows_l_per_h for word in ("--outlet", f"{flow / 60:.4f}")]
    return (*outlets, "--told", str(after), "--clogged", str(CLOGGED))


def fill(sessions: SessionMaker, address: str) -> None:
    """Have the box known at the address of its stand-in, its lines on its outlets where nobody said otherwise."""
    with transaction(sessions) as session:
        on, row = _lines(session), session.get(ValveBox, BOX)
        if row is not None:
            row.address = address
        elif on and all(store.outlet_of(session, line.id) is None for line in on):
            values = {"site_id": SITE, "name": "Depot Street box", "address": address, "hours": [list(EARLY)]}
            kept.put(session, BOX, values, {number: line.id for number, line in enumerate(on, 1)})
        known = session.get(ValveBox, BOX) is not None
    if known:  # before a plan is chosen, which goes by what it runs
        talk.one_box(sessions, BOX)
