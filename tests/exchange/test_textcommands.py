"""The two text commands, run as people run them."""

import io
import json
import resource
import subprocess
import sys
from pathlib import Path
from unittest import mock

import jsonschema
import pytest

from firkin.exchange import textcommands
from firkin.exchange.publish import published
from firkin.exchange.questions import ASKS
from firkin.exchange.upgrades import FORMAT
from firkin.exchange.validation import check, parts, schema
from pace import slower

ROOT = Path(__file__).resolve().parents[2]

LANDING_RUB = {
    "format": "firkin-formula/1",
    "name": "Landing rub",
    "family": "liquid-rub",
    "make": "1 L",
    "guideline": "who-ethanol",
    "claim": {"active": "ethanol", "strength": "80 % v/v"},
    "lines": [
        {"material": "ethanol", "strength": "96 % v/v", "amount": "833.3 mL"},
        {"material": "hydrogen-peroxide", "strength": "3 %", "amount": "41.7 mL"},
        {"material": "glycerin", "amount": "14.5 mL"},
        {"material": "water", "amount": "q.s."},
    ],
}


class Said(io.TextIOWrapper):
    """What a command wrote, as a stream of the process is: bytes below."""

    def __init__(self) -> None:
        super().__init__(io.BytesIO(), encoding="utf-8", write_through=True)

    def all(self) -> str:
        return self.buffer.getvalue().decode("utf-8")


def run(command: str, document: object, *more: str) -> subprocess.CompletedProcess[str]:
    """A command in this process; alone() runs one as people do."""
    text = document if isinstance(document, str) else json.dumps(document, ensure_ascii=False)
    given = io.TextIOWrapper(io.BytesIO(text.encode("utf-8", "surrogatepass")), encoding="utf-8")
    out, err = Said(), Said()
    with mock.patch.multiple(sys, stdin=given, stdout=out, stderr=err):
        code = textcommands.main([command, "-", *more])
    return subprocess.CompletedProcess([command], code, out.all(), err.all())


def alone(command: str, document: object, *more: str) -> subprocess.CompletedProcess[str]:
    """A command in a process of its own."""
    text = document if isinstance(document, str) else json.dumps(document, ensure_ascii=False)
    module = [sys.executable, "-m", "firkin.exchange.textcommands", command, "-", *more]
    environment = {"PYTHONPATH": str(ROOT / "src"), "PATH": "/usr/bin:/bin"}
    return subprocess.run(module, input=text, capture_output=True, text=True, env=environment, check=False)


def without(document: dict, key: str) -> dict:
    return {name: value for name, value in document.items() if name != key}


def test_reckon_prints_a_reckoning_that_keeps_its_schema() -> None:
    """WHO, Guide to Local Production: 80 % v/v, 0.125 % peroxide, 1.45 % glycerol."""
    done = alone("reckon", LANDING_RUB)
    assert done.returncode == 0, done.stderr
    reckoning = json.loads(done.stdout)
    jsonschema.validate(reckoning, schema("firkin-reckoning-1"))
    ethanol, peroxide, glycerol = reckoning["actives"]
    assert ethanol["label_pct_vv"] == pytest.approx(80.0, abs=0.01)
    assert peroxide == {"active": "hydrogen-peroxide", "basis": "% w/v", "label_pct": pytest.approx(0.1251)}
    assert glycerol["label_pct"] == pytest.approx(1.45)
    assert reckoning["total"]["volume_mL"] == pytest.approx(1000)
    assert [line["material"] for line in reckoning["lines"]] == [
        "ethanol",
        "hydrogen-peroxide",
        "glycerol",
        "water",
    ]
    assert reckoning["verdicts"][0]["verdict"] == "meets"
    assert reckoning["findings"] == []


def test_a_material_nobody_knows_is_kept_and_said() -> None:
    lines = [{"material": "pond water", "amount": "1 L"}, *LANDING_RUB["lines"][:1]]
    reckoning = json.loads(run("reckon", {**without(LANDING_RUB, "make"), "lines": lines}).stdout)
    assert reckoning["lines"][0] == {
        "material": "pond water",
        "volume_mL": 1000.0,
        "mass_g": 1000.0,
        "share_v_pct": pytest.approx(54.6, abs=0.1),
        "share_w_pct": pytest.approx(59.78, abs=0.01),
    }
    finding = next(found for found in reckoning["findings"] if found["rule"] == "unknown-material")
    assert finding["lines"] == [0]


def lines(**change: object) -> dict:
    return {**LANDING_RUB, "lines": [{**LANDING_RUB["lines"][0], **change}, *LANDING_RUB["lines"][1:]]}


BAD_FORMULAS = [
    ({**LANDING_RUB, "colour": "blue"}, "colour: unknown key"),
    (lines(colour="blue"), "lines.0.colour: unknown key"),
    (without(LANDING_RUB, "lines"), "lines: missing"),
    (without(LANDING_RUB, "format"), "format: missing"),
    ({**LANDING_RUB, "format": "firkin-formula/2"}, "format: firkin-formula/2; it was written by a newer Firkin."),
    ({**LANDING_RUB, "format": "firkin-formula/1.2"}, "format: firkin-formula/1.2; it was written by a newer Firkin."),
    ({**LANDING_RUB, "format": "firkin-soup/1"}, 'format: "firkin-soup/1"; expected one of firkin-formula/1'),
    ({**LANDING_RUB, "dose": "110 blah"}, "dose: “blah” is not a unit"),
    ({**LANDING_RUB, "loads": 0}, "loads: 0; expected more than 0"),
    ({**LANDING_RUB, "family": "cakes"}, 'family: "cakes"; expected one of liquid-rub'),
    ({**LANDING_RUB, "lines": []}, "lines: []; expected something"),
    (lines(amount=5), "lines.0.amount: 5; expected text in quotes"),
    (lines(amount="5 zorkmids"), "lines.0.amount: “zorkmids” is not a unit"),
    (lines(amount="-5 mL"), "lines.0.amount: -5 mL: an amount must be more than 0"),
    (lines(amount=""), "lines.0.amount: An amount is missing"),
    (lines(strength="110 %"), "lines.0.strength: 110 %: a strength cannot be above 100 %"),
    (lines(amount="1100 mL"), "make: The amounts already come to"),
    (without(LANDING_RUB, "make"), "make: q.s. tops the batch up to a size"),
    ({**LANDING_RUB, "guideline": "grandmother"}, "guideline: “grandmother” is not a rule line"),
    ({**LANDING_RUB, "guideline": 5}, "guideline: 5; expected text in quotes or a list"),
    ({**LANDING_RUB, "temperature": "90 degC"}, "temperature: 90 °C is outside"),
    ({**LANDING_RUB, "steps": [{"do": "x", "lines": [9]}]}, "steps.0.lines.0: There is no line 9"),
    ({**LANDING_RUB, "steps": [{"do": "x", "wait": "long"}]}, "steps.0.wait: “long” is not a time"),
    ({**LANDING_RUB, "steps": [{"do": "x", "timer": "soon"}]}, "steps.0.timer: “soon” is not a time"),
    ({**LANDING_RUB, "steps": [{"do": "x", "temperature": "400 degC"}]}, "steps.0.temperature: 400 °C is outside"),
    ({**LANDING_RUB, "steps": [{"do": "x", "colour": "red"}]}, "steps.0.colour"),
    ({**LANDING_RUB, "keep": "for ever"}, "keep: “for ever” is not a time"),
    ({**LANDING_RUB, "cut_parts_water": -1}, "cut_parts_water: -1"),
    ([], "[]; expected an object"),
    ("{", "Not JSON"),
    ('{"format": "firkin-formula/1", "format": 1}', "format: the key stands twice"),
    ('{"name": NaN}', "NaN is not a number"),
    ("[" * 100_000, "The document is nested"),
]


@pytest.mark.parametrize(("document", "says"), BAD_FORMULAS, ids=range(len(BAD_FORMULAS)))
def test_a_bad_formula_gets_one_line_with_its_path(document: object, says: str) -> None:
    done = run("reckon", document)
    assert done.returncode == 2
    assert done.stdout == ""
    assert done.stderr.startswith(says)
    assert done.stderr.count("\n") == 1


QUESTIONS = [
    # OIML R 22
    ({"ask": "convert", "active": "ethanol", "from": "60 % w/w", "to": "% v/v"}, {"value": (67.74, 0.01)}),
    # 27 CFR 5.1: US proof is twice % v/v
    ({"ask": "convert", "active": "ethanol", "from": "190 proof", "to": "% v/v"}, {"value": (95, 1e-9)}),
    ({"ask": "convert", "active": "ethanol", "from": "57.1 %", "to": "proof_uk"}, {"value": (100, 1e-6)}),
    # OIML R 22: pure ethanol is 78.92 g in 100 mL
    ({"ask": "convert", "active": "ethanol", "from": "100 %", "to": "% w/v"}, {"value": (78.924, 0.001)}),
    # handbook densities of peroxide, from memory
    ({"ask": "convert", "active": "peroxide", "from": "3 %", "to": "% w/w"}, {"value": (2.97, 0.01)}),
    # OIML R 22 against label arithmetic
    (
        {"ask": "dilute", "active": "ethanol", "stock": "96 %", "target": "70 %", "make": "1 L"},
        {"stock_mL": (729.2, 0.05), "water_mL": (297.4, 0.1), "label_water_mL": (270.8, 0.05)},
    ),
    # common practice, no source
    (
        {"ask": "max-additive", "stock": "70 %", "target": "60 %"},
        {"additive_share_pct": (14.29, 0.005), "parts_stock_per_part_additive": (6, 1e-6)},
    ),
    (
        {"ask": "required-stock", "target": "60 %", "parts": {"stock": 2, "additive": 1}},
        {"stock_pct_vv": (90, 1e-6)},
    ),
]


QUESTIONS += [
    # alligation, from memory of pharmaceutical calculations textbooks
    (
        {"ask": "blend", "active": "ethanol", "stocks": ["95 %", "50 %"], "target": "70 %", "make": "1 L"},
        {"parts": ([20, 25], 1e-9), "true": (70, 1e-9)},
    ),
    # common practice, no source: label arithmetic
    (
        {
            "ask": "strengthen",
            "active": "isopropanol",
            "batch": "750 mL",
            "now": "52.5 %",
            "with": "91 %",
            "target": "60 %",
        },
        {"label_add_mL": (181.5, 0.05)},
    ),
    # Gay-Lussac table, from memory: 31.05 volumes of water to 100 of 90 % give 70 %
    (
        {"ask": "weaken", "active": "ethanol", "batch": "100 mL", "now": "90 %", "with": "0 % v/v", "target": "70 %"},
        {"add_mL": (31.05, 0.2), "label_add_mL": (28.57, 0.01)},
    ),
    # CDC and WHO: 5 % to 0.5 % is 9 parts of water
    (
        {"ask": "chlorine", "stock": "5 %", "target": "0.5 %", "make": "1 L"},
        {"parts_water_per_part_bleach": (9, 1e-9), "bleach_mL": (100, 1e-6), "water_mL": (900, 1e-6)},
    ),
    ({"ask": "chlorine", "stock": "5 %", "target": "1000 ppm", "make": "1 L"}, {"bleach_mL": (20, 1e-6)}),
    # from memory: about 20 % lost in six months
    (
        {"ask": "chlorine", "stock": "5 %", "target": "0.5 %", "make": "1 L", "age_months": 6},
        {"assumed_stock_pct": (4, 1e-9)},
    ),
    # OIML R 22
    (
        {"ask": "alcoholmeter", "active": "ethanol", "reading": "78 %", "temperature": "27 degC"},
        {"true_pct_vv": (75.8, 0.05)},
    ),
    ({"ask": "alcoholmeter", "active": "ethanol", "reading": 50, "temperature": 30}, {"true_pct_vv": (46.1, 0.05)}),
    (
        {"ask": "expected-reading", "active": "ethanol", "true": "75.8 %", "temperature": "27 degC"},
        {"reading_pct_vv": (78, 0.05)},
    ),
    # OIML R 22: 96 % weighs 0.8005 g/mL at 28 degC and 0.8074 at 20
    (
        {
            "ask": "temperature",
            "active": "ethanol",
            "strength": "96 %",
            "volume": "1 L",
            "measured_at": "28 degC",
            "wanted_at": "20 degC",
        },
        {"volume_mL": (991.4, 0.05), "strength_pct_vv": (96, 1e-9)},
    ),
    # OIML R 22: 200 mL of 50 % hold 78.92 g; 1 L of 70 % holds 552.5 g; 96 % gives the rest
    (
        {
            "ask": "use-up",
            "active": "ethanol",
            "stocks": [{"name": "old", "strength": "50 %"}, "96 %", {"name": "water", "strength": "0 % v/v"}],
            "target": "70 %",
            "use": {"name": "old", "volume": "200 mL"},
            "make": "1 L",
        },
        {"volumes_mL": ([200, 625, 195.2], 0.05), "make_mL": (1000, 1e-6)},
    ),
    (
        {
            "ask": "use-up",
            "active": "ethanol",
            "stocks": ["96 %", "0 %"],
            "target": "70 %",
            "use": {"name": "96 %", "volume": "729.2 mL"},
        },
        {"volumes_mL": ([729.2, 297.4], 0.1), "make_mL": (1000, 0.1)},
    ),
    # common practice, no source: bulk density of salt 1.25 g/mL
    ({"ask": "convert", "active": "salt", "amount": "1 cup"}, {"mass_g": (295.7, 0.05), "volume_mL": (236.6, 0.05)}),
    # unit definitions: NIST HB 44 grain and US gallon; 1 dH is 10 mg CaO per L
    ({"ask": "hardness", "value": 1, "from": "gpg", "to": "mg/L"}, {"value": (17.12, 0.005)}),
    ({"ask": "hardness", "value": 1, "from": "dH", "to": "mg/L"}, {"value": (17.85, 0.005)}),
    ({"ask": "hardness", "value": 1, "from": "fH", "to": "mg/L"}, {"value": (10, 1e-9)}),
    # molar masses: LABSA a mean of 320 from memory, NaOH 39.997 from atomic weights
    (
        {
            "ask": "neutralise",
            "acid": {"material": "labsa", "strength": "96 %", "amount": "100 g"},
            "base": {"material": "caustic-soda", "strength": "100 %", "amount": "10 g"},
        },
        {"acid_mol": (0.3, 1e-6), "base_mol": (0.25002, 1e-5), "base_g_missing": (1.999, 0.001)},
    ),
    # common practice, no source: 1 : 3 : 10 in a container of 15
    (
        {"ask": "ferment", "container": "2.5 L"},
        {"sugar_g": (166.7, 0.05), "peel_g": (500, 1e-6), "water_mL": (1666.7, 0.05), "gas_space_mL": (166.7, 0.05)},
    ),
    (
        {
            "ask": "pack",
            "batch": "1.5 L",
            "containers": [{"name": "f", "volume": "500 mL", "count": 2}],
            "headspace_pct": 5,
        },
        {"left_mL": (550, 1e-6)},
    ),
    (
        {"ask": "loads", "batch": "6 L", "dose": "120 mL", "cost": 5, "dilute_parts_water": 1},
        {"loads": (100, 1e-9), "cost_per_load": (0.05, 1e-9)},
    ),
]


@pytest.mark.parametrize(("question", "wanted"), QUESTIONS, ids=range(len(QUESTIONS)))
def test_solve_answers(question: dict, wanted: dict) -> None:
    done = run("solve", {"format": "firkin-question/1", **question})
    assert done.returncode == 0, done.stderr
    answer = json.loads(done.stdout)
    jsonschema.validate(answer, schema("firkin-answer-1"))
    assert answer["ask"] == question["ask"]
    assert all("=" in line or ":" in line for line in answer["working"])
    for key, (value, slack) in wanted.items():
        assert answer[key] == pytest.approx(value, abs=slack)


IMPOSSIBLE = [
    ({"ask": "dilute", "active": "ethanol", "stock": "60 %", "target": "70 %", "make": "1 L"}, "At most 60 %"),
    ({"ask": "dilute", "active": "ethanol", "stock": "96 %", "target": "70 %", "make": "-1 L"}, "more than 0"),
    ({"ask": "dilute", "active": "ethanol", "stock": "96 %", "target": "70 %", "make": "1 kg"}, "not a volume"),
    (
        {"ask": "dilute", "active": "water", "stock": "96 %", "target": "70 %", "make": "1 L"},
        "expected an active",
    ),
    ({"ask": "max-additive", "stock": "50 %", "target": "60 %"}, "At most 50 %"),
    ({"ask": "max-additive", "stock": "110 %", "target": "60 %"}, "above 100 %"),
    ({"ask": "required-stock", "target": "60 %", "parts": {"stock": 1, "additive": 1}}, "at most 50 %"),
    ({"ask": "convert", "active": "peroxide", "from": "3 %", "to": "proof"}, "not measured in proof"),
    ({"ask": "convert", "active": "ethanol", "from": "3 %", "to": "carats"}, "expected one of % v/v"),
    (
        {"ask": "blend", "active": "ethanol", "stocks": ["95 %", "50 %"], "target": "40 %", "make": "1 L"},
        "is not between",
    ),
    ({"ask": "blend", "active": "ethanol", "stocks": ["95 %"], "target": "40 %", "make": "1 L"}, "at least 2 of them"),
    (
        {"ask": "strengthen", "active": "ethanol", "batch": "1 L", "now": "50 %", "with": "55 %", "target": "60 %"},
        "must be stronger",
    ),
    (
        {"ask": "strengthen", "active": "ethanol", "batch": "1 L", "now": "70 %", "with": "95 %", "target": "60 %"},
        "weaken it",
    ),
    (
        {"ask": "weaken", "active": "ethanol", "batch": "1 L", "now": "90 %", "with": "0 %", "target": "0 %"},
        "No amount of water",
    ),
    (
        {"ask": "weaken", "active": "ethanol", "batch": "1 L", "now": "90 %", "with": "80 %", "target": "70 %"},
        "must be weaker",
    ),
    ({"ask": "chlorine", "stock": "5 %", "target": "6 %", "make": "1 L"}, "At most 5 %"),
    ({"ask": "chlorine", "stock": "5 %", "target": "4.5 %", "make": "1 L", "age_months": 12}, "At most 3.2 %"),
    ({"ask": "chlorine", "stock": "5 %", "target": "0.5 %", "make": "1 L", "age_months": -1}, "at least 0"),
    ({"ask": "alcoholmeter", "active": "isopropanol", "reading": "78 %", "temperature": "20 degC"}, "expected ethanol"),
    ({"ask": "alcoholmeter", "active": "ethanol", "reading": "100 %", "temperature": "0 degC"}, "outside 0 to 100"),
    ({"ask": "alcoholmeter", "active": "ethanol", "reading": "78 %", "temperature": "60 degC"}, "outside -20 to 40"),
    ({"ask": "hardness", "value": -1, "from": "gpg", "to": "dH"}, "at least 0"),
    (
        {
            "ask": "neutralise",
            "acid": {"material": "water", "amount": "1 g"},
            "base": {"material": "caustic-soda", "amount": "1 g"},
        },
        "acid.material",
    ),
    ({"ask": "pack", "batch": "0 L", "containers": []}, "batch"),
    ({"ask": "loads", "batch": "5 L", "dose": "100 g"}, "both as volumes"),
    (
        {
            "ask": "use-up",
            "active": "ethanol",
            "stocks": [{"nme": "x"}, "96 %"],
            "target": "70 %",
            "use": {"volume": "1 L"},
        },
        "stocks.0.nme: unknown key",
    ),
    (
        {
            "ask": "use-up",
            "active": "ethanol",
            "stocks": ["50 %", "96 %"],
            "target": "70 %",
            "use": {"name": "gin", "volume": "1 L"},
        },
        "use.name: “gin” is none of the stocks",
    ),
    ({"ask": "convert", "active": "ethanol", "from": "60 % w/w"}, "to: missing; expected one of % v/v"),
    ({"ask": "riddle"}, "expected one of max-additive"),
    ({"ask": "max-additive", "stock": "70 %", "target": "60 %", "why": "?"}, "why: unknown key"),
]


@pytest.mark.parametrize(("question", "says"), IMPOSSIBLE, ids=range(len(IMPOSSIBLE)))
def test_an_impossible_question_says_what_would_be_possible(question: dict, says: str) -> None:
    done = run("solve", question)
    assert (done.returncode, done.stdout) == (2, "")
    assert says in done.stderr
    assert done.stderr.count("\n") == 1


def test_a_stock_at_the_line_is_used_straight() -> None:
    answer = json.loads(run("solve", {"ask": "max-additive", "stock": "60 %", "target": "60 %"}).stdout)
    assert answer["additive_share_pct"] == 0
    assert answer["parts_stock_per_part_additive"] is None


def test_every_ask_of_the_schema_is_answered_and_published() -> None:
    assert {*ASKS, "tolerance"} == set(parts("firkin-question-1")) == set(parts("firkin-answer-1"))
    for path, text in published().items():
        assert path.read_text("utf-8") == text, "run python -m firkin.exchange.publish"
    formats = (
        "formula-1",
        "reckoning-1",
        "question-1",
        "answer-1",
        "recipe-1",
        "season-1",
        "plan-1",
        "rehearsal-1",
        FORMAT.removeprefix("firkin-"),
    )
    for name in (one.replace("/", "-") for one in formats):
        page = ROOT / "docs" / "formats" / f"firkin-{name}.schema.json"
        assert json.loads(page.read_text()) == schema(f"firkin-{name}")


def test_reckon_starts_in_under_half_a_second() -> None:
    """By the processor's time, the best of six, and beside the machine's pace: a busy machine is not a slow start."""
    taken = []
    for _ in range(6):
        before = resource.getrusage(resource.RUSAGE_CHILDREN)
        alone("reckon", LANDING_RUB)
        after = resource.getrusage(resource.RUSAGE_CHILDREN)
        taken.append(after.ru_utime + after.ru_stime - before.ru_utime - before.ru_stime)
    assert 0 < min(taken) < 0.5 * slower()


def read(text: str, *more: str) -> dict:
    """What `firkin read` prints of a text."""
    done = run("read", text, *more)
    assert done.returncode == 0, done.stderr
    document = json.loads(done.stdout)
    jsonschema.validate(document, schema("firkin-recipe-1"))
    return document


def test_a_recipe_is_read_as_the_page_reads_it() -> None:
    text = "2 cups vodka (80 proof), a splash of aloe. Put it in a 16 oz bottle. Makes 70 %, 100 loads at 108 mL."
    document = read(text)
    line, gel = document["lines"]
    assert (line["material"], line["strength"], line["amount"]) == ("ethanol", "80 proof", "2 cup")
    assert text[slice(*line["at"])] == "2 cups vodka (80 proof"
    assert "amount" not in gel
    assert document["unread"] == [{"text": "a splash", "at": [25, 33]}]
    assert (document["container"], document["loads"], document["dose"]) == ("473.176 mL", 100, "108 mL")
    assert document["claim"] == {"active": "ethanol", "strength": "70 % v/v"}
    assert {"spirit-too-weak", "line-not-measured"} <= {finding["rule"] for finding in document["findings"]}
    assert [one["material"] for one in document["formula"]["lines"]] == ["ethanol"]  # what is measured


def test_a_recipe_that_can_be_counted_brings_its_formula() -> None:
    """WHO, Guide to Local Production, formulation I."""
    text = "Ethanol 96 % 833.3 mL, hydrogen peroxide 3 % 41.7 mL, glycerol 98 % 14.5 mL, water to 1 L"
    document = read(text)
    jsonschema.validate(document["formula"], schema("firkin-formula-1"))
    reckoned = json.loads(run("reckon", document["formula"]).stdout)
    assert reckoned["actives"][0]["label_pct_vv"] == pytest.approx(80.0, abs=0.01)


def test_what_two_lines_top_up_has_no_formula() -> None:
    document = read("Ethanol 96 % 700 mL, aloe gel q.s., water to 1 L")
    assert document["formula"] is None
    assert document["findings"][0]["rule"] == "two-top-ups"


def test_a_text_of_more_than_50_kB_is_refused_and_one_just_below_is_read() -> None:
    assert run("read", "a glug of bleach and some vinegar " + "so it goes " * 4_500).returncode == 0
    refused = run("read", "so it goes " * 4_600)
    assert (refused.returncode, refused.stdout) == (2, "")
    assert "50000 characters" in refused.stderr


def test_whose_cups_a_recipe_means_is_said() -> None:
    assert read("2 cups water", "--household", "metric")["lines"][0]["amount"] == "2 cup_metric"
    assert read("1 pint water", "--household=imperial")["lines"][0]["amount"] == "1 imp_pint"
    done = run("read", "1 cup water", "--household", "mars")
    assert (done.returncode, done.stdout) == (2, "")
    assert done.stderr == "household: mars; expected one of us, metric, imperial, australian\n"


def test_a_file_that_is_no_text_is_refused_in_a_line(tmp_path: Path) -> None:
    file = tmp_path / "noise.txt"
    file.write_bytes(b"\xff\xfe\x00\x81")
    module = [sys.executable, "-m", "firkin.exchange.textcommands", "read", str(file)]
    environment = {"PYTHONPATH": str(ROOT / "src"), "PATH": "/usr/bin:/bin"}
    done = subprocess.run(module, capture_output=True, text=True, env=environment, check=False)
    assert (done.returncode, done.stderr.count("\n")) == (2, 1)


SEASON = json.loads((ROOT / "tests" / "core" / "season" / "cases.json").read_text())[1]["season"]


def test_plan_prints_a_plan_that_keeps_its_schema() -> None:
    ran = run("plan", SEASON)
    assert ran.returncode == 0, ran.stderr
    plan = json.loads(ran.stdout)
    jsonschema.validate(SEASON, schema("firkin-season-1"))
    jsonschema.validate(plan, schema("firkin-plan-1"))
    assert (plan["unmet_mL"], plan["evenings"], plan["cost"]) == (0, 1, 62.0)


@pytest.mark.parametrize(
    ("changed", "said"),
    [
        ({"format": "firkin-season/2"}, "format: firkin-season/2; it was written by a newer Firkin."),
        ({"colour": "blue"}, "colour: unknown key"),
        ({"days": 0}, "days: 0; expected at least 1"),
        ({"from": "tomorrow"}, 'from: "tomorrow"; expected text such as'),
        (
            {"needs": [{"product": "soap", "mL": 5, "on": "2026-12-06"}]},
            "needs.0.product: “soap” is none of the products",
        ),
        ({"vessels": [{"id": "v0", "mL": "much", "count": 1}]}, 'vessels.0.mL: "much"; expected a number'),
    ],
)
def test_a_bad_season_gets_one_line_with_its_path(changed: dict, said: str) -> None:
    ran = run("plan", SEASON | changed)
    assert (ran.returncode, ran.stdout) == (2, "")
    assert ran.stderr.startswith(said), ran.stderr
    assert ran.stderr.count("\n") == 1


@pytest.mark.parametrize("seconds", ["0", "x", "-3", "nan", "99999"])
def test_seconds_are_a_time(seconds: str) -> None:
    ran = run("plan", SEASON, "--seconds", seconds)
    assert ran.returncode == 2
    assert ran.stderr.startswith("seconds: ")


def test_tolerance_takes_a_formula_and_keeps_its_schema() -> None:
    tools = ["cup", {"systematic_pct": 2, "random_pct": 1, "group": "spoon", "fillings": 3}, None, {"tool": "mark"}]
    question = {"ask": "tolerance", "formula": LANDING_RUB, "tools": tools, "seed": 2, "draws": 5000}
    done = run("solve", question)
    assert done.returncode == 0, done.stderr
    given = json.loads(done.stdout)
    check(given, "firkin-answer-1", "tolerance")
    assert given["guideline"] == "who-ethanol"
    assert given["percentiles"]["5"] < given["percentiles"]["50"] < given["percentiles"]["95"]
    assert given["sd"] == pytest.approx(given["sd_linear"], rel=0.05)
    assert sorted(row["line"] for row in given["ranked"]) == [0, 1, 2, 3]
    assert run("solve", question).stdout == done.stdout


@pytest.mark.parametrize(
    ("change", "said"),
    [
        ({"formula": {**LANDING_RUB, "colour": 1}}, "formula.colour: unknown key"),
        ({"formula": {**LANDING_RUB, "format": "firkin-formula/9"}}, "formula.format: firkin-formula/9"),
        ({"formula": {**LANDING_RUB, "make": "a lot"}}, "formula.make: "),
        ({"tools": ["cup"]}, "tools: 1 of them; expected 4, one for each line"),
        ({"tools": ["cup", "cup", "cup", "ladle"]}, "tools.3: "),
        ({"tools": ["cup", "cup", "cup", {"random_pct": 100}]}, "tools.3"),
        ({"draws": 0}, "draws: 0; expected at least 1"),
        ({"of": "both"}, "of: "),
        ({"guideline": "nobody"}, "“nobody” is not a rule line"),
    ],
)
def test_a_wrong_tolerance_is_refused_with_its_place(change: dict, said: str) -> None:
    done = run("solve", {"ask": "tolerance", "formula": LANDING_RUB, **change})
    assert (done.returncode, done.stdout) == (2, "")
    assert said in done.stderr
    assert done.stderr.count("\n") == 1


def test_a_rehearsal_keeps_its_schema_and_its_bytes() -> None:
    done = run("rehearse", LANDING_RUB, "--seed", "7", "--care", "hasty")
    assert done.returncode == 0, done.stderr
    told = json.loads(done.stdout)
    check(told, "firkin-rehearsal-1")
    check(told["reckoning"], "firkin-reckoning-1")
    assert (told["seed"], told["care"]) == (7, "hasty")
    assert run("rehearse", LANDING_RUB, "--seed=7", "--care=hasty").stdout == done.stdout
    assert run("rehearse", LANDING_RUB, "--seed=8", "--care=hasty").stdout != done.stdout
    plain = json.loads(run("rehearse", LANDING_RUB, "--slips", "none", "--tools", "cup,scale-1g").stdout)
    assert (plain["seed"], plain["care"]) == (0, "usual")
    assert not [event for event in plain["events"] if event["do"] in ("slip", "fix")]


@pytest.mark.parametrize(
    ("more", "said"),
    [
        (("--seed", "-1"), "seed: -1"),
        (("--seed", "1.5"), "seed: 1.5"),
        (("--seed",), "seed: nothing"),
        (("--care", "none"), "care: none; expected one of careful, usual, hasty"),
        (("--tools", "cup,ladle"), "tools: ladle; expected some of cup"),
        (("--slips", "many"), "slips: many; expected none or usual"),
        (("--household", "us"), "usage: "),
    ],
)
def test_a_rehearsal_told_wrongly_is_refused(more: tuple[str, ...], said: str) -> None:
    done = run("rehearse", LANDING_RUB, *more)
    assert (done.returncode, done.stdout) == (2, "")
    assert said in done.stderr


def test_a_second_size_is_among_the_others_and_keeps_the_schema() -> None:
    text = (
        "Small: 170 mL isopropyl alcohol 91 %, 80 mL aloe gel\n\nLarge: 680 mL isopropyl alcohol 91 %, 320 mL aloe gel"
    )
    told = json.loads(run("read", text).stdout)
    check(told, "firkin-recipe-1")
    assert [line["amount"] for line in told["lines"]] == ["170 mL", "80 mL"]
    assert [line["amount"] for line in told["others"][0]["lines"]] == ["680 mL", "320 mL"]
    assert text[slice(*told["others"][0]["at"])].startswith("Large")
