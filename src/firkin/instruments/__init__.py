"""Instruments at the bench, behind small interfaces: simulated stand-ins that a real device can take the place of."""
