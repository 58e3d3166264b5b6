"""`python -m lumbek.cli` is `lumbek`."""

import sys

from lumbek.cli import main

if __name__ == "__main__":
    sys.exit(main())
