"""Instruments at the bench, behind small interfaces: simulated stand-ins, each held into a sample of its own, that a
real device can take the place of. Imports core; the site alone decides which instruments stand on a bench.
"""
