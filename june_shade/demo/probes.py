"""The demo's probe in the clay, beside a maple of the cemetery; its stand-in runs beside the program."""

from collections.abc import Sequence
from datetime import timedelta

from june_shade.demo import scenario
from june_shade.plans import clock, register, soil_in_force
from june_shade.plans.probes import kept, talk
from june_shade.plans.work import Session, SessionMaker, reading, transaction
from june_shade.standins.soil_probe import FIELD_CAPACITY, WILTING
from june_shade.store import probes as store
from june_shade.store.probe_tables import SoilProbe
from june_shade.store.tree_tables import Tree

PROBE = scenario.name_id("probe", "clay")
TREE = scenario.name_id("tree", "SO", 12)
DEPTHS_M = (0.1, 0.2, 0.3)
BEFORE_HOURS = 9 * 24
DRY = 0.2
"""How full it was where a hand felt it dry, as a share of available water (invented)."""


def told(sessions: SessionMaker) -> Sequence[str]:
    """What the probe's stand-in is started with: its depths, hours that were taken in, those that it has to tell.

    Empty where there is no such tree, or a person closed the probe.
    """
    with reading(sessions) as session:
        row = session.get(SoilProbe, PROBE)
        if not _stands(session) or (row is not None and row.closed_on is not None):
            return ()
        after, hours = 0, BEFORE_HOURS
        if row is not None and (span := store.first_and_last(session, PROBE)):
            after = store.state(session, PROBE).last_seq
            hours = min(hours, int((clock.now(session) - span[1]) / timedelta(hours=1)))
    depths = [word for depth in DEPTHS_M for word in ("--depth", str(depth))]
    return (*depths, "--told", str(after), "--hours", str(hours))


def _stands(session: Session) -> bool:
    tree = session.get(Tree, TREE)
    return tree is not None and tree.ended_on is None


def fill(sessions: SessionMaker, address: str) -> None:
    """Have the probe known at the address of its stand-in, calibrated when it was pushed in."""
    with transaction(sessions) as session:
        row = session.get(SoilProbe, PROBE)
        if row is None:
            _push_in(session, address)
        else:
            row.address = address
    talk.one_probe(sessions, PROBE)  # before a plan is chosen, which goes by what it tells


def _push_in(session: Session, address: str) -> None:
    tree = register.tree(session, TREE)
    values = {"tree_id": TREE, "name": "Lantern Street probe", "address": address, "store": "ring"}
    row = kept.put(session, PROBE, values)
    soil = soil_in_force.in_force(session, tree.site).soil
    pushed_in = (clock.now(session) - timedelta(hours=BEFORE_HOURS)).isoformat()
    reads = {"wet": FIELD_CAPACITY, "felt": WILTING + DRY * (FIELD_CAPACITY - WILTING)}
    full = {"wet": 1.0, "felt": DRY}
    row.points = {
        kind: {
            "at": pushed_in, "read_m3_m3": round(reads[kind], 4), "feel": "dry" if kind == "felt" else None,
            "true_m3_m3": round(soil.wilting_point + full[kind] * soil.awc, 4),
        }
        for kind in reads
    }  # fmt: skip
