"""What a layout takes: counted off its drawing, never typed; and what is new where a layout grows."""

import math
from collections import Counter, defaultdict
from collections.abc import Iterable
from dataclasses import dataclass

from june_shade.core.drip.choice import LayoutChoice
from june_shade.core.drip.drawing import Drawing, flows_of

SPARE = 1.10
"""Tube is bought ten percent over (common practice)."""
ITEMS = (
    "valve", "filter", "regulator", "tube", "inline_tube", "emitter", "tee", "coupler", "closure", "plug", "pin",
)  # fmt: skip
ON_INLINE = frozenset({"ring", "inner", "arm", "line"})


@dataclass(frozen=True, slots=True)
class Part:
    """So much of one thing. size: bore of a tube or fitting [mm], flow of an emitter [L/h], 0 = none. length_m of tube,
    spare included; count of all else. spacing_m: of emitters built into a tube. compensating: of emitters."""

    item: str
    size: float = 0.0
    count: int = 0
    length_m: float = 0.0
    spacing_m: float = 0.0
    compensating: bool = False


def parts_of(drawing: Drawing, choice: LayoutChoice) -> tuple[Part, ...]:
    """The parts of one tree's layout, in the order of ITEMS."""
    found = []
    tubes: dict[tuple[str, float], float] = defaultdict(float)
    for run in drawing.runs:
        inline = choice.inline and run.kind in ON_INLINE
        tubes["inline_tube" if inline else "tube", run.bore_mm] += run.length_m
    for (item, bore), length in tubes.items():
        built_in = item == "inline_tube"
        found.append(Part(
            item, bore, length_m=SPARE * length, spacing_m=choice.spacing_m if built_in else 0.0,
            compensating=built_in and choice.compensating,
        ))  # fmt: skip
    if not choice.inline:
        for flow, count in Counter(flows_of(drawing, choice).tolist()).items():
            found.append(Part("emitter", flow, count, compensating=choice.compensating))
    counts = Counter(fitting.kind for fitting in drawing.fittings)
    found += [Part(item, count=counts[item]) for item in ("tee", "coupler", "closure") if counts[item]]
    plugs = sum(node.kind == "plug" for node in drawing.nodes)
    found += [Part("plug", count=plugs)] if plugs else []
    found.append(Part("pin", count=len(drawing.pins())))
    return in_order(found)


def in_order(parts: Iterable[Part]) -> tuple[Part, ...]:
    """Parts in the order that they are listed, wide tubes first."""
    return tuple(sorted(parts, key=lambda p: (ITEMS.index(p.item), -p.size, p.spacing_m)))


Key = tuple[str, float, float, bool]


def _key(part: Part) -> Key:
    return part.item, part.size, part.spacing_m, part.compensating


def together(lists: Iterable[Iterable[Part]]) -> tuple[Part, ...]:
    """The parts of many layouts in one list."""
    return _summed([(1, part) for parts in lists for part in parts])


def difference(new: Iterable[Part], old: Iterable[Part]) -> tuple[Part, ...]:
    """What must be brought to make the old into the new; what is left over is not told."""
    return _summed([(1, part) for part in new] + [(-1, part) for part in old])


def _summed(signed: list[tuple[int, Part]]) -> tuple[Part, ...]:
    counts: Counter[Key] = Counter()
    lengths: dict[Key, float] = defaultdict(float)
    for sign, part in signed:
        counts[_key(part)] += sign * part.count
        lengths[_key(part)] += sign * part.length_m
    return in_order(
        Part(item, size, max(0, counts[key]), max(0.0, lengths[key]), spacing, compensating)
        for key in counts
        for item, size, spacing, compensating in [key]
        if counts[key] > 0 or lengths[key] > 1e-6
    )


def of_lateral(length_m: float, bore_mm: float, tees: int) -> tuple[Part, ...]:
    """What a lateral takes beside its trees: valve, filter, regulator, its tube, a tee a tree, a closure, pins."""
    pins = math.ceil(length_m - 1e-9)
    found = [
        Part("valve", count=1), Part("filter", count=1), Part("regulator", count=1),
        Part("tube", bore_mm, length_m=SPARE * length_m), Part("closure", count=1), Part("pin", count=pins),
    ]  # fmt: skip
    return in_order(found + ([Part("tee", count=tees)] if tees else []))
