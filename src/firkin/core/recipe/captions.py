"""A transcript as a machine writes it: a time before each line or above it, the speaker's name, [music].

What is said goes on from line to line. Everything else becomes NOTHING, so that places stay what they were.
"""

import re
from itertools import pairwise

#: Stands where a sign was that says nothing; it is taken out before anything is read.
NOTHING = "\x00"

_CODE = r"(?:(?P<h>\d{1,2}):)?(?P<m>\d{1,2}):(?P<s>\d{2})(?:[.,]\d{1,3})?"
#: "0:05", "[00:01:10]", "00:00:04,000 --> 00:00:08,900", "(1:05)": at the beginning of a line.
_TIME = re.compile(rf"(?m)^[ \t]*[\[(]?{_CODE}[\])]?(?:[ \t]*-->[ \t]*[\d:.,]+[^\n]*)?[ \t]*[-–—]?[ \t]*")
#: The number of a caption, on the line above its time; what a file of them begins with.
_NUMBER = re.compile(r"(?m)^[ \t]*\d{1,4}[ \t]*\n(?=[ \t]*[\d:.,]+[ \t]*-->)|\A\s*WEBVTT[^\n]*")
_SOUND = re.compile(
    r"[\[(](?:music|applause|laughter|laughs|inaudible|background noise|foreign|__)[\])]", re.IGNORECASE
)
_SPEAKER = re.compile(r"(?m)^[ \t]*(?:>>[ \t]*)?(?P<who>[^\W\d_][^\W_]*(?: [^\W_]+){0,2}):[ \t]+(?=\S)")
#: So many times, before so large a part of the lines, are a transcript; so late it begins at most, s.
_FEWEST, _MOSTLY, _BEGINS_S = 3, 0.45, 60
#: A transcript that begins later is told by its times above the lines, or by so many before them.
_MANY = 6
#: "... 833 mL": a line that is told in full; each line of a log is, "09:15 water 600 g".
ENDS_MEASURED = re.compile(r"[\d½¼¾⅓⅔]\s?[^\W\d_]{1,12}\.?$")
#: What a machine calls who speaks.
_NOBODY = re.compile(r"(?:speaker|person|voice|host|guest|interviewer|presenter|narrator|unknown)(?: \d+)?")
#: One speaker's name stands so often.
_OFTEN = 3


def as_spoken(text: str) -> str:
    """A transcript as it was spoken, as long as before; any other text as it is.

    >>> said = as_spoken("0:00\\nso you take\\n0:03\\ntwo cups of\\n0:05\\nwater")
    >>> said.replace(NOTHING, "").strip()
    'so you take two cups of water'
    """
    numbered = _NUMBER.sub(_nothing, text)
    times = list(_TIME.finditer(numbered))
    if _is_timed(numbered, times):
        text = _run_on(_SOUND.sub(_nothing, _TIME.sub(_nothing, numbered)))
    return _unnamed(text)


def _nothing(found: re.Match[str]) -> str:
    return "".join("\n" if sign == "\n" else NOTHING for sign in found.group())


def _is_timed(text: str, times: list[re.Match[str]]) -> bool:
    """True where times that go on stand before the lines, and the lines are not those of a log."""
    lines = [line for line in text.split("\n") if line.strip(" \t\r" + NOTHING)]
    surely = all("-->" in one.group() or (one["h"] and one.group().strip()[0] == "[") for one in times)
    if len(times) < (1 if surely else _FEWEST) or len(times) < _MOSTLY * len(lines):
        return False
    clock = [int(one["h"] or 0) * 3600 + int(one["m"]) * 60 + int(one["s"]) for one in times]
    if any(after < before for before, after in pairwise(clock)) or any(int(one["s"]) >= 60 for one in times):
        return False
    said = [line for line in (_TIME.sub("", line).strip() for line in lines) if line]
    logged = sum(ENDS_MEASURED.search(line) is not None for line in said)
    above = len(said) < len(lines) / 2 + 1
    talks = surely or logged < len(said) / 2
    return talks and (surely or above or len(times) >= _MANY or clock[0] <= _BEGINS_S)  # "1:10 floors, 1:50 bench"


def _run_on(text: str) -> str:
    """With its lines as one."""
    return re.sub(r"[\s\x00]*\n[\s\x00]*", lambda found: " " + NOTHING * (len(found.group()) - 1), text)


def _unnamed(text: str) -> str:
    """Without the name of who speaks, where the same few names stand before most lines."""
    lines = sum(bool(line.strip(" \t" + NOTHING)) for line in text.split("\n"))
    named = list(_SPEAKER.finditer(text))
    who = [one["who"].lower() for one in named]
    nobody = [one for one in named if _NOBODY.fullmatch(one["who"].lower())]
    often = [one for one in named if who.count(one["who"].lower()) >= _OFTEN and len(one["who"]) > 1]
    often = nobody or (often if len(often) >= _MOSTLY * lines else [])
    signs = list(text)
    for one in often:
        signs[one.start() : one.end()] = NOTHING * len(one.group())
    return "".join(signs)
