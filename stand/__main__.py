"""`./shelf stand`: load and faults for some minutes, and what became of everything that was acknowledged."""

import argparse
import statistics
import sys

from stand.run import Load, Outcome, stand
from stand.service import running


def main(arguments: list[str]) -> int:
    """0 when nothing was lost and nothing overwritten."""
    parser = argparse.ArgumentParser(prog="./shelf stand", description=__doc__)
    parser.add_argument("--minutes", type=float, default=2.0, help="how long (at most 60)")
    parser.add_argument("--editors", type=int, default=4, help="who edit the same design at once (at most 16)")
    parser.add_argument("--heavy", type=int, default=8, help="who ask heavy questions at once (at most 16)")
    parser.add_argument("--dripping", type=int, default=24, help="connections that send a byte now and then (at most 200)")
    parser.add_argument("--kills-each", type=float, default=8.0, help="seconds between two kills, 0 for none")
    parser.add_argument("--seed", type=int, default=1, help="in which order things happen")
    chosen = parser.parse_args(arguments)
    load = Load(
        seconds=60 * min(chosen.minutes, 60),
        editors=min(chosen.editors, 16),
        heavy=min(chosen.heavy, 16),
        dripping=min(chosen.dripping, 200),
        kills_each=chosen.kills_each,
        seed=chosen.seed,
    )
    with running("stand") as service:
        outcome = stand(service, load)
    report(outcome)
    return 1 if outcome.faults else 0


def report(outcome: Outcome) -> None:
    """What happened and what came of it, in figures."""
    for what, how_often in sorted(outcome.counts.happened.items()):
        print(f"{what}: {how_often:,}")
    answered = sorted(outcome.answered_seconds) or [float("nan")]
    slow = answered[int(0.95 * (len(answered) - 1))]
    print(f"small questions answered: {len(outcome.answered_seconds):,}, ", end="")
    print(f"median {statistics.median(answered) * 1000:.0f} ms, ", end="")
    print(f"95 of 100 within {slow * 1000:.0f} ms; without an answer: {outcome.silent:,}")
    print(f"edits in the database: {outcome.in_database:,}")
    for fault in outcome.faults:
        print(f"FAULT {fault}")
    print("nothing acknowledged is missing, nothing was overwritten unseen" if not outcome.faults else "there are faults")


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
