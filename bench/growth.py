"""A firm of 50 000 jobs beside one of two: how long the list, a search, a job and the audit take.

    python -m bench.growth

Answers of the application itself, without a network: half of 40 within the time that is printed. The ratio is to the
same question in the database of the demo alone.
"""

import time

from lumbek.services import demo
from tests.support.client import make_client, sign_in
from tests.support.filled import filled_database
from tests.support.stack import new_database, stop_stack


def main() -> None:
    small, large = new_database(demo=True), filled_database(demo.FIRM, demo.EMAIL)
    times: list[dict[str, float]] = []
    try:
        for url in (small, large):
            client = sign_in(make_client(url))
            job = next(each["id"] for each in client.get("/api/jobs?search=signal").json())
            took = {}
            for what, path in (
                ("the list", "/api/jobs"),
                ("a search that finds one", "/api/jobs?search=signal"),
                ("a search that finds none", "/api/jobs?search=nowhere"),
                ("a job of eleven circuits", f"/api/jobs/{job}"),
                ("the audit", "/api/audit"),
            ):
                each = []
                for _ in range(40):
                    begun = time.perf_counter()
                    client.get(path).raise_for_status()
                    each.append(time.perf_counter() - begun)
                took[what] = sorted(each)[20]
            times.append(took)
    finally:
        stop_stack()
    alone, grown = times
    for what, took in grown.items():
        print(f"{what}: {took * 1e3:.0f} ms, {took / alone[what]:.1f} of what it takes in a small firm")


if __name__ == "__main__":
    main()
