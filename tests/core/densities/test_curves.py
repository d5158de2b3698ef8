"""The curve between tabulated points: parabolas and cubics are hit exactly (de Boor, A Practical Guide to Splines)."""

from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.densities.curves import PiecewiseCubic

coefficients = st.lists(st.integers(-9, 9).map(float), min_size=4, max_size=4)
steps = st.lists(st.sampled_from([0.25, 0.5, 1.0, 2.0, 3.5]), min_size=2, max_size=7)


def grid(start: float, widths: list[float]) -> list[float]:
    points = [start]
    for width in widths:
        points.append(points[-1] + width)
    return points


def between(x: list[float]) -> list[float]:
    """Places on, between and beyond the points."""
    return [x[0] - 0.7, *x, *((a + 2 * b) / 3 for a, b in pairwise(x)), x[-1] + 0.7]


@given(coefficients, st.floats(-3, 3), steps)
def test_a_parabola_through_unequal_points_is_hit_everywhere(c: list[float], start: float, widths: list[float]) -> None:
    x = grid(start, widths)
    curve = PiecewiseCubic(x, [c[0] + c[1] * at + c[2] * at * at for at in x])
    for at in between(x):
        assert curve(at) == pytest.approx(c[0] + c[1] * at + c[2] * at * at, rel=1e-7, abs=1e-7)


@given(coefficients, st.floats(-3, 3), steps)
def test_a_cubic_with_its_slopes_given_is_hit_everywhere(c: list[float], start: float, widths: list[float]) -> None:
    x = grid(start, widths)

    def value(at: float) -> float:
        return c[0] + at * (c[1] + at * (c[2] + at * c[3]))

    curve = PiecewiseCubic(x, [value(at) for at in x], [c[1] + at * (2 * c[2] + 3 * at * c[3]) for at in x])
    for at in between(x):
        assert curve(at) == pytest.approx(value(at), rel=1e-7, abs=1e-6)


@given(st.floats(-3, 3), st.floats(0.1, 5), coefficients)
def test_two_points_are_joined_by_a_straight_line(start: float, width: float, c: list[float]) -> None:
    curve = PiecewiseCubic([start, start + width], [c[0], c[1]])
    assert curve(start + width / 4) == pytest.approx(c[0] + (c[1] - c[0]) / 4, abs=1e-9)
