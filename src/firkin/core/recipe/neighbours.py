"""Neighbours' words in a recipe's text, written as the reader knows them: sizes, spoons, nights and days, soda."""

import re
from collections.abc import Iterable

from firkin.core.recipe.sought import seek

#: A rewriting: where it stands from and to, and what it is meant as.
Edit = tuple[int, int, str]

#: "Mit Wasser auf 1 Liter auffüllen", "compléter à 1 L avec de l'eau": up to a size with water, as neighbours say it.
_A_SIZE = r"(?P<size>\d[\d.,]*\s*(?:litros?|liter|litres?|l|ml))"
_WATER = (
    r"(?:[\w'’]+\s+){0,4}?(?:\w['’])?(?:wasser|eau|agua|acqua|água|water)"
    r"(?:\s+(?:distillée|destilada|distillata|potable))?"
)
_TOPPED = tuple(
    re.compile(pattern, re.IGNORECASE)
    for pattern in (
        rf"\bmit\s+{_WATER}\s+(?:bis\s+)?auf\s+{_A_SIZE}\s+(?:auff[üu]e?llen|aufgefüllt|ergänzen)",
        rf"\bauf\s+{_A_SIZE}\s+mit\s+{_WATER}\s+(?:auff[üu]e?llen|ergänzen)",
        rf"\b(?:compléter|completer|ajuster)\s+(?:à|a|jusqu['’]à)\s+{_A_SIZE}\s+(?:avec|de)\s+{_WATER}",
        rf"\b(?:completar|aforar|rellenar)\s+(?:hasta|a)\s+{_A_SIZE}\s+(?:con|de)\s+{_WATER}",
        rf"\b(?:aanvullen|bijvullen)\s+tot\s+{_A_SIZE}\s+met\s+{_WATER}",
        rf"\bmet\s+{_WATER}\s+(?:aanvullen|bijvullen)\s+tot\s+{_A_SIZE}",
        rf"\bportare\s+a\s+{_A_SIZE}\s+con\s+{_WATER}",
        rf"\bwasser\s+(?:bis|ad|auf)\s+(?:zu\s+)?{_A_SIZE}",
        rf"\beau\s+jusqu['’]à\s+{_A_SIZE}",
        rf"\bagua\s+hasta\s+(?:completar\s+)?{_A_SIZE}",
        rf"\bwater\s+tot\s+{_A_SIZE}",
        rf"\bacqua\s+fino\s+a\s+{_A_SIZE}",
    )
)
#: A word of one of those ways: without any, none of them is tried.
_ABROAD = re.compile(r"auff|ergänz|compl[eé]t|ajuster|aforar|rellenar|vullen|portare|wasser|jusqu|hasta|\btot\b|fino a")
#: Spoons and drops: "2 c. à soupe de", "1 cda de", "5 gotas de", "10 Tr.".
_OF_IT = r"(?:\s+(?:de|d['’]|di|van)(?=[\s'’\w]))?"
_SPOONS = (
    (rf"(?:c|cuil(?:l[èe]res?)?)\.?\s*à\s*(?:soupe|s\b\.?){_OF_IT}", " tbsp of"),
    (rf"(?:c|cuil(?:l[èe]res?)?)\.?\s*à\s*(?:café|thé|c\b\.?){_OF_IT}", " tsp of"),
    (rf"(?:cdas?\b\.?|cucharadas?(?:\s+soperas?)?){_OF_IT}", " tbsp of"),
    (rf"(?:cdtas?\b\.?|cucharaditas?){_OF_IT}", " tsp of"),
    (rf"(?:tasses?|tazas?|tazza|tazze)(?=\s+(?:de|di|d['’])){_OF_IT}", " cup of"),
    (rf"(?:gotas?|gouttes?|gocce|druppels?|tropfen|tr\.)(?=\s){_OF_IT}", " drops of"),
)
_NEIGHBOURS_SPOONS = tuple((re.compile(rf"(?<=\d)\s*{way}", re.IGNORECASE), words) for way, words in _SPOONS)
#: "1 l d'eau", "1 litro de agua".
_OF = re.compile(
    r"\bd['’]\s?(?=(?:eau|alcool|huile|acide|acqua|olio|alcol)\b)"
    r"|(?:(?<=\d ml )|(?<=\d cl )|(?<=\d dl )|(?<=\d l )|(?<=\d g )|(?<=\d kg )|(?<=litre )|(?<=litres )|(?<=grammes ))"
    r"d['’](?=[aeiouhéèêâœ])"
    r"|(?:(?<=litro )|(?<=litros )|(?<=\dml )|(?<=\d ml )|(?<=\d g )|(?<=\dg )|(?<=\d kg )|(?<=\d l )|(?<=gramos )"
    r"|(?<=grammes )|(?<=tazas )|(?<=taza )|(?<=vasos )|(?<=litres ))(?:de|di|da)\s+(?:la\s+|el\s+)?(?=[^\W\d_])",
    re.IGNORECASE,
)
#: "L'acqua", "l'éthanol".
_THE = re.compile(
    r"\bl['’](?=(?:eau|alcool|huile|acide|éthanol|acqua|olio|alcol|aceto|acido|etanolo)\b)", re.IGNORECASE
)
_DROPS = re.compile(r"\b(?:las gotas|les gouttes|die tropfen|de druppels|le gocce)\b", re.IGNORECASE)
#: What comes first, next and last.
_ORDER = tuple(
    (
        re.compile(
            rf"(?:(?<=[.!?;,\n] )|^)(?:{words})\s+(?=(?:der|die|das|den|el|la|los|las|le|les|l['’]|de|het)\b)", re.I
        ),
        meant,
    )
    for words, meant in (
        ("primero|zuerst|d['’]abord|eerst|prima", "first "),
        ("luego|después|dann|danach|puis|ensuite|daarna|dan|poi", "then "),
        ("al final|zum schluss|zuletzt|à la fin|enfin|tot slot|als laatste|alla fine", "finally "),
    )
) + tuple(
    (
        re.compile(rf"(?:(?<=[.!?:;,\n] )|(?<=\n)|(?<=\b[yeu] )|(?<=\b(?:en|et) )|^)(?:{words})\s+(?=[^\W_])", re.I),
        meant,
    )  # these can be nothing else
    for words, meant in (
        ("zuerst|d['’]abord|primero|primeiro|najpierw|först|først|prima(?=\\s+l['’])", "first "),
        ("danach|ensuite|daarna|después|luego|depois|potem|derefter|därefter", "then "),
        (r"(?:poi|sedan)(?=\s+\d)", "then "),
        (
            "(?:ganz )?zum schluss|zuletzt|à la fin|en dernier|por último|por fim|tot slot|als laatste|alla fine"
            "|per ultimo"
            "|infine|na koniec|till sist|til sidst|sist(?=\\s+\\d)",
            "finally ",
        ),
    )
)
#: "Een nacht", "drei Tage", "2 horas": rests.
_NIGHT = re.compile(
    r"\b(?:(?:een|eine|une|una|de|toda la|toute la|de hele|die ganze|ganze)\s+(?:nacht|nuit|noche|notte)"
    r"|'s nachts|uma noite|över natten|natten over|en natt?|na noc)\b",
    re.IGNORECASE,
)
_NUMBERS = {
    word: number
    for number, words in enumerate(
        (
            "een eine einen einer ein une un una uno",
            "twee zwei deux dos due",
            "drie drei trois tres tre",
            "vier quatre cuatro quattro",
            "vijf fünf cinq cinco cinque",
            "zes sechs six seis sei",
        ),
        1,
    )
    for word in words.split()
}
_UNITS = {
    "hours": "timmar|timer|godzin|godziny|uur|uren|stunde|stunden|heure|heures|hora|horas|ora|ore",
    "days": "dagar|dage|dni|dag|dagen|tag|tage|tagen|jour|jours|día|días|dia|dias|giorno|giorni",
    "minutes": "minuut|minuten|minuto|minutos|minuti",
    "weeks": "weken|woche|wochen|semaine|semaines|semana|semanas|settimana|settimane",
    "months": "maand|maanden|monat|monate|monaten|mois|mes|meses|mese|mesi",
}
_TIME = re.compile(
    rf"\b(?P<number>\d+(?:[.,]\d+)?|{'|'.join(_NUMBERS)})\s+"
    rf"(?:{'|'.join(f'(?P<{unit}>{names})' for unit, names in _UNITS.items())})\b",
    re.IGNORECASE,
)
_LITTLE = re.compile(
    r"\b(?:in (?:kleinen|mehreren) (?:portionen|schritten|mengen)|portionsweise|nach und nach"
    r"|schluckweise|löffelweise|petit à petit"
    r"|peu à peu|en plusieurs fois|poco a poco|en varias veces|beetje bij beetje|in kleine beetjes|a poco a poco"
    r"|poco alla volta|um pouco de cada vez|aos poucos"
    r"|lite i taget|lidt ad gangen|po trochu)\b",
    re.IGNORECASE,
)
#: "In drei Portionen", "en trois fois", "en tres veces": so many additions.
_ADDITIONS = re.compile(
    rf"\b(?:in|en|em)\s+(?P<number>\d{{1,2}}|{'|'.join(_NUMBERS)})\s+"
    r"(?:portionen|teilen|schritten|gaben|fois|veces|partes|porciones|volte|keer|porties|vezes)\b",
    re.IGNORECASE,
)
#: "1 Stunde quellen lassen": it is left alone.
_LEFT = re.compile(
    r"\b(?:(?:quellen|ziehen|ruhen|abkühlen|rasten|stehen) lassen|laten (?:weken|rusten|staan|zwellen|trekken)"
    r"|(?:weken|rusten|staan|zwellen) laten|laisse[rz] (?:gonfler|reposer|infuser|tremper|macérer|refroidir)"
    r"|dejar (?:reposar|hinchar|enfriar|macerar)|deixar (?:descansar|repousar|esfriar)"
    r"|låt (?:stå|vila)|lad (?:stå|hvile)|odstawić"
    r"|lasciare (?:riposare|gonfiare|raffreddare|macerare))\b",
    re.IGNORECASE,
)
#: "Goutte à goutte", "gota a gota".
_DROPWISE = re.compile(
    r"\b(?:goutte à goutte|gota a gota|goccia a goccia|druppelsgewijs|tropfenweise)\b", re.IGNORECASE
)
#: Soda that nothing is said of is washing soda in German and Dutch; words that show the text to be one of them.
_SODA = re.compile(
    r"(?<!baking )(?<!washing )(?<!caustic )(?<!kaustische )(?<!bijtende )(?<!ätz)\bsoda\b"
    r"(?!\s*(?:ash|crystals|krist|water|bottle))",
    re.IGNORECASE,
)
_GERMANIC = re.compile(
    r"\b(?:und|mit|oder|das|die|der|ein|het|een|en|met|van|wasser|dann|dan|zitronensäure|citroenzuur|azijn|natron|essig"
    r"|liter kochendes|löffel|lepel|kernseife|gerieben|hinein|stunden?|stehen|lassen|heiß|geraspte|roeren)\b",
    re.IGNORECASE,
)
#: So many of those words make a text one of them: "die" and "en" are also others'.
_GERMANIC_WORDS = 3


#: "Il giorno dopo", "le lendemain".
_NEXT_DAY = re.compile(
    r"\b(?:il giorno dopo|le lendemain|am nächsten tag|al día siguiente|de volgende dag|nästa dag|næste dag"
    r"|no dia seguinte|następnego dnia)\b",
    re.IGNORECASE,
)
#: "Die Hälfte vom Wasser", "le reste de l'eau": parts of what was told before.
_OF_THE = (
    r"(?:\s+(?:(?:de|di|da|von|van)\s+the|vom|von\s+de[mr]|des(?!\s+wassers)|der|du|de\s+la|de\s+l['’]\s?|del|della|dell['’]\s?|de\s+el|van\s+(?:het|de)|do|da|av|af)"
    r"\s*(?=[^\W\d_]))?"
)
_OF_WATER = re.compile(r"\bdes wassers\b", re.IGNORECASE)
_HALF = re.compile(
    rf"\b(?:(?:die|der) hälfte|la moitié|la mitad|de helft|metà|la metà|metade){_OF_THE}(?=[\s,.]|\w)", re.IGNORECASE
)
_OTHER_HALF = re.compile(
    r"\b(?:(?:die|der) andere[n]? hälfte|l['’]autre moitié|la otra mitad|de andere helft|l['’]altra metà|a outra metade"
    rf"|(?:den|der|de|le|el|il|o) rest(?:e|o)?){_OF_THE}\b",
    re.IGNORECASE,
)
#: Soap of which it is not said whether it is hard; grated it is.
_SOAP = re.compile(
    r"(?<!de )(?<!di )(?<!do )\b(?P<the>(?:le|il|el|o) )?"
    r"(?:(?:(?<!e )|(?<=\bdie ))seife|sapone|sabão|mydło|tvål|sæbe|sabun|jabón|savon)\b"
    r"(?!\s+(?:de|di|da|en|em|noir|liquid|líquid|liquido|molle"
    r"|potásico|rallado|a scaglie|grattugiato|ralado|râpé)\b)",
    re.IGNORECASE,
)


def topped(text: str) -> Iterable[Edit]:
    """Topping up to a size with water."""
    if not _ABROAD.search(text.lower()):
        return
    found = [
        (one.start(), one.end(), f"top up to {one['size']} with water") for way in _TOPPED for one in seek(way, text)
    ]
    yield from sorted(found)


#: A word or a sign of those ways: without any, none of them is tried.
_NOT_ENGLISH = re.compile(
    r"\b(?:de|di|da|des|du|las?|los|les?|der|die|das|den|het|een|ein|und|con|met|mit|el|tl|cdas?|cdtas?|gotas?"
    r"|gouttes?|tropfen|druppels?|gocce|cucharad\w+|soda|primero|zuerst|zum|zuletzt|danach|ensuite|daarna|después|alla"
    r"|als|por|tot|eerst|luego|dann|puis|poi|prima|infine|primeiro|depois|najpierw|potem|na koniec|först|først|sedan"
    r"|därefter|derefter|sist|till sist|til sidst)\b|\b[dl]['’]|à|tr\.|tass|taz[az]"
)


def named_alike(text: str) -> Iterable[Edit]:
    """Spoons, drops and the "of" between an amount and its name; and soda."""
    if not _NOT_ENGLISH.search(text.lower()):
        return
    ways = ((_OF, "of "), (_THE, "the "), *_ORDER, (_DROPS, "the drops"), *_NEIGHBOURS_SPOONS)
    edits = [(one.start(), one.end(), words) for way, words in ways for one in seek(way, text)]
    if len({one.group().lower() for one in seek(_GERMANIC, text)}) >= _GERMANIC_WORDS:
        edits += [(one.start(), one.end(), "washing soda") for one in seek(_SODA, text)]
    yield from sorted(edits)


def rests(text: str) -> Iterable[Edit]:
    """Nights, days and hours; and how a thing goes in a little at a time."""
    edits = [(one.start(), one.end(), "a little at a time") for one in seek(_LITTLE, text)]
    edits += [(one.start(), one.end(), "overnight") for one in seek(_NIGHT, text)]
    edits += [
        (one.start(), one.end(), f"in {_NUMBERS.get(one['number'].lower(), one['number'])} additions")
        for one in seek(_ADDITIONS, text)
    ]
    edits += [(one.start(), one.end(), "leave it") for one in seek(_LEFT, text)]
    edits += [(one.start(), one.end(), "drop by drop") for one in seek(_DROPWISE, text)]
    edits += [(one.start(), one.end(), "the next day,") for one in seek(_NEXT_DAY, text)]
    edits += [(one.start(), one.end(), "the soap" if one["the"] else "soap") for one in seek(_SOAP, text)]
    edits += [(one.start(), one.end(), "of the Wasser") for one in seek(_OF_WATER, text)]
    for way, words in ((_HALF, "half"), (_OTHER_HALF, "the rest")):
        for one in seek(way, text):
            named = one.group().rstrip()[-1:] in "'’" or one.group()[-1:].isspace()
            edits.append((one.start(), one.end(), f"{words} of the " if named else words))
    for one in seek(_TIME, text):
        number = _NUMBERS.get(one["number"].lower(), one["number"])
        edits.append((one.start(), one.end(), f"{number} {next(unit for unit in _UNITS if one[unit])}"))
    yield from sorted(edits)
