"""Bringing a workshop's file in at a page: looked at and stored by a process of its own, within limits.

Who brings it has one folder: the file as it was sent, the same with its pictures made anew, and what is said of it,
which the page shows until it is done. A process that takes more memory or time than it may is gone, and so is the file.
"""

import json
import os
import resource
import shutil
import signal
import subprocess
import sys
import time
from pathlib import Path
from typing import Any

from django.conf import settings

from firkin.core.errors import CannotReckon

#: What looking at one file may take: bytes of memory, seconds of a processor, seconds on the clock.
MOST_MEMORY = 1_500_000_000
MOST_WORK_S = 240
MOST_WAIT_S = 600
#: How long a file that was looked at and not brought in lies about, in seconds.
LIES_S = 24 * 60 * 60.0
_SAID, _SENT, _MADE_ANEW = "said.json", "sent", "made-anew"
#: At most so often what is said is written, in seconds.
_EVERY_S = 0.5
STOPPED = "That file took too much memory or time, and was stopped. Use ./firkin import FILE on the machine."
#: The processes of this server, until they end.
_running: dict[int, "subprocess.Popen[bytes]"] = {}

Said = dict[str, Any]


def folder_of(user: int) -> Path:
    """The folder of who brings something in."""
    return Path(settings.DATA) / "incoming" / str(user)


def sent_file(user: int) -> Path | None:
    """The file that waits to be brought in; one that lay too long is gone."""
    for sent in (folder_of(user) / _SENT).glob("*"):
        if time.time() - sent.stat().st_mtime < LIES_S:
            return sent
        forget(user)
    return None


def place_for(user: int, name: str) -> Path:
    """Where a file that is sent goes: what lay there before is gone."""
    forget(user)
    folder = folder_of(user) / _SENT
    folder.mkdir(parents=True, mode=0o700)
    folder.parent.chmod(0o700)
    return folder / name


def forget(user: int) -> None:
    """End what is under way with it, and remove it."""
    said = _read(folder_of(user))
    if said is not None and said["state"] == "working" and said["pid"] in _running:
        _running.pop(said["pid"]).kill()
    shutil.rmtree(folder_of(user), ignore_errors=True)


def begin(user: int, task: Said) -> None:
    """Look at the file, or bring it in: ``act``, ``workshop``, and of bringing ``way`` and ``name``.

    What is under way already is left to it.
    """
    there = said_of(user)
    if there is not None and there["state"] == "working":
        return
    folder = folder_of(user)
    said = task | {"user": user, "state": "working", "how_far": "Reading the file", "pid": 0, "began": time.time()}
    _write(folder, said)
    if settings.BRING_IN_HERE:
        work(folder)
        return
    process = subprocess.Popen(  # noqa: S603  this Python, a module of Firkin, a folder of its own
        [sys.executable, "-m", "firkin.exchange.bringing", str(folder)],
        env={**os.environ, "DJANGO_SETTINGS_MODULE": "firkin.site.settings", "FIRKIN_MODE": settings.MODE},
        stdin=subprocess.DEVNULL,
        stdout=subprocess.DEVNULL,
    )
    _running[process.pid] = process
    _write(folder, said | {"pid": process.pid}, unless_done=True)


def said_of(user: int) -> Said | None:
    """What is said of the file by now: its ``state`` is working, looked, brought, or refused with ``text``."""
    folder = folder_of(user)
    said = _read(folder)
    if said is None or said["state"] != "working" or _alive(said):
        return said
    said = _read(folder) or said  # it may have ended in between
    if said["state"] != "working":
        return said
    return said | {"state": "refused", "text": STOPPED}


def _alive(said: Said) -> bool:
    process = _running.get(said["pid"])
    if process is not None:
        if process.poll() is None:
            return True
        del _running[said["pid"]]
        return False
    return bool(said["pid"] == 0 and time.time() - said["began"] < _EVERY_S * 20) or _another_servers(said)


def _another_servers(said: Said) -> bool:
    """True for a process that a server before this one began, and that still has time."""
    if not said["pid"] or time.time() - said["began"] > MOST_WAIT_S:
        return False
    try:
        os.kill(said["pid"], 0)
    except OSError:
        return False
    return True


def _read(folder: Path) -> Said | None:
    try:
        said: Said = json.loads((folder / _SAID).read_text("utf-8"))
    except (OSError, ValueError):
        return None
    return said


def _write(folder: Path, said: Said, *, unless_done: bool = False) -> None:
    """Write what is said, whole or not at all."""
    there = _read(folder)
    if unless_done and there is not None and there["state"] != "working":
        return
    aside = folder / f"{_SAID}.{os.getpid()}"
    aside.write_text(json.dumps(said), "utf-8")
    aside.replace(folder / _SAID)


# in the process


def work(folder: Path) -> None:
    """Do what is asked of a file, and say what came of it."""
    said = _read(folder)
    if said is None:
        return
    last = 0.0

    def told(what: str, done: int, of: int) -> None:
        nonlocal last
        if time.monotonic() - last > _EVERY_S:
            last = time.monotonic()
            _write(folder, said | {"pid": os.getpid(), "how_far": f"{what.capitalize()}: {done} of {of}"})

    try:
        came = _look(folder, said, told) if said["act"] == "look" else _bring(folder, said, told)
    except CannotReckon as error:
        place = ".".join(str(part) for part in error.path)
        came = {"state": "refused", "text": f"{place}: {error}" if place else str(error)}
    except MemoryError:
        came = {"state": "refused", "text": STOPPED}
    if folder.exists():
        _write(folder, said | came)


def _look(folder: Path, said: Said, told: Any) -> Said:
    from firkin.accounts.models import User, Workshop
    from firkin.exchange import archive, files
    from firkin.exchange.merging import look, words_of

    (sent,) = (folder / _SENT).glob("*")
    made_anew = folder / _MADE_ANEW
    shutil.rmtree(made_anew, ignore_errors=True)
    whole = archive.made_anew(archive.checked(files.from_file(sent)), folder / "pictures", told)
    came = look(whole, Workshop.objects.get(pk=said["workshop"]), User.objects.get(pk=said["user"]), told)
    files.to_file(whole, made_anew)
    shutil.rmtree(folder / "pictures", ignore_errors=True)
    return {"state": "looked", "lines": words_of(came, only_look=True)}


def _bring(folder: Path, said: Said, told: Any) -> Said:
    from firkin.accounts.models import User, Workshop
    from firkin.exchange import archive, files
    from firkin.exchange.merging import merge, words_of

    whole = files.from_file(folder / _MADE_ANEW)
    whole.bare = True
    user, workshop = User.objects.get(pk=said["user"]), Workshop.objects.get(pk=said["workshop"])
    if said["way"] == "own":
        made = archive.read(whole, said["name"], bringer=user, told=told)
        text = f"The workshop {made.name} is here, with {whole.words}. You are in it."
        return {"state": "brought", "text": text, "chosen": made.pk}
    came = merge(whole, workshop, user, told=told)
    return {"state": "brought", "text": " ".join(words_of(came, only_look=False))}


def main() -> None:
    """The process: as little memory and time as it needs, and no more."""
    resource.setrlimit(resource.RLIMIT_AS, (MOST_MEMORY, MOST_MEMORY))
    resource.setrlimit(resource.RLIMIT_CPU, (MOST_WORK_S, MOST_WORK_S))
    signal.alarm(MOST_WAIT_S)
    import django

    django.setup()
    work(Path(sys.argv[1]))


if __name__ == "__main__":
    main()
