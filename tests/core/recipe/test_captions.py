"""A transcript is read as what was said: times, numbers, sounds and speakers say nothing."""

import pytest

from firkin.core.recipe import read_recipe
from firkin.core.recipe.captions import NOTHING, as_spoken

SAID = "so you take two cups of the ninety one percent isopropyl and one cup of aloe and shake it well"
#: Common practice, no source: how machines write it down.
WRITTEN = [
    "0:00\nso you take two cups of\n0:03\nthe ninety one percent isopropyl and\n0:06\none cup of aloe and shake it well",
    "0:00 so you take two cups of\n0:03 the ninety one percent isopropyl and\n0:06 one cup of aloe and shake it well",
    "[00:00:01] so you take two cups of the ninety one percent isopropyl\n[00:00:09] and one cup of aloe and shake it well",
    "[00:59:58] so you take two cups of the ninety one percent isopropyl\n[01:00:02] and one cup of aloe and shake it well",
    "1\n00:00:00,000 --> 00:00:03,900\nso you take two cups of the ninety\n\n2\n00:00:03,900 --> 00:00:08,000\none percent isopropyl and one cup of aloe and shake it well\n",
    "WEBVTT\n\n00:00.000 --> 00:03.900\nso you take two cups of the ninety\n\n00:03.900 --> 00:08.000\none percent isopropyl and one cup of aloe and shake it well",
    "Speaker 1: so you take two cups of the ninety one percent isopropyl and one cup of aloe and shake it well",
    "0:00\n[Music]\n0:04\nso you take two cups of the ninety one\n0:09\npercent isopropyl and one cup of aloe\n0:12\nand shake it well",
    "4:41\nso you take two cups of\n4:44\nthe ninety one percent isopropyl and\n4:47\none cup of aloe and shake it well",
    "4:41 so you take\n4:42 two cups of the\n4:44 ninety one percent\n4:46 isopropyl and one\n4:47 cup of aloe and\n4:48 shake it well",
]  # fmt: skip
#: What begins with figures like those, and is none: a log, a ratio, a list, a time of day.
LEFT = [
    "09:15 water 600 g\n09:20 caustic soda 55 g\n09:40 LABSA 420 g\n10:00 salt 20 g",
    "1:4 castile to water\nshake",
    "3:1\n2:1\n1:1",
    "10:30 mix it\n11:00 bottle it",
    "0:30 stir it\n0:10 rest it\n0:20 stir it again",  # times that go back are no transcript
    "Water 1 L.\nNote: boiled.\nSalt 5 g.\nNote: coarse.\nSoap 50 g.\nNote: grated.\nStir.\nWait.\nFill.",
    "0:00 water 600 g\n0:05 caustic soda 55 g\n0:40 LABSA 420 g",
    "1:10 bleach for floors\n1:20 for the bench\n1:50 for the drain",
    "Bleach and water\n1:10 floors\n1:50 bench\n1:99 spray",
    "Water: 500 g\nSalt: 5 g\nSoap: 50 g",
    "1:10 bleach to water for floors\n1:50 for the bench\n1:5 for the drain\nrinse",
]


@pytest.mark.parametrize("written", WRITTEN)
def test_a_transcript_is_what_was_said(written: str) -> None:
    """As it was spoken, and each place where it was."""
    spoken = as_spoken(written)
    assert len(spoken) == len(written)
    assert " ".join(spoken.replace(NOTHING, "").split()) == SAID
    read, whole = read_recipe(written), read_recipe(SAID)
    assert [line.words() for line in read.lines] == [line.words() for line in whole.lines]
    assert [(act.do, act.lines) for act in read.plan] == [(act.do, act.lines) for act in whole.plan]
    for line in read.lines:
        assert line.said.split()[-1] in written[slice(*line.at)]


@pytest.mark.parametrize("text", LEFT)
def test_a_log_a_ratio_and_a_list_are_left(text: str) -> None:
    """Their figures say something."""
    assert as_spoken(text) == text


def test_the_names_of_those_who_speak_say_nothing() -> None:
    """Where each stands again and again; once it may be anything."""
    talk = "Maria: So, two cups of water.\nTom: And then?\nMaria: A cup of castile soap.\nTom: Right.\nMaria: Stir.\nTom: Done."
    assert "Maria" not in as_spoken(talk)
    assert [str(line.amount) for line in read_recipe(talk).lines] == ["2 cup", "1 cup"]
    assert as_spoken("Maria: two cups of water.\nStir.") == "Maria: two cups of water.\nStir."


def test_a_danger_in_a_transcript_is_a_danger() -> None:
    """What a neighbour does ends where the maker says what she does."""
    talk = (
        "[00:04] so my neighbor uses ammonia in hers and i told her i don't do that\n[00:09] what i do is two cups of "
        "bleach in the bucket\n[00:14] a gallon of water\n[00:17] and then half a cup of lemon juice for the smell"
    )
    lines = read_recipe(talk).lines
    assert [line.material.written for line in lines] == ["sodium-hypochlorite", "water", "lemon-juice"]
    assert not any(line.claims.talked for line in lines)
