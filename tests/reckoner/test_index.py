"""The reckoner's first page: every question once, found by its words, the last used first."""

import re

import pytest
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext
from django.urls import reverse

from firkin.core.questions import QUESTIONS
from firkin.reckoner.index import MOST_LATELY, cards

PAGE = reverse("reckoner:index")


def sentences(page: str) -> list[str]:
    return re.findall(r'class="ask-sentence">([^<]+)<', page)


def lately(page: str) -> list[str]:
    return re.findall(r'class="ask-short"><a href="[^"]*">([^<]+)<', page)


def test_every_question_is_there_once_and_leads_to_its_page(bench: Client) -> None:
    page = bench.get(PAGE).content.decode()
    there = [card for _, found in cards() for card in found]
    assert {card.ask for card in there} == {"strength", "check", *QUESTIONS}
    assert len(sentences(page)) == len(there)
    for card in there:
        assert card.sentence.endswith("?")
        assert page.count(f'href="{card.address}"') == 1
        assert bench.get(card.address).status_code == 200


def test_every_question_but_the_check_has_its_drawing_with_patterns_of_its_own() -> None:
    drawn = [card for _, found in cards() for card in found if card.ask != "check"]
    assert all("<svg " in card.drawing for card in drawn)
    patterns = [name for card in drawn for name in re.findall(r'id="([^"]+)"', card.drawing)]
    assert len(patterns) == len(set(patterns))


@pytest.mark.parametrize(
    ("words", "found"),
    [
        ("foam", {"foam"}),
        ("FOAMING  bottle", {"foam"}),
        ("alcoholmeter", {"alcoholmeter", "expected-reading"}),
        ("zebra", set()),
        ("foam zebra", set()),  # every word, not any
    ],
)
def test_a_question_is_found_by_all_of_its_words(bench: Client, words: str, found: set[str]) -> None:
    assert {card.ask for _, group in cards(words) for card in group} == found
    page = bench.get(PAGE, {"q": words}).content.decode()
    assert len(sentences(page)) == len(found)
    assert ("No question has these words" in page and 'ask-none" hidden' not in page) is (not found)


def test_what_was_asked_last_stands_first_and_each_once(bench: Client) -> None:
    asked = ["blend", "dilute", "foam", "blend", "pack", "loads"]
    for ask in asked:
        bench.get(reverse("reckoner:question", args=[ask]))
    said = lately(bench.get(PAGE).content.decode())
    assert said == [QUESTIONS[ask].title for ask in ("loads", "pack", "blend", "foam")]
    assert len(said) == MOST_LATELY
    page = bench.get(reverse("reckoner:question", args=["loads"])).content.decode()
    nav = page.split('class="questions"')[1].split("</nav>")[0]
    assert re.findall(r"<a [^>]*>([^<]+)<", nav)[1:] == [QUESTIONS[ask].title for ask in ("pack", "blend", "foam")]


def test_a_live_answer_is_no_question_opened_and_the_same_again_is_not_stored_again(bench: Client) -> None:
    blend, foam = (reverse("reckoner:question", args=[ask]) for ask in ("blend", "foam"))
    bench.get(blend)
    bench.get(foam, headers={"HX-Request": "true"})
    assert bench.session["asked"] == ["blend"]
    with CaptureQueriesContext(connection) as queries:
        bench.get(blend)
    assert not [one for one in queries if one["sql"].startswith(("UPDATE", "INSERT"))]
