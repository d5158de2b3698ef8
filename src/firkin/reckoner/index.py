"""The reckoner's first page: every question as a sentence, with its drawing in small, the last used first."""

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cache

from django.http import HttpRequest, QueryDict
from django.urls import reverse

from firkin.core.questions import QUESTIONS, Question
from firkin.drawings.pictures import drawn_picture
from firkin.drawings.sheet import vessel_of
from firkin.reckoner.forms import EXAMPLE, StrengthQuestion
from firkin.reckoner.question_form import QuestionForm
from firkin.shelf.on_hand import Shelf

#: So many questions stand first because they were asked last.
MOST_LATELY = 4
_SESSION = "asked"


@dataclass(frozen=True, slots=True)
class Card:
    """A question on the first page: its address, its sentence, what else it can be found by, its drawing or an icon."""

    ask: str
    address: str
    sentence: str
    lead: str
    group: str
    drawing: str = ""
    icon: str = "scales"

    @property
    def words(self) -> str:
        """What it can be found by, in small letters."""
        return f"{self.sentence} {self.lead} {self.ask} {self.group}".lower().replace("-", " ")

    def has(self, words: str) -> bool:
        """True where it has every one of the words that were typed."""
        return all(word in self.words for word in words.lower().split())


def cards(words: str = "") -> list[tuple[str, list[Card]]]:
    """The questions by their groups; those that have all the words, where some were typed."""
    groups: dict[str, list[Card]] = {}
    for card in _cards():
        if card.has(words):
            groups.setdefault(card.group, []).append(card)
    return list(groups.items())


@cache
def _cards() -> tuple[Card, ...]:
    """Every question with the drawing of its opening example, which is the same for everybody."""
    first = next(iter(QUESTIONS.values())).group
    result = StrengthQuestion(EXAMPLE).result
    strong = Card(
        "strength",
        reverse("reckoner:strength"),
        "How strong does it come out?",
        "List what goes in, as on the labels: how strong it comes out, really, and whether it holds the rule.",
        first,
        _own(vessel_of(result), "strength") if result is not None else "",
    )
    check = Card(
        "check",
        reverse("formulas:check"),
        "Is the recipe I heard all right?",
        "Paste a recipe as somebody wrote or told it.",
        first,
        icon="list-checks",
    )
    return (strong, check, *(_card(one) for one in QUESTIONS.values()))


def _card(question: Question) -> Card:
    answer = QuestionForm(question, QueryDict(), Shelf()).try_answer()
    picture = None if answer is None else answer.picture or answer.beside
    picture_of = drawn_picture(picture)
    address = reverse("reckoner:question", args=[question.ask])
    return Card(question.ask, address, question.title, question.lead, question.group, _own(picture_of, question.ask))


def _own(drawing: str, ask: str) -> str:
    """A drawing in small, cut at the right where its words stand. Hidden, it lends no pattern to the others."""
    return drawing.replace("weave-", f"{ask}-weave-").replace("<svg ", '<svg preserveAspectRatio="xMinYMid slice" ', 1)


def lately(request: HttpRequest) -> list[Card]:
    """The questions asked last in this session, the last of them first."""
    by_ask = {card.ask: card for card in _cards()}
    asked: Iterable[str] = request.session.get(_SESSION, [])
    return [by_ask[ask] for ask in asked if ask in by_ask]


def remember(request: HttpRequest, ask: str) -> None:
    """A question was opened: it stands first the next time. The same one again writes nothing."""
    asked: list[str] = request.session.get(_SESSION, [])
    if asked[:1] != [ask]:
        request.session[_SESSION] = [ask, *(one for one in asked if one != ask)][:MOST_LATELY]
