"""The data folder: where it is, that only its owner reads it, and what stands against starting on it. No framework."""

import fcntl
import os
import secrets
import shutil
import sqlite3
from pathlib import Path

ROOT = Path(__file__).resolve().parents[3]
#: The demo's own folder, inside the other.
DEMO = "demo"
DATABASE, SECRET, IN_USE, LOCK = "firkin.sqlite3", "secret-key", "in-use", "serving.lock"
OWNER_ONLY_FOLDER, OWNER_ONLY_FILE = 0o700, 0o600
#: With less than this free nothing is begun: a batch's journal must find room.
LEAST_FREE_BYTES = 20 * 1024 * 1024
_MAGIC = b"SQLite format 3\x00"


class FolderTrouble(Exception):
    """What stands against starting on a data folder, as a sentence."""


def data_folder(mode: str) -> Path:
    """Everything Firkin writes lies in this one folder; the demo keeps to one inside it.

    Where FIRKIN_DATA names none it is beside the start-up script; of an installed Firkin, which has no script, the
    user's own (XDG Base Directory Specification).
    """
    of_the_user = Path(os.environ.get("XDG_DATA_HOME") or Path.home() / ".local" / "share") / "firkin"
    usual = ROOT / "data" if (ROOT / "firkin").is_file() else of_the_user
    return Path(os.environ.get("FIRKIN_DATA", usual)) / (DEMO if mode == DEMO else "")


def ready(folder: Path) -> None:
    """Make the folder its owner's alone, and see that it can be started on.

    Raises FolderTrouble: what is wrong, and what helps.
    """
    _own(folder)
    free = shutil.disk_usage(folder).free
    if free < LEAST_FREE_BYTES:
        raise FolderTrouble(
            f"Only {free // 1_048_576} MB are free where {folder} lies, and nothing could be stored. Make room first."
        )
    database = folder / DATABASE
    if not database.exists() or database.stat().st_size == 0:
        if (folder / IN_USE).exists():
            raise FolderTrouble(
                f"{database} is {'empty' if database.exists() else 'missing'}, and this folder was in use before. "
                "Restore a backup into an empty folder (./firkin restore FILE), or move this folder away to begin anew."
            )
        return
    trouble = damage_of(database)
    if trouble:
        raise FolderTrouble(
            f"{database} is damaged ({trouble}). Move the folder away, and restore a backup into an empty one "
            "(./firkin restore FILE)."
        )


def _own(folder: Path) -> None:
    """The folder there, writable, and nobody else's to read."""
    try:
        folder.mkdir(parents=True, exist_ok=True, mode=OWNER_ONLY_FOLDER)
        folder.chmod(OWNER_ONLY_FOLDER)
        for name in (DATABASE, f"{DATABASE}-wal", f"{DATABASE}-shm", SECRET):
            if (folder / name).exists():
                (folder / name).chmod(OWNER_ONLY_FILE)
        probe = folder / f".write-{secrets.token_hex(4)}"
        probe.touch(mode=OWNER_ONLY_FILE)
        probe.unlink()
    except OSError as error:
        why = error.strerror or "no reason given"
        raise FolderTrouble(f"{folder} cannot be written to ({why}). Choose another with FIRKIN_DATA.") from None


def damage_of(database: Path) -> str:
    """What is wrong with a database file, by SQLite's own check; empty where it is sound."""
    with database.open("rb") as file:
        if file.read(len(_MAGIC)) != _MAGIC:
            return "it is no database"
    try:
        connection = sqlite3.connect(f"file:{database}?mode=rw", uri=True, timeout=20)
        try:
            (said,) = connection.execute("PRAGMA quick_check(1)").fetchone()
        finally:
            connection.close()
    except sqlite3.DatabaseError as error:
        return str(error)
    return "" if said == "ok" else str(said)


def secret_key(folder: Path) -> str:
    """The key of this installation, made at the first start. Raises FolderTrouble where its file holds none."""
    path = folder / SECRET
    if not path.exists():
        folder.mkdir(parents=True, exist_ok=True, mode=OWNER_ONLY_FOLDER)
        path.touch(mode=OWNER_ONLY_FILE)
        path.write_text(secrets.token_urlsafe(64))
    key = path.read_text().strip()
    if len(key) < 50:
        raise FolderTrouble(
            f"{path} is empty or cut short. Delete it and start again: everybody signs in anew, nothing else is lost."
        )
    return key


def alone(folder: Path) -> int:
    """Hold the folder for one server, as long as this process lives; the descriptor of its lock.

    Raises FolderTrouble where another server holds it.
    """
    held = os.open(folder / LOCK, os.O_RDWR | os.O_CREAT, OWNER_ONLY_FILE)
    try:
        fcntl.flock(held, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        os.close(held)
        raise FolderTrouble(f"Another Firkin is serving {folder}. Stop that one first.") from None
    return held
