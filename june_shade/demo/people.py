"""People of the demo: two firms of a made-up town, four with roles, and their passwords for all to see."""

from typing import Any
from uuid import UUID, uuid5

from june_shade.demo import scenario
from june_shade.plans.accounts import people
from june_shade.plans.accounts.roles import LEAD, OWNER, TECHNICIAN
from june_shade.store import accounts
from june_shade.store.organisation_tables import FIRST_ORGANISATION
from june_shade.store.session import SessionMaker, transaction

FIRM, OTHER_FIRM = "Ochre Falls Tree Crew", "Nightjar Landscape"
PIN = "2580"
PEOPLE: tuple[dict[str, Any], ...] = (
    {
        "name": "Odile", "role": OWNER, "organisation": FIRM, "sign_in": "odile",
        "password": "three oaks by the canal",
    },
    {"name": "Noor", "role": LEAD, "organisation": FIRM, "sign_in": "noor", "password": "a bucket under the linden"},
    {
        "name": "Tavi", "role": TECHNICIAN, "organisation": FIRM, "sign_in": "tavi",
        "password": "hose reel and a hat",
    },
    {
        "name": "Tove", "role": OWNER, "organisation": OTHER_FIRM, "sign_in": "tove",
        "password": "gravel road to nowhere",
    },
)  # fmt: skip


def signs_in_as(role: str) -> dict[str, str]:
    """What the first of them with a role signs in with, as the API takes it."""
    found = next(one for one in PEOPLE if one["role"] == role)
    return {name: found[name] for name in ("sign_in", "password")}


NAMES = UUID("0d3c1f0a-5d0e-4a52-9f3c-7c1c7e3d2b10")


def fill(sessions: SessionMaker, *, with_trees: bool = False) -> None:
    """Give the demo its people, where it has none. with_trees: the other firm has some too."""
    with transaction(sessions.of_all()) as session:
        if accounts.are_there(session):
            return
    owner, *others = (one for one in PEOPLE if one["organisation"] == FIRM)
    people.found(sessions, FIRM, owner["name"], owner["sign_in"], owner["password"], FIRST_ORGANISATION)
    with transaction(sessions) as session:
        for one in others:
            people.make(session, uuid5(NAMES, one["sign_in"]), one, one["password"], PIN)
    stranger = next(one for one in PEOPLE if one["organisation"] == OTHER_FIRM)
    other = people.new_organisation(sessions, OTHER_FIRM)
    people.found(sessions, OTHER_FIRM, stranger["name"], stranger["sign_in"], stranger["password"], other)
    if with_trees:
        scenario.fill_other(sessions.of(other))
