"""`./june bench [PART ...]`: measure all, or some of model, looking, choosing, drought, city, site, weather, phones,
pages, kills, growth or start."""

import os
import subprocess
import sys
import tempfile
import time
import urllib.request

from june_shade.launch.bench import choosing, city, drought, files, growth, kills, looking, model, pages, phones
from june_shade.launch.bench.tell import tell
from june_shade.settings import ROOT


def warm_start_seconds() -> float:
    """From `./june demo` to the first page, the second time."""
    with tempfile.TemporaryFile("w+") as said:
        for _ in range(2):
            began = time.perf_counter()
            child = subprocess.Popen(
                [str(ROOT / "june"), "demo"],
                stdout=subprocess.PIPE,
                stderr=said,
                stdin=subprocess.DEVNULL,
                text=True,
                env={**os.environ, "JUNE_PORT": "0"},
            )
            try:
                assert child.stdout is not None
                address = next((line.split()[2] for line in child.stdout if line.startswith("June Shade: http")), "")
                if not address:
                    raise RuntimeError("the demo did not start; is it running already?")
                with urllib.request.urlopen(f"{address}/api/today") as answer:
                    answer.read()
                taken = time.perf_counter() - began
            finally:
                child.terminate()
                child.wait(30)
    return taken


def start() -> None:
    """The second start of the demo."""
    tell("start_warm_seconds", warm_start_seconds(), "s")


PARTS = {
    "model": model.measure,
    "looking": looking.measure,
    "drought": drought.measure,
    "choosing": choosing.measure,
    "city": city.measure,
    "site": files.site,
    "weather": files.weather,
    "phones": phones.measure,
    "pages": pages.measure,
    "kills": kills.measure,
    "growth": growth.measure,
    "start": start,
}


def main() -> int:
    """Measure."""
    for part in sys.argv[1:] or PARTS:
        PARTS[part]()
    return 0


if __name__ == "__main__":
    sys.exit(main())
