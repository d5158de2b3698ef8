"""New and changed sentences speak as a friend at the next bench: short, plain, one word for one thing, few digits."""

import os
import re
from functools import cache
from pathlib import Path

from firkin.core import datafiles
from firkin.core.audit import audit
from firkin.core.catalogue import cautions
from firkin.core.formula import reckon
from firkin.core.recipe import findings_of, read_recipe
from mixes import mix
from sentences import sentences

#: So many words a sentence has at most.
MOST_WORDS = 25
#: Turns nobody says, and words that stand for something else here.
BANNED = re.compile(
    r"\b(?:so that|besides|by what (?:is|was|has)|take back|put away|to spare|such as stands|find no|put right|"
    r"what follows from that|rescue[sd]?|"
    r"audit|judged|released?|free (?:since|on|from)|used up of|taken back|journal)\b",
    re.IGNORECASE,
)
DIGITS = re.compile(r"\d+(?:\.\d+)?")
NEW_CAUTIONS = ("formaldehyde", "ph-unread", "oxygen-bleach-closed", "strong-acid", "local-rules")
#: Texts and mixes that make every rule speak whose sentences are new or changed.
TEXTS = [
    "javel 50 ml, vinegar 50 ml",
    "peroxide 100 ml, acetone 50 ml",
    "peroxide 100 ml, vinegar 50 ml",
    "caustic soda 50 g, muriatic acid 100 ml",
    "My neighbour adds ammonia. I take 20 ml bleach and 2 L of water.",
    "2 cups Brennspiritus and 1 cup aloe gel",
    "The camp stove runs on meths. 2 cups isopropyl 91 %, half a cup aloe.",
    "1 kg water, caustic soda 27 g, sulfonic acid 96 % 100 g. Dish liquid.",
    "for 1 litre: 833 ml ethanol 96 %, 14.5 L glycerol, sterile water to the mark",
    "1 kg liquid soap: 100 g bar soap, hot water, 80 g phenoxyethanol",
    "Warm the ethanol in a pan. Lye in the pot, then pour water over it.",
    "good morning",
    "a glug of something nice " * 2500,
]
MIXES = [
    mix(("ethanol", "2 parts", "96 %"), ("water", "1 part"), ("glycerol", "10 mL")),
    mix(("borax", "100 g"), ("water", "1 L")),
    mix(("water", "4 kg"), ("caustic soda", "45 g", "0.9 %"), ("labsa", "400 g", "96 %"), family="dish-liquid"),
]
RULES = {
    *("bleach-mixed", "peroxide-mixed", "peroxide-vinegar", "caustic-mixed", "unfit-alcohol", "caustic-left"),
    *("heated-alcohol", "water-onto-caustic", "nothing-read", "not-all-read", "line-not-measured", "part-unsaid"),
    *("will-not-dissolve", "amounts-miss-size", "preservative-window"),
}


@cache
def said() -> dict[str, str]:
    """Every new or changed sentence, with where it comes from."""
    found = {f"caution {key}": f"{cautions()[key].text} {cautions()[key].short}" for key in NEW_CAUTIONS}
    for key, advice in datafiles.toml("catalogue/hazards.toml")["advice"].items():
        found[f"advice {key}"] = f"{advice.get('more', '')} {advice['fix']}"
    findings = [one for text in TEXTS for one in findings_of(read_recipe(text, "metric"))]
    findings += [one for formula in MIXES for one in audit(reckon(formula))]
    for one in findings:
        if one.rule in RULES:
            found[f"{one.rule}: {one.text[:40]}"] = f"{one.text} {one.fix} {' '.join(one.choices)}"
    return found


def test_every_rule_that_is_new_or_changed_is_heard_here() -> None:
    assert {where.partition(":")[0] for where in said()} >= RULES


def test_a_sentence_is_short_plain_and_no_finer_than_a_tool() -> None:
    for sentence in [one for words in said().values() for one in re.split(r"(?<=[.?:])\s+", words)]:
        assert len(sentence.split()) <= MOST_WORDS, sentence
        assert not BANNED.search(sentence), sentence
        for number in DIGITS.findall(sentence):
            assert len(number.replace(".", "").strip("0")) <= 4, sentence


#: All that Firkin says, to be read in one sitting.
KEPT = Path(__file__).resolve().parents[1] / "docs" / "sentences.txt"
#: Of states, entries and people elsewhere: the names of files, and a machine's own log.
ELSEWHERE = re.compile(r"journal\.md|Journal entries are only added")


def every() -> list[tuple[str, str]]:
    """Each sentence with the file it is said in."""
    return [(place, one) for place, those in sentences().items() for one in those if not ELSEWHERE.search(one)]


def test_every_sentence_stands_in_the_list_of_all() -> None:
    """Written anew with FIRKIN_KEEP=1, and what is new in it read aloud before it is committed."""
    listed = "\n".join(f"## {place}\n" + "\n".join(those) + "\n" for place, those in sentences().items())
    if os.environ.get("FIRKIN_KEEP"):
        KEPT.write_text(listed, "utf-8")
    missing = set(listed.splitlines()) ^ set(KEPT.read_text("utf-8").splitlines())
    assert not missing, sorted(missing)[:5]


def test_no_sentence_is_long() -> None:
    assert not [(place, one) for place, one in every() if len(one.split()) > MOST_WORDS]


def test_no_sentence_uses_a_turn_that_nobody_says() -> None:
    assert not [(place, one) for place, one in every() if BANNED.search(one)]
