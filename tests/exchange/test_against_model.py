"""The questions about strength against a second model, on questions drawn at random in every basis, ranges among them."""

import pytest

from checks.model import case
from firkin.core.errors import CannotReckon
from firkin.exchange.questions import answer

#: Drawn before the code was written; the second half was first looked at when it was done (docs/benchmarks.md).
SEEN, UNSEEN = range(60), range(60, 120)


def _given(values: dict[str, object], key: str) -> float:
    name, _, place = key.partition(".")
    found = values[name]
    return float(found[int(place)] if place else found)  # type: ignore[arg-type]


@pytest.mark.parametrize("seed", [*SEEN, *UNSEEN])
def test_an_answer_agrees_with_the_second_model(seed: int) -> None:
    drawn = case(seed)
    if drawn.expected is None:
        with pytest.raises(CannotReckon):
            answer(drawn.question)
        return
    given = answer(drawn.question)
    for key, value in drawn.expected.items():
        assert _given(given, key) == pytest.approx(value, rel=max(drawn.within, 1e-5), abs=1e-3), (key, drawn.question)
