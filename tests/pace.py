"""How fast this machine is beside the one that promises of time are made for: a slow machine is no slow program."""

import time

#: What the loop took, in seconds of the processor, on the machine of docs/benchmarks.md.
_USUAL_S = 0.11


def slower() -> float:
    """How many times slower this machine is just now, at least 1."""
    begun = time.process_time()
    total = 0
    for one in range(2_000_000):
        total += one
    return max(1.0, (time.process_time() - begun) / _USUAL_S)
