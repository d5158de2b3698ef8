"""What is printed on a label, read off its picture where the optional extra is installed (./firkin extras camera).

It runs in a process of its own, with limits on time and memory, and what it reads is only ever shown to be confirmed.
"""

import json
import resource
import subprocess
import sys
from importlib.util import find_spec

#: More time or memory than this no label takes (measured: 1 s and 0.4 GB for a picture of 1280 points).
_MOST_S = 30
_MOST_BYTES = 3_000_000_000
#: A piece that was read with less sureness than this is left out.
_LEAST_SURE = 0.6
#: More characters than this stand on no label.
_MOST_CHARACTERS = 300


def can_read() -> bool:
    """True where the extra is installed."""
    return find_spec("rapidocr_onnxruntime") is not None


def text_of(jpeg: bytes) -> str:
    """The words on a picture that was made small, as one line; empty where none were found in time."""
    command = [sys.executable, "-m", "firkin.shelf.printed"]
    try:
        done = subprocess.run(  # noqa: S603  this Python, a module of Firkin
            command, input=jpeg, capture_output=True, timeout=_MOST_S, check=False
        )
        pieces = json.loads(done.stdout) if not done.returncode else []
    except (subprocess.TimeoutExpired, ValueError):
        return ""
    return one_line(pieces)


def one_line(pieces: list[tuple[str, float]]) -> str:
    """The pieces that were read surely, in one line.

    >>> one_line([("Isopropyl alcohol", 0.99), ("91 % v/v", 0.97), ("~;", 0.3), ("946 mL", 0.98)])
    'Isopropyl alcohol 91 % v/v 946 mL'
    """
    words = " ".join(str(text).strip() for text, sure in pieces if float(sure) >= _LEAST_SURE)
    return " ".join(words.split())[:_MOST_CHARACTERS]


def main() -> None:
    """Read the picture on standard input, and write its pieces, each with how sure it is."""
    resource.setrlimit(resource.RLIMIT_AS, (_MOST_BYTES, _MOST_BYTES))
    resource.setrlimit(resource.RLIMIT_CPU, (_MOST_S, _MOST_S))
    from rapidocr_onnxruntime import RapidOCR  # only in this process: it takes long to load

    found, _ = RapidOCR()(sys.stdin.buffer.read())
    json.dump([(text, float(sure)) for _, text, sure in found or ()], sys.stdout)


if __name__ == "__main__":
    main()
