"""Backups of the data folder: one file, taken while the server runs, checked before it is trusted. No framework.

A backup is a zip of the database, copied by SQLite's own backup so that it is whole at one moment, of the secret key,
and of what it is: firkin-backup/1, when it was taken, and the SHA-256 of each. For a recipient (a public key of age,
age-encryption.org/v1) it is encrypted: only who holds the identity can read it.
"""

import hashlib
import io
import json
import os
import shutil
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
_ENCRYPTED, _AGE = ".age", b"age-encryption.org/v1\n"


def take(folder: Path, file: Path, recipient: str = "") -> None:
    """Write a backup of a data folder to a file, whole or not at all; for a ``recipient`` encrypted.

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
            if recipient:
                packed.write_bytes(_encrypted(packed.read_bytes(), recipient))
            os.link(packed, file)  # appears whole, and never over another
    except (OSError, sqlite3.DatabaseError) as error:
        raise FolderTrouble(f"The backup could not be written to {file} ({error}).") from None


def _encrypted(content: bytes, recipient: str) -> bytes:
    import pyrage

    try:
        key = pyrage.x25519.Recipient.from_str(recipient)
    except pyrage.RecipientError:
        raise FolderTrouble(f"{recipient[:20]} is no recipient of age. It begins with age1.") from None
    return bytes(pyrage.encrypt(content, [key]))


def _decrypted(content: bytes, file: Path, identity: Path | None) -> bytes:
    """What an encrypted backup holds; Raises FolderTrouble without the identity that opens it."""
    import pyrage

    if identity is None:
        raise FolderTrouble(f"{file} is encrypted. Give the file of its identity: --identity KEY.")
    try:
        lines = [line for line in identity.read_text("utf-8").split() if line.startswith("AGE-SECRET-KEY-")]
        keys = [pyrage.x25519.Identity.from_str(line) for line in lines]
        return bytes(pyrage.decrypt(content, keys))
    except (OSError, UnicodeDecodeError, pyrage.IdentityError, pyrage.DecryptError):
        raise FolderTrouble(f"{identity} does not open {file}; nothing was written.") from None


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


def restore(file: Path, folder: Path, identity: Path | None = None) -> None:
    """Put a backup into an empty folder: checked whole before anything is written; ``identity`` opens an encrypted one.

    Raises FolderTrouble where the folder holds something, or the file is no sound backup.
    """
    if folder.exists() and any(path.name != DEMO for path in folder.iterdir()):
        raise FolderTrouble(f"{folder} is not empty. Restore into an empty folder: nothing is overwritten.")
    parts = _read(file, identity)
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


def _read(file: Path, identity: Path | None = None) -> dict[str, bytes]:
    """What a backup holds, each part as its SHA-256 says."""
    try:
        content = file.read_bytes()
        if content.startswith(_AGE):
            content = _decrypted(content, file, identity)
        with zipfile.ZipFile(io.BytesIO(content)) as zipped:
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
    return _copies_in(folder / "backups")


def _copies_in(shelf: Path) -> list[Copy]:
    found = []
    for file in shelf.glob(_NIGHTLY.format(day="*") + "*"):
        try:
            day = date.fromisoformat(file.name.partition(".")[0].removeprefix("firkin-"))
        except ValueError:
            continue
        found.append(Copy(day, file, file.stat().st_size))
    return sorted(found, key=lambda copy: copy.day, reverse=True)


def nightly(folder: Path, today: date) -> Path | None:
    """Take today’s copy unless it is there, and let go of those the rule does not keep. The file written, if any.

    FIRKIN_BACKUP_RECIPIENT encrypts it; FIRKIN_BACKUP_SECOND names a folder that gets it too, kept by the same rule.
    """
    recipient = os.environ.get("FIRKIN_BACKUP_RECIPIENT", "")
    shelf = folder / "backups"
    shelf.mkdir(exist_ok=True, mode=OWNER_ONLY_FOLDER)
    file = shelf / (_NIGHTLY.format(day=today.isoformat()) + (_ENCRYPTED if recipient else ""))
    new = not file.exists()
    if new:
        take(folder, file, recipient)
    _let_go(shelf, today)
    second = os.environ.get("FIRKIN_BACKUP_SECOND", "")
    if second:
        _second(file, Path(second), today)
    return file if new else None


def _second(file: Path, shelf: Path, today: date) -> None:
    """The copy in a second folder, which must be there: a disk that is not plugged in is said, not made up."""
    if not shelf.is_dir():
        raise FolderTrouble(f"{shelf} is not there, so it got no copy.")
    there = shelf / file.name
    if not there.exists():
        aside = shelf / f".{file.name}.part"
        try:
            shutil.copyfile(file, aside)
            aside.chmod(OWNER_ONLY_FILE)
            aside.replace(there)
        except OSError as error:
            aside.unlink(missing_ok=True)
            raise FolderTrouble(f"{shelf} got no copy ({error.strerror}).") from None
    _let_go(shelf, today)


def _let_go(shelf: Path, today: date) -> None:
    there = _copies_in(shelf)
    for copy in set(there) - set(kept(there, today)):
        copy.file.unlink(missing_ok=True)


def before_update(folder: Path, now: datetime) -> Path:
    """A copy before the database is changed by a newer Firkin; it is kept until somebody removes it."""
    shelf = folder / "backups"
    shelf.mkdir(exist_ok=True, mode=OWNER_ONLY_FOLDER)
    file = shelf / f"before-update-{now:%Y-%m-%d-%H%M%S}.zip"
    take(folder, file)
    return file


def newest(folder: Path) -> Path:
    """The newest copy there is. Raises FolderTrouble where there is none."""
    there = [*(folder / "backups").glob("firkin-*.zip*"), *(folder / "backups").glob("before-update-*.zip")]
    if not there:
        raise FolderTrouble(f"There is no copy in {folder / 'backups'} yet.")
    return max(there, key=lambda file: file.stat().st_mtime)


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
