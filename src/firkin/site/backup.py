"""Backups of the data folder: one file, taken while the server runs, checked before it is trusted. No framework.

A backup is a zip of the database, copied by SQLite's own backup so that it is whole at one moment, of the secret key,
and of what it is: firkin-backup/1, when it was taken, and the SHA-256 of each.
"""

import hashlib
import json
import os
import sqlite3
import tempfile
import zipfile
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from pathlib import Path

from firkin.site.folder import (
    DATABASE,
    DEMO,
    IN_USE,
    OWNER_ONLY_FILE,
    OWNER_ONLY_FOLDER,
    SECRET,
    FolderTrouble,
    damage_of,
)

FORMAT, MANIFEST = "firkin-backup/1", "backup.json"
#: Kept of the nightly copies: one of each of the last days, weeks and months.
DAYS, WEEKS, MONTHS = 7, 4, 6
_NIGHTLY = "firkin-{day}.zip"


def take(folder: Path, file: Path) -> None:
    """Write a backup of a data folder to a file, whole or not at all.

    Raises FolderTrouble where there is nothing to copy, the file is there already, or cannot be written.
    """
    database = folder / DATABASE
    if not database.exists():
        raise FolderTrouble(f"There is no database in {folder} to copy.")
    if file.exists():
        raise FolderTrouble(f"{file} is there already; a backup is never written over.")
    try:
        with tempfile.TemporaryDirectory(dir=file.parent) as scratch:
            copy = Path(scratch) / DATABASE
            _copied(database, copy)
            trouble = damage_of(copy)
            if trouble:
                raise FolderTrouble(f"The copy of {database} is damaged ({trouble}), so no backup was made.")
            parts = [copy, *(path for path in [folder / SECRET] if path.exists())]
            packed = Path(scratch) / "backup.zip"
            packed.touch(mode=OWNER_ONLY_FILE)
            with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as zipped:
                for path in parts:
                    zipped.write(path, path.name)
                zipped.writestr(MANIFEST, json.dumps(_manifest(parts), indent=1))
            os.link(packed, file)  # appears whole, and never over another
    except (OSError, sqlite3.DatabaseError) as error:
        raise FolderTrouble(f"The backup could not be written to {file} ({error}).") from None


def _copied(database: Path, copy: Path) -> None:
    source = sqlite3.connect(f"file:{database}?mode=rw", uri=True, timeout=20)
    target = sqlite3.connect(copy)
    try:
        source.backup(target)
        target.execute("PRAGMA journal_mode=DELETE")
    finally:
        target.close()
        source.close()


def _manifest(parts: Iterable[Path]) -> dict[str, object]:
    sums = {path.name: hashlib.sha256(path.read_bytes()).hexdigest() for path in parts}
    return {"format": FORMAT, "taken": datetime.now(UTC).isoformat(timespec="seconds"), "sha256": sums}


def restore(file: Path, folder: Path) -> None:
    """Put a backup into an empty folder: checked whole before anything is written.

    Raises FolderTrouble where the folder holds something, or the file is no sound backup.
    """
    if folder.exists() and any(path.name != DEMO for path in folder.iterdir()):
        raise FolderTrouble(
            f"{folder} is not empty. A backup is restored into an empty folder, so that nothing is lost."
        )
    parts = _read(file)
    with tempfile.TemporaryDirectory() as scratch:
        copy = Path(scratch) / DATABASE
        copy.write_bytes(parts[DATABASE])
        trouble = damage_of(copy)
    if trouble:
        raise FolderTrouble(f"The database in {file} is damaged ({trouble}); nothing was written.")
    try:
        folder.mkdir(parents=True, exist_ok=True, mode=OWNER_ONLY_FOLDER)
        for name, content in parts.items():
            (folder / name).touch(mode=OWNER_ONLY_FILE)
            (folder / name).write_bytes(content)
        (folder / IN_USE).touch(mode=OWNER_ONLY_FILE)
    except OSError as error:
        raise FolderTrouble(f"{folder} cannot be written to ({error.strerror}).") from None


def _read(file: Path) -> dict[str, bytes]:
    """What a backup holds, each part as its SHA-256 says."""
    try:
        with zipfile.ZipFile(file) as zipped:
            manifest = json.loads(zipped.read(MANIFEST))
            kind = str(manifest.get("format", ""))
            if kind != FORMAT:
                newer = kind.startswith("firkin-backup/")
                what = "was taken by a newer Firkin" if newer else "is no backup of Firkin’s"
                raise FolderTrouble(f"{file} {what}; nothing was written.")
            parts = {name: zipped.read(name) for name in manifest["sha256"] if name in (DATABASE, SECRET)}
        sound = all(hashlib.sha256(parts[name]).hexdigest() == manifest["sha256"][name] for name in parts)
    except (OSError, KeyError, TypeError, ValueError, AttributeError, zipfile.BadZipFile, NotImplementedError):
        raise FolderTrouble(f"{file} is no sound backup of Firkin’s; nothing was written.") from None
    if not sound or DATABASE not in parts:
        raise FolderTrouble(f"{file} is not as it was written: its sums differ. Nothing was written.")
    return parts


@dataclass(frozen=True, slots=True)
class Copy:
    """A nightly copy: its day, file and size in bytes."""

    day: date
    file: Path
    size: int


def copies(folder: Path) -> list[Copy]:
    """The nightly copies of a data folder, the newest first."""
    found = []
    for file in (folder / "backups").glob(_NIGHTLY.format(day="*")):
        try:
            day = date.fromisoformat(file.stem.removeprefix("firkin-"))
        except ValueError:
            continue
        found.append(Copy(day, file, file.stat().st_size))
    return sorted(found, key=lambda copy: copy.day, reverse=True)


def nightly(folder: Path, today: date) -> Path | None:
    """Take today’s copy unless it is there, and let go of those the rule does not keep. The file written, if any."""
    shelf = folder / "backups"
    shelf.mkdir(exist_ok=True, mode=OWNER_ONLY_FOLDER)
    file = shelf / _NIGHTLY.format(day=today.isoformat())
    new = not file.exists()
    if new:
        take(folder, file)
    there = copies(folder)
    for copy in set(there) - set(kept(there, today)):
        copy.file.unlink(missing_ok=True)
    return file if new else None


def kept(there: Iterable[Copy], today: date) -> list[Copy]:
    """Of the copies those that are kept: each of the last days, the newest of each of the last weeks and months.

    The newest of all is always kept, however old.
    """
    there = sorted(there, key=lambda copy: copy.day, reverse=True)
    chosen = [copy for copy in there if copy.day > today - timedelta(days=DAYS)]
    weeks: dict[tuple[int, int], Copy] = {}
    months: dict[tuple[int, int], Copy] = {}
    for copy in there:
        weeks.setdefault(copy.day.isocalendar()[:2], copy)
        months.setdefault((copy.day.year, copy.day.month), copy)
    chosen += [*list(weeks.values())[:WEEKS], *list(months.values())[:MONTHS]]
    return sorted(set(chosen), key=lambda copy: copy.day, reverse=True)
