"""Numbers as the open formats write them."""


def rounded(value: float) -> float:
    """Seven significant figures: finer than any measure, without the noise of floats.

    >>> rounded(80.00000000000001)
    80.0
    """
    return float(f"{value:.7g}") + 0.0
