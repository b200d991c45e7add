"""What a tree's readings say of its thirst, what a person answered to it, and how that goes into the plan."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from typing import Any
from uuid import UUID

import numpy as np

from june_shade.core.errors import ConflictError, InputError, JuneShadeError, NotFoundError
from june_shade.core.looking import learn
from june_shade.core.looking.fading import HALF_YEAR_DAYS
from june_shade.core.looking.learn import Learned
from june_shade.core.looking.season import Season
from june_shade.core.water.felt import Felt
from june_shade.plans import changes, clock, facts, people, register
from june_shade.plans.changes import Changed, What
from june_shade.plans.looking.in_force import ordinal
from june_shade.plans.water.run import Prepared, prepare
from june_shade.store import jobs as queue
from june_shade.store import looking as store
from june_shade.store.facts import FormerWayFacts, TreeFacts
from june_shade.store.looking_tables import ANSWERS, ThirstAnswer, TreeFit
from june_shade.store.session import Session, SessionMaker, reading, transaction
from june_shade.store.site_tables import Site

SEASON_DAYS = HALF_YEAR_DAYS
"""Readings that are older say nothing any more."""
AS_ACCEPTED = 0.05
"""A thirst that differs from the accepted one by no more is that one."""


def work(sessions: SessionMaker, site_id: UUID) -> None:
    """Go through the readings of those trees of a site that were read anew, all at once."""
    with reading(sessions) as session:
        site = register.site(session, site_id)
        today, now = clock.today(session, site.timezone), clock.now(session)
        chosen = store.to_fit(session, site.id, today - timedelta(days=SEASON_DAYS), learn.LEAST_OCCASIONS)
        found = fits(session, site, chosen)
    if chosen:
        with transaction(sessions) as session:
            changes.hold(session, [site_id])
            store.drop_fits(session, set(chosen) - {one.tree_id for one in found})
            store.keep_fits(session, [
                {
                    "tree_id": one.tree_id, "fitted_at": now, "occasions": one.learned.occasions,
                    "first_on": one.first_on, "last_on": one.last_on, "verdict": one.learned.verdict,
                    **_figures(one.learned),
                }
                for one in found
            ])  # fmt: skip
            changes.tell(session, Changed(site_id, What.PAGE))


def _figures(one: Learned) -> dict[str, float | None]:
    demand, delivery = one.demand, one.delivery
    return {
        "demand": demand.value if demand else None, "demand_sd": demand.sd if demand else None,
        "delivery": delivery.value if delivery else None, "delivery_sd": delivery.sd if delivery else None,
    }  # fmt: skip


@dataclass(frozen=True, slots=True)
class Fitted:
    """What a tree's readings say, and when the first and last of them was."""

    tree_id: UUID
    learned: Learned
    first_on: date
    last_on: date


def fits(session: Session, site: Site, tree_ids: Sequence[UUID]) -> list[Fitted]:
    """What the readings of some trees say, those of too few included; without trees on wicked boxes, whose water goes
    by what the wick draws."""
    if not tree_ids:
        return []
    found = season_of(session, site, tree_ids)
    if found is None:
        return []
    season, made, wanted, checked = found
    seen = learn.looks(season)
    said = learn.learn(season, checked)
    dates = made.cut.dates
    return [
        Fitted(made.loaded.trees[i].id, one, dates[seen.first[n]].item(), dates[seen.last[n]].item())
        for n, (i, one) in enumerate(zip(wanted, said, strict=True))
        if one.occasions
    ]


def season_of(
    session: Session, site: Site, tree_ids: Sequence[UUID]
) -> tuple[Season, Prepared, list[int], np.ndarray] | None:
    """The season of some trees by the book with the readings that count, where they stand in the plan, and which of
    their deliveries were checked. None where no plan can be made."""
    try:
        made = prepare(session, site, tree_ids, SEASON_DAYS)
    except JuneShadeError:
        return None
    if made is None:
        return None
    asked = set(tree_ids)
    boxes = made.run.eras[-1].pouring.reservoir_l
    wanted = [
        i for i, row in enumerate(made.loaded.trees) if row.id in asked and (boxes is None or boxes[i] <= 0)
    ]  # fmt: skip
    if not wanted:
        return None
    chosen = np.array(wanted)
    course = made.run.course
    told = store.answers(session, site.id, tree_ids)
    ways = facts.former_ways(session, made.loaded, made.cut.dates[0].item())
    since = np.array([_since(made.loaded.trees[i], told, ways) for i in wanted])
    first = ordinal(made.cut.dates[0].item())
    read = {
        (day, morning): kept
        for (day, morning), felt in course.felt.items()
        if day <= course.today and (kept := _kept(felt, chosen, since <= first + day)) is not None
    }
    past = replace(course, felt={}, thirst=np.ones((len(course), 1)), today=len(course))
    season = Season(made.run.trees, made.run.opening, past, made.run.eras).of_some(chosen)
    checked = np.array([_checked(told.get(made.loaded.trees[i].id, ())) for i in wanted])
    return replace(season, course=replace(season.course, felt=read)), made, wanted, checked


def _since(row: TreeFacts, told: dict[UUID, list[ThirstAnswer]], ways: dict[UUID, list[FormerWayFacts]]) -> int:
    """From which day on a tree's readings count: since it has been watered as it is, since its delivery was mended."""
    days = [row.planted_on, *(way.until for way in ways.get(row.id, ()))]
    days += [one.day for one in told.get(row.id, ()) if one.answer == "delivery_mended"]
    return ordinal(max(days))


def _kept(felt: Felt, chosen: np.ndarray, counts: np.ndarray) -> Felt | None:
    ball, ring = (np.where(counts, of[:, chosen], np.nan) for of in (felt.ball, felt.ring))
    if np.all(np.isnan(ball)) and np.all(np.isnan(ring)):
        return None
    return Felt(ball, ring, felt.sd[:, chosen])


def _checked(said: Sequence[ThirstAnswer]) -> bool:
    """Whether the last that was said of a tree's delivery is that it is good."""
    of_delivery = [one.answer for one in said if one.answer.startswith("delivery_")]
    return bool(of_delivery) and of_delivery[-1] == "delivery_good"


def put(
    session: Session, answer_id: UUID, tree_id: UUID, answer: str, multiplier: float | None, person_id: UUID | None
) -> ThirstAnswer:
    """Keep what a person answered, from today on; sent twice it is one. multiplier: the one that is accepted."""
    tree = register.tree(session, tree_id)
    changes.hold(session, [tree.site_id])
    known = session.get(ThirstAnswer, answer_id)
    if known is not None:
        if (known.tree_id, known.answer, known.multiplier) != (tree_id, answer, multiplier):
            raise ConflictError("something else was answered under this id", "id")
        return known
    if answer not in ANSWERS:
        raise InputError(f"must be one of {', '.join(ANSWERS)}, not {answer!r}", "answer")
    if (answer == "accepted") != (multiplier is not None):
        raise InputError("an acceptance, and only an acceptance, says what is accepted", "multiplier")
    if multiplier is not None and not learn.DEMAND[0] <= multiplier <= learn.DEMAND[1]:
        raise InputError(f"must lie between {learn.DEMAND[0]:g} and {learn.DEMAND[1]:g}", "multiplier")
    person_id = people.did(session, person_id)
    fit = store.fits(session, [tree_id]).get(tree_id)
    row = ThirstAnswer(
        id=answer_id, tree_id=tree_id, answer=answer, day=clock.today(session, tree.site.timezone),
        multiplier=multiplier, occasions=fit.occasions if fit else 0, person_id=person_id,
        recorded_at=clock.now(session),
    )  # fmt: skip
    session.add(row)
    _tell(session, row, tree.site_id)
    return row


def withdraw(session: Session, answer_id: UUID) -> ThirstAnswer:
    """Take an answer back."""
    row = session.get(ThirstAnswer, answer_id)
    if row is None:
        raise NotFoundError("there is no such answer", "answer_id")
    tree = register.tree(session, row.tree_id, ended=True)
    changes.hold(session, [tree.site_id])
    if row.withdrawn_at is None:
        row.withdrawn_at = clock.now(session)
        _tell(session, row, tree.site_id)
    return row


def _tell(session: Session, row: ThirstAnswer, site_id: UUID) -> None:
    if row.answer == "accepted":
        changes.tell(session, Changed(site_id, What.WATER, (row.tree_id,), row.day))
        return
    changes.tell(session, Changed(site_id, What.PAGE))
    if row.answer != "refused":
        fit = session.get(TreeFit, row.tree_id)
        if fit is not None:
            session.delete(fit)
        queue.learn(session, site_id)


def shown(fit: TreeFit) -> dict[str, Any]:
    """What readings say, as pages show it: its thirst with the range that it most likely lies in."""
    low, high = (None, None) if fit.demand is None else learn.likely_range(fit.demand, fit.demand_sd or 0.0)
    own = {name: getattr(fit, name) for name in ("occasions", "first_on", "last_on", "demand", "delivery", "verdict")}
    return own | {"demand_low": low, "demand_high": high}


def state_of(fit: TreeFit | None, said: Sequence[ThirstAnswer]) -> str:
    """What is to be done about what readings say: `none` (too few, or the book holds), `open`, `ask_delivery`,
    `accepted`, `refused` (until one more reading)."""
    accepted = next((one for one in reversed(said) if one.answer == "accepted"), None)
    if fit is None or fit.verdict in ("too_few", "book_holds") or fit.demand is None:
        return "accepted" if accepted else "none"
    near = max(AS_ACCEPTED, fit.demand_sd or 0.0)
    if accepted is not None and abs((accepted.multiplier or 1.0) - fit.demand) <= near:
        return "accepted"
    last = said[-1] if said else None
    if last is not None and last.answer == "refused" and last.occasions >= fit.occasions:
        return "refused"
    return "ask_delivery" if fit.verdict == "ask_delivery" else "open"
