"""How a measurement is told."""


def tell(name: str, value: float, unit: str) -> None:
    """One line, three figures that mean something."""
    print(f"{name} {float(f'{value:.3g}'):g} {unit}", flush=True)
