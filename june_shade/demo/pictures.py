"""Pictures of a made-up tree, drawn: on its planting day, in spring and this week, its leaves thinner as it dries."""

import io
from datetime import timedelta

import numpy as np
from PIL import Image, ImageDraw
from sqlalchemy import select

from june_shade.demo import scenario
from june_shade.demo.names import name_id
from june_shade.plans import pictures
from june_shade.plans.pictures import Folder, NewPicture
from june_shade.store.session import SessionMaker, transaction
from june_shade.store.tree_tables import Tree

TAG = "HL-01"
SIZE = WIDTH, HEIGHT = 1200, 900
GROUND = 690
SKIES = ((205, 222, 235), (188, 212, 232), (232, 222, 200))
LEAVES = ((120, 150, 70), (70, 130, 60), (150, 140, 70))
GRASS = ((150, 160, 100), (110, 150, 80), (190, 175, 120))
MULCH, BARK, STAKE = (110, 80, 55), (95, 75, 60), (170, 140, 100)


def drawn(state: int) -> bytes:
    """A picture of the tree. state: 0 just planted, 1 in full leaf, 2 dry."""
    image = Image.new("RGB", SIZE, SKIES[state])
    draw, rng = ImageDraw.Draw(image), np.random.default_rng(state)
    draw.rectangle((0, GROUND, WIDTH, HEIGHT), fill=GRASS[state])
    draw.ellipse((380, GROUND - 10, 820, GROUND + 120), fill=MULCH)
    for x in (500, 700) if state == 0 else ():
        draw.rectangle((x - 8, 420, x + 8, GROUND + 60), fill=STAKE)
        draw.line((x, 450, 600, 460), fill=MULCH, width=6)
    draw.polygon([(588, GROUND + 50), (612, GROUND + 50), (606, 260), (594, 260)], fill=BARK)
    for reach, rise in ((-150, 120), (140, 100), (-110, 200), (120, 210), (-60, 260), (70, 270)):
        draw.line((600, 520 - rise // 3, 600 + reach, 470 - rise), fill=BARK, width=9)
    for _ in range((90, 420, 190)[state]):
        turn, out = rng.uniform(0, 2 * np.pi), rng.uniform(0, 1) ** 0.5
        x, y, r = 600 + 210 * out * np.cos(turn), 320 + 190 * out * np.sin(turn), rng.uniform(12, 24)
        shade = rng.integers(-18, 18)
        draw.ellipse((x - r, y - r * 0.7, x + r, y + r * 0.7), fill=tuple(int(c + shade) for c in LEAVES[state]))
    out_file = io.BytesIO()
    image.save(out_file, "JPEG", quality=90)
    return out_file.getvalue()


def fill(sessions: SessionMaker, folder: Folder) -> None:
    """Three pictures of one tree."""
    with transaction(sessions) as session:
        tree = session.scalars(select(Tree).where(Tree.tag == TAG)).one()
        days = (
            tree.planted_on,
            max(tree.planted_on, scenario.DAY - timedelta(days=60)),
            scenario.DAY - timedelta(days=2),
        )
        for state, day in enumerate(days):
            at_planting = state == 0
            new = NewPicture(
                name_id("picture", f"{TAG} {state}"), tree.id, "planted" if at_planting else "tree",
                tree.id if at_planting else None, day, name_id("person", scenario.PEOPLE[0]),
            )  # fmt: skip
            pictures.put(session, folder, new, drawn(state))
