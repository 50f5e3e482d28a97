"""How often a trial of nothing is called a change, and whether its intervals hold, over thousands of sessions."""

import os
import time

from tests.sessions import PAIRS, shares_of

SESSIONS = int(os.environ.get("SESSIONS", "2000"))
#: true effects that are looked for, as shares of a lap
EFFECTS = (0.0, -0.01, -0.02, -0.03)
#: bounds of what is false with no effect, and of what intervals hold
FALSE_MOST = {"flip": 0.10}
FALSE_LEAST = {"borrowed": 0.08, "t4": 0.08}


def run() -> int:
    """Print false verdicts, coverage and power of each path; 1 when one lies outside what is allowed."""
    started, wrong = time.perf_counter(), list[str]()
    print("| path | pairs | false % | covered % | " + " | ".join(f"{100 * e:g} % seen %" for e in EFFECTS[1:]) + " |")
    print("|---|---|---|---|" + "---|" * len(EFFECTS[1:]))
    for path, pairs in PAIRS.items():
        none = shares_of(path, sessions=SESSIONS, seed=2027)
        others = [shares_of(path, sessions=SESSIONS // 4, seed=2028, effect=e) for e in EFFECTS[1:]]
        seen = " | ".join(f"{100 * s.seen:.0f}" for s in others)
        print(f"| {path} | {pairs} | {100 * none.false:.1f} | {100 * none.covered:.1f} | {seen} |", flush=True)
        within = FALSE_LEAST.get(path, 0.0) <= none.false <= FALSE_MOST.get(path, 0.12)
        if not within or not 0.88 <= none.covered <= 0.96:
            wrong.append(path)
    print(f"\n{SESSIONS} sessions a path, {time.perf_counter() - started:.0f} s; outside: {', '.join(wrong) or 'none'}")
    return 1 if wrong else 0
