"""`bin/demo`: the cluster under var/, the demo's data, and the application, until Ctrl-C."""

import os
import signal
import sys
from pathlib import Path

import uvicorn

from lumbek.api.app import make_app
from lumbek.ops.cluster import Cluster, ClusterError, free_port
from lumbek.services.demo import EMAIL, PASSWORD, load_demo
from lumbek.settings import Settings
from lumbek.store.database import Database
from lumbek.store.migrate import upgrade

# The same address at every start, as long as nothing else has it.
PREFERRED_PORT = 8321
ROOT = Path(__file__).resolve().parents[2]


def main() -> int:
    """Run the demo."""
    # A terminal's hang-up stops the demo as Ctrl-C does, so that PostgreSQL is not left behind.
    signal.signal(signal.SIGHUP, lambda *_: os.kill(os.getpid(), signal.SIGINT))
    cluster = Cluster(ROOT / "var" / "demo")
    try:
        cluster.start()
        upgrade(cluster.url)
        database = Database(cluster.url)
        fresh = load_demo(database)
        database.close()
        port = int(os.environ.get("LUMBEK_PORT", "0")) or free_port(preferred=PREFERRED_PORT)
        settings = Settings(database_url=cluster.url, port=port, demo=True, secure_cookies=False, log_level="WARNING")
        print(f"\n  Lumbek runs at http://127.0.0.1:{port}")
        print(f"  Sign in as {EMAIL} with {PASSWORD}")
        print(f"  {'Demo data loaded' if fresh else 'What was entered before is kept'}; Ctrl-C stops it.\n", flush=True)
        uvicorn.run(make_app(settings), host="127.0.0.1", port=port, log_level="warning")
    except ClusterError as error:
        print(error, file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        pass
    finally:
        cluster.stop()
    return 0


if __name__ == "__main__":
    sys.exit(main())
