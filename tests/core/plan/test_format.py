"""Acts written as rows of "firkin-recipe/1" and read again are the same acts."""

import json

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.errors import CannotReckon
from firkin.core.plan import Act, acts_from_list, acts_to_list, with_every_line

LINES = 3
words = st.sampled_from(["", "slowly", "it is clear", "the jug", "Gloves.", "quarantine"])
hours = st.sampled_from([None, 0.25, 1.0, 12.0, 72.0])
acts = st.lists(
    st.builds(
        Act,
        st.sampled_from(["pour", "top", "rest", "mix", "heat", "read", "other"]),
        st.sampled_from(["Add it.", "Leave it."]),
        st.lists(st.integers(0, LINES - 1), max_size=2, unique=True).map(tuple),
        portions=st.sampled_from([0, 1, 2, 10]),
        how=words, until=words, caution=words, vessel=words, word=words,
        wait_h=hours, timer_h=hours, every_h=hours, for_h=hours,
        temperature=st.sampled_from([None, 40.0, 62.5]),
        at=st.tuples(st.integers(0, 9), st.integers(9, 99)),
    ),
    max_size=4,
)  # fmt: skip


@given(acts)
def test_out_and_in_an_act_is_what_it_was(told: list[Act]) -> None:
    assert acts_from_list(json.loads(json.dumps(acts_to_list(told))), LINES) == tuple(told)


@pytest.mark.parametrize("row", [{"do": "sing", "text": "La."}, {"do": "pour", "text": "Add it.", "lines": [LINES]}])
def test_what_is_no_act_of_it_is_refused(row: dict) -> None:
    with pytest.raises(CannotReckon):
        acts_from_list([row], LINES)


def test_a_line_that_is_put_in_is_added_by_its_name_behind_what_pours() -> None:
    told = [Act("pour", "Add it.", (0,)), Act("rest", "Leave it.", wait_h=1.0)]
    assert [(act.text, act.lines) for act in with_every_line(told, ["water", "salt", "dye"])] == [
        ("Add it.", (0,)), ("Add the salt.", (1,)), ("Add the dye.", (2,)), ("Leave it.", ()),
    ]  # fmt: skip
