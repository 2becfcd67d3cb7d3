"""Absurd input for every place that takes any, for a bounded time: only a sentence may come of it.

Run by ``make fuzz``. Each case follows from the seed, the place and its number alone: a finding can be had again.
"""

from __future__ import annotations

import argparse
import random
import sys
import tempfile
import time
import traceback
import warnings
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from pathlib import Path

from tools.fuzz.files import FILES
from tools.fuzz.forked import read_in_copies
from tools.fuzz.places import PLACES, Place

ALL: dict[str, Place] = {**PLACES, **FILES}
SLOW_S = 5.0
"""A case that takes longer is a finding as well: somebody waits for it."""


@dataclass(frozen=True)
class Finding:
    """What came of a case, where it came from, and how to have it again."""

    place: str
    case: int
    seed: int
    says: str
    trace: str = ""

    @property
    def key(self) -> tuple[str, str]:
        """Those of one cause are told once."""
        return self.place, self.trace.rpartition("File ")[2][:200] or self.says.split(" took ")[0]


def cases(name: str, seed: int, seconds: float, most: int, folder: Path) -> Iterator[Finding | None]:
    """One after the other until the time is over; None for a case of which nothing but a sentence came."""
    ends = time.monotonic() + seconds
    for case in range(most):
        began = time.monotonic()
        if began > ends:
            return
        try:
            ALL[name](random.Random(f"{seed} {name} {case}"), folder)
        except (KeyboardInterrupt, SystemExit):
            raise
        except BaseException as error:  # noqa: BLE001  (that is what is looked for)
            yield Finding(name, case, seed, f"{type(error).__name__}: {str(error)[:300]}", traceback.format_exc())
            continue
        took = time.monotonic() - began
        yield Finding(name, case, seed, f"case took {took:.1f} s") if took > SLOW_S else None


def main(arguments: Sequence[str] | None = None) -> int:
    """1 where something was found."""
    parser = argparse.ArgumentParser(prog="python -m tools.fuzz", description=(__doc__ or "").splitlines()[0])
    parser.add_argument("--for", dest="seconds", type=float, default=600.0, metavar="S", help="in all; default: 600")
    parser.add_argument("--seed", type=int, default=int(time.time()), help="default: the time")
    parser.add_argument("--cases", type=int, default=10**9, metavar="N", help="of each place at most")
    parser.add_argument("places", nargs="*", metavar="PLACE", help=f"default: all of {', '.join(ALL)}")
    options = parser.parse_args(arguments)
    if unknown := set(options.places) - set(ALL):
        parser.error(f"there is no place {', '.join(sorted(unknown))}")
    names = options.places or list(ALL)
    warnings.simplefilter("ignore")
    read_in_copies()
    found: dict[tuple[str, str], Finding] = {}
    with tempfile.TemporaryDirectory(dir="/dev/shm" if Path("/dev/shm").is_dir() else None) as work:
        for name in names:
            count = 0
            for finding in cases(name, options.seed, options.seconds / len(names), options.cases, Path(work)):
                count += 1
                if finding is not None and finding.key not in found:
                    found[finding.key] = finding
                    print(f"† {name}, seed {finding.seed}, case {finding.case}: {finding.says}", file=sys.stderr)
                    print(finding.trace, file=sys.stderr)
            print(f"{name:<24}{count:>9} cases")
    print(f"seed {options.seed}: {len(found) or 'nothing'} found")
    return int(bool(found))


if __name__ == "__main__":
    sys.exit(main())
