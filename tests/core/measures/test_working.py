"""Weights and volumes as the bench says them."""

from firkin.core.measures import (
    amount_words,
    weight_words,
)


def test_weights_and_volumes_change_their_unit_where_four_figures_would() -> None:
    assert [weight_words(g) for g in (999.94, 999.95, 1000.0)] == ["999.9 g", "1 kg", "1 kg"]
    assert [amount_words(mL) for mL in (999.94, 999.95, 1000.0)] == ["999.9 mL", "1 L", "1 L"]
