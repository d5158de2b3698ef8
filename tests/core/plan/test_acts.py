"""What becomes of a plan when a line goes, stands twice, or goes in in more additions."""

from hypothesis import given
from hypothesis import strategies as st

from firkin.core.plan import Act, handed_on, in_additions, without_line

LINES = 4
pours = st.lists(
    st.builds(
        lambda lines, start: Act("pour", "Add it.", tuple(lines), at=(start, start + 5)),
        st.lists(st.integers(0, LINES - 1), min_size=1, max_size=3, unique=True),
        st.integers(0, 200),
    ),
    max_size=6,
)


@given(pours, st.permutations(range(LINES)), st.lists(st.integers(0, 200), max_size=2))
def test_a_line_told_twice_goes_in_by_the_one_that_stays_and_no_other_line_moves(
    acts: list[Act], order: list[int], starts: list[int]
) -> None:
    gone, to = order[:2]
    handed = handed_on(acts, gone, to, [(start, start + 8) for start in starts])
    left = without_line(handed, gone)
    others = [line for act in acts for line in act.lines if line not in (gone, to)]
    kept = [line for act in handed for line in act.lines if line not in (gone, to)]
    assert kept == others
    assert all(line < LINES - 1 for act in left for line in act.lines)
    there = {line for act in acts for line in act.lines}
    if to in there:
        assert to in {line for act in handed for line in act.lines}, "what stays still goes in"


def test_done_with_the_first_and_told_again_behind_it_the_second_goes_in_where_the_first_did() -> None:
    """Twenty-four grams in the list, stirred in first, put right to thirty at the end: thirty are stirred in first."""
    told = [
        Act("pour", "Add the glycerine.", (0,), at=(60, 69)),
        Act("pour", "Add the water.", (1,), at=(80, 85)),
        Act("pour", "Add the glycerine.", (2,), at=(120, 129)),
    ]
    tellings = [(0, 20), (110, 130)]
    assert [act.lines for act in without_line(handed_on(told, 0, 2, tellings), 0)] == [(1,), (0,)]
    listed = [Act("pour", "Add the glycerine.", (0,), at=(5, 14)), *told[1:]]
    assert handed_on(listed, 0, 2, tellings) == tuple(listed), "nothing was done with the first: the second stays"


def test_additions_are_said_as_many_as_they_are() -> None:
    act = Act("pour", "Add the ethanol, a little at a time, until it clears.", (0,), portions=0)
    for many, said in ((2, ", in 2 additions"), (24, ", in 24 additions"), (1, "")):
        act = in_additions(act, many)
        assert (act.text, act.portions) == (f"Add the ethanol{said}, until it clears.", many)
