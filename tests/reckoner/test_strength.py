"""The strength question as a page."""

from urllib.parse import urlencode

import pytest
from django.test import Client

PAGE = "/reckon/strength/"


def ask(*lines: tuple[str, str, str], **about: object) -> str:
    rows = [
        pair
        for what, strength, much in lines
        for pair in (("material", what), ("strength", strength), ("amount", much))
    ]
    rest = [
        (key, value) for key, values in about.items() for value in (values if isinstance(values, list) else [values])
    ]
    return f"{PAGE}?{urlencode([*rows, *rest])}"


def text_of(answer) -> str:
    return answer.content.decode()


def test_the_whole_question_stands_in_the_address(bench: Client) -> None:
    address = ask(("isopropanol", "70 %", "3 parts"), ("aloe gel", "", "1 part"), rule=["cdc-alcohol-60"])
    page = text_of(bench.get(address))
    assert "52.5" in page
    assert "53.08" in page
    assert "short" in page
    assert 'value="3 parts"' in page


def test_a_live_answer_is_the_answer_and_the_errors_only(bench: Client) -> None:
    address = ask(("ethanol", "95 %", "2 parts"), ("water", "", "1 part"))
    part = text_of(bench.get(address, headers={"HX-Request": "true"}))
    assert "<html" not in part
    assert "63.3" in part
    assert 'id="errors_0" hx-swap-oob="true"' in part


BAD_LINES = [
    (("ethanol", "110 %", "2 parts"), "a strength cannot be above 100 %"),
    (("ethanol", "96", "2 parts"), "differ by half"),
    (("ethanol", "96 %", "-2 parts"), "more than 0"),
    (("ethanol", "96 %", ""), "Say how much"),
    (("ethanol", "96 %", "5 zorkmids"), "is not a unit"),
    (("", "96 %", "5 mL"), "Say what goes in"),
    (("ethanol", "90 % w/v", "5 mL"), "more than pure"),
]


@pytest.mark.parametrize(("line", "says"), BAD_LINES)
def test_a_bad_line_gets_a_sentence_and_keeps_what_was_typed(bench: Client, line, says: str) -> None:
    page = text_of(bench.get(ask(line)))
    assert says in page
    for value in filter(None, line):
        assert f'value="{value}"' in page


BAD_SIZES = [
    ({"make": ""}, ("water", "", "q.s."), "say how much to make"),
    ({"make": "500 mL"}, ("water", "", "q.s."), "already come to"),
    ({"make": "2 parts"}, ("water", "", "1 L"), "not a volume or a weight"),
    ({"temperature": "90"}, ("water", "", "1 L"), "outside -20 to 40"),
    ({"rule": ["grandmother"]}, ("water", "", "1 L"), "cannot be read yet"),
]


@pytest.mark.parametrize(("about", "second", "says"), BAD_SIZES)
def test_a_bad_size_gets_a_sentence_where_it_belongs(bench: Client, about, second, says: str) -> None:
    assert says in text_of(bench.get(ask(("ethanol", "96 %", "600 mL"), second, **about)))


def test_an_unknown_material_is_counted_as_inert_and_says_so(bench: Client) -> None:
    page = text_of(bench.get(ask(("ethanol", "96 %", "600 mL"), ("<b>pond</b> water", "", "100 mL"))))
    assert "counted as an inert" in page
    assert "<b>pond" not in page


def test_another_line_adds_a_row_and_loses_nothing(bench: Client) -> None:
    before = text_of(bench.get(ask(("ethanol", "96 %", "1 L"))))
    after = text_of(bench.get(ask(*[("ethanol", "96 %", "1 L")] * 4, more="1")))
    assert before.count('name="material"') == 4
    assert after.count('name="material"') == 5


def test_too_many_lines_answer_with_the_most_a_page_holds(bench: Client) -> None:
    answer = bench.get(ask(*[("water", "", "1 mL")] * 600))
    assert answer.status_code == 200
    assert text_of(answer).count('name="material"') == 60


def test_an_address_beyond_all_measure_is_refused_kindly(bench: Client) -> None:
    answer = bench.get(ask(*[("water", "", "1 mL")] * 1000))
    assert answer.status_code == 400
    assert "could not be read" in text_of(answer)


@pytest.mark.parametrize("query", ["material", "material=&amount=", "material=%00&amount=%00", "make=1&more=1"])
def test_no_address_breaks_the_page(bench: Client, query: str) -> None:
    assert bench.get(f"{PAGE}?{query}").status_code == 200


def test_a_live_answer_has_errors_of_the_rows_that_were_sent_and_of_no_other(bench: Client) -> None:
    """The page a row is sent from has no place for the errors of an empty row that only the answer has."""
    live = {"HX-Request": "true", "HX-Target": "answer"}
    part = text_of(bench.get(ask(("ethanol", "95 %", "2 parts"), ("water", "", "1 part")), headers=live))
    assert [f'id="errors_{row}"' in part for row in range(4)] == [True, True, False, False]
    sent = {"powders_1_material": "borax", "powders_1_parts": "1", "jar": "1 L"}
    part = text_of(bench.get("/reckon/powder/", sent, headers=live))
    assert 'id="errors_powders_1_material"' in part
    assert 'id="errors_powders_2_material"' not in part
