"""Write down anew what the application says, for `tests/core/test_said.py`: read the difference before it is kept.

python -m tools.say_again               all of it
python -m tools.say_again house_002     some of it
"""

import sys

from tests.support.remembered import KEPT, REMEMBERED, lines_of


def main(names: list[str]) -> None:
    """Write a file for each of what is remembered."""
    KEPT.mkdir(exist_ok=True)
    for name in names or REMEMBERED:
        text = "".join(f"{line}\n" for line in lines_of(name))
        (KEPT / f"{name}.txt").write_text(text, encoding="utf-8")


if __name__ == "__main__":
    main(sys.argv[1:])
