"""Text as it comes from people: whether it can be written down again, and how it is shown in a sentence."""

import re

Path = tuple[str | int, ...]

#: As much of what somebody wrote as a sentence about it shows.
_SHOWN = 40


def quoted(text: str) -> str:
    """What somebody wrote, in quotation marks and no longer than a sentence bears.

    Args:
        text: anything that was typed or stands in a file.

    >>> quoted(" 7 fishes "), quoted("a" * 50) == "“" + "a" * 39 + "…”"
    ('“7 fishes”', True)
    """
    plain = text.strip()
    return f"“{plain}”" if len(plain) <= _SHOWN else f"“{plain[: _SHOWN - 1].rstrip()}…”"


def unwritable(data: object) -> Path | None:
    """The path to the first text in plain data that UTF-8 cannot hold, or that holds a NUL; None where there is none.

    Plain data are texts, numbers, lists and objects, as JSON has them. A half of a character (a lone surrogate) comes
    through JSON's escapes and can never be written to a file again.

    >>> unwritable({"name": "Rub", "lines": ["water", "half \\ud83e"]})
    ('lines', 1)
    >>> unwritable(["ü", 1.5, None]) is None
    True
    """
    waiting: list[tuple[Path, object]] = [((), data)]
    while waiting:
        path, value = waiting.pop()
        if isinstance(value, str):
            if _broken(value):
                return path
        elif isinstance(value, dict):
            for key in value:
                if isinstance(key, str) and _broken(key):
                    return path
            waiting += [((*path, key), one) for key, one in reversed(value.items())]
        elif isinstance(value, list | tuple):
            waiting += [((*path, at), one) for at, one in reversed(list(enumerate(value)))]
    return None


def _broken(text: str) -> bool:
    if "\0" in text:
        return True
    try:
        text.encode()
    except UnicodeEncodeError:
        return True
    return False


def uncapped(name: str) -> str:
    """A name as it stands within a sentence: its first letter small, but for what is written in capitals.

    Args:
        name: a name such as "Sodium laureth sulfate (SLES)".

    >>> uncapped("Sodium laureth sulfate (SLES)"), uncapped("DMDM hydantoin"), uncapped("1,3-Propanediol"), uncapped("")
    ('sodium laureth sulfate (SLES)', 'DMDM hydantoin', '1,3-propanediol', '')
    """
    first = next((at for at, sign in enumerate(name) if sign.isalpha()), None)
    if first is None or name[first + 1 : first + 2].isupper():
        return name
    return name[:first] + name[first].lower() + name[first + 1 :]


#: So many letters has a name that is said by its letters: "TEA", "CAPB".
_LETTERS = 4


def within(said: str, name: str) -> str:
    """A name as somebody said it, within a sentence: small, but for capitals that the thing's own name has.

    Args:
        said: a name as it was said or written.
        name: the name of the thing in the catalogue.

    >>> within("SLES Paste", "Sodium laureth sulfate (SLES)"), within("WATER", "Water")
    ('SLES paste', 'water')
    >>> within("TEA", "Triethanolamine"), within("SALT", "Salt")
    ('TEA', 'salt')
    """
    capitals = set(re.findall(r"[A-Z]{2,}", name))
    its_words = set(re.findall(r"\w+", name.lower()))
    short = {
        word for word in said.split() if len(word) <= _LETTERS and word.isupper() and word.lower() not in its_words
    }
    return " ".join(word if word in capitals | short else word.lower() for word in said.split())
