"""The words of the trade: each explained once, each label by one of them, figures that hold."""

import itertools

import pytest

from firkin.core.catalogue import word_beside, words
from firkin.core.densities import ALCOHOLS
from firkin.core.questions import QUESTIONS


def test_a_label_is_explained_by_one_word() -> None:
    labels = list(itertools.chain.from_iterable(word.beside for word in words().values()))
    assert len(labels) == len(set(labels))
    assert all(word_beside(label) is not None for label in labels)
    assert word_beside("") is None
    assert word_beside("strength on the label") is None, "the label as it stands on the page"


def test_the_labels_of_questions_that_words_name_are_there() -> None:
    """A label that was renamed takes its word along."""
    there = {
        part.label
        for question in QUESTIONS.values()
        for field in question.fields
        for part in (field.fields or (field,))
    }
    forms = {
        "Strength",
        "Good to",
        "Read off to",
        "Measured with",
        "Lot",
        "One load or wash takes",
        "Cut with water, parts",
    }
    for word in words().values():
        assert set(word.beside) <= there | forms, word.id


def test_what_the_words_say_in_figures_holds() -> None:
    """60 % w/w ethanol is 67.7 % v/v (Gay-Lussac table, OIML R 22); half a litre of each makes 965 mL (OIML R 22)."""
    ethanol = ALCOHOLS["ethanol"]
    assert ethanol.volume_fraction(0.60) * 100 == pytest.approx(67.7, abs=0.05)
