"""What is kept, as pages are handed it by use cases: read, never written, by whoever shows it."""

from june_shade.store.account_tables import LateAsk
from june_shade.store.box_tables import BoxRun
from june_shade.store.care_tables import CareAct
from june_shade.store.crew_tables import Crew
from june_shade.store.drip_tables import DripCatch, DripLayout, DripProof
from june_shade.store.import_tables import Import
from june_shade.store.log_tables import LogEntry, Person
from june_shade.store.looking_tables import OwnAct, ThirstAnswer, TreeCheckup, TreeFit
from june_shade.store.mulch_tables import MulchEntry
from june_shade.store.picture_tables import OCCASIONS, TreePicture
from june_shade.store.routine_tables import RoutineChoice
from june_shade.store.share_tables import Share
from june_shade.store.site_tables import Site, SoilTest
from june_shade.store.tree_tables import Plant, StockSize, Tree, TreeEnd
from june_shade.store.trees import Wanted
from june_shade.store.weather_tables import Station

__all__ = [
    "OCCASIONS",
    "BoxRun",
    "CareAct",
    "Crew",
    "DripCatch",
    "DripLayout",
    "DripProof",
    "Import",
    "LateAsk",
    "LogEntry",
    "MulchEntry",
    "OwnAct",
    "Person",
    "Plant",
    "RoutineChoice",
    "Share",
    "Site",
    "SoilTest",
    "Station",
    "StockSize",
    "ThirstAnswer",
    "Tree",
    "TreeCheckup",
    "TreeEnd",
    "TreeFit",
    "TreePicture",
    "Wanted",
]  # fmt: skip
