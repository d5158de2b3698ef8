"""The file of a workshop: a zip or a folder with a document and pictures, written whole and read within bounds."""

import json
import os
import shutil
import uuid
import zipfile
import zlib
from collections.abc import Callable, Iterator, Mapping
from pathlib import Path
from typing import IO

from firkin.core.errors import CannotRead
from firkin.exchange.archive import Archive
from firkin.exchange.upgrades import NAME

DOCUMENT = "workshop.json"
#: What is unpacked of a file at most, in bytes: its document, one picture, and names of so many parts.
MOST_DOCUMENT = 50_000_000
MOST_PHOTO = 20_000_000
MOST_PARTS = 10_000


def _text(archive: Archive) -> bytes:
    """The document. What an older Firkin stored and nobody can write (half a character) becomes a question mark."""
    return json.dumps(archive.document, indent=1, ensure_ascii=False, sort_keys=True).encode("utf-8", "replace")


def to_zip(archive: Archive, stream: IO[bytes]) -> None:
    """Write an archive as a zip."""
    with zipfile.ZipFile(stream, "w", zipfile.ZIP_DEFLATED) as zipped:
        zipped.writestr(DOCUMENT, _text(archive))
        for name in archive.files:
            zipped.writestr(name, archive.files[name])


def to_file(archive: Archive, target: Path) -> None:
    """Write an archive: a zip where the name ends so, else a folder. CannotRead where something is there already."""

    def write(aside: Path) -> None:
        if target.suffix.lower() == ".zip":
            with aside.open("xb") as stream:
                to_zip(archive, stream)
            return
        aside.mkdir()
        (aside / DOCUMENT).write_bytes(_text(archive))
        for name in archive.files:
            (aside / name).parent.mkdir(exist_ok=True)
            (aside / name).write_bytes(archive.files[name])

    written_whole(target, write)


def written_whole(target: Path, write: Callable[[Path], None]) -> None:
    """Write a file or folder to the side and rename it: it is there whole, or not at all.

    Raises CannotRead where something is there already, or nothing can be written.
    """
    if target.exists():
        raise CannotRead(f"{target} is there already; nothing is written over.")
    aside = target.with_name(f".{target.name}.{uuid.uuid4().hex[:8]}.part")
    try:
        target.parent.mkdir(parents=True, exist_ok=True)
        write(aside)
        os.rename(aside, target)
    except OSError as error:
        raise CannotRead(f"{target} cannot be written ({error.strerror}).") from None
    finally:
        if aside.is_dir():
            shutil.rmtree(aside, ignore_errors=True)
        else:
            aside.unlink(missing_ok=True)


def from_file(source: Path) -> Archive:
    """Read an archive back; its pictures are read one by one, when they are asked for.

    Raises CannotRead for anything else, and for more than a bench has.
    """
    try:
        pictures: _Zipped | _Laid = _Laid(source) if source.is_dir() else _Zipped(source)
        return Archive(json.loads(pictures.read(DOCUMENT, MOST_DOCUMENT)), pictures)
    except CannotRead:
        raise
    except (OSError, KeyError, ValueError, RecursionError, *_BROKEN):
        raise CannotRead(f"{source.name} is no {NAME}: a zip, or a folder, with a {DOCUMENT} in it.") from None


#: What the library raises for zips that are damaged, locked or packed in ways it does not know.
_BROKEN = (zipfile.BadZipFile, zlib.error, NotImplementedError, RuntimeError, EOFError)


class _Zipped(Mapping[str, bytes]):
    """The pictures in a zip."""

    def __init__(self, source: Path) -> None:
        self.zipped = zipfile.ZipFile(source)
        if len(self.zipped.infolist()) > MOST_PARTS:
            raise CannotRead(f"{source.name} holds more than {MOST_PARTS} files.")

    def read(self, name: str, most: int) -> bytes:
        with self.zipped.open(name) as part:
            return _within(part.read(most + 1), most, name)

    def __getitem__(self, name: str) -> bytes:
        try:
            return self.read(name, MOST_PHOTO)
        except (*_BROKEN, OSError):
            raise CannotRead(f"{name[:60]} cannot be unpacked") from None

    def __iter__(self) -> Iterator[str]:
        return (name for name in self.zipped.namelist() if name.endswith(".jpg"))

    def __len__(self) -> int:
        return sum(1 for _ in self)

    def __contains__(self, name: object) -> bool:
        return isinstance(name, str) and name in self.zipped.NameToInfo


class _Laid(Mapping[str, bytes]):
    """The pictures in a folder."""

    def __init__(self, source: Path) -> None:
        self.source = source
        self.names = {str(path.relative_to(source)) for path in source.glob("photos/*.jpg")}

    def read(self, name: str, most: int) -> bytes:
        with (self.source / name).open("rb") as part:
            return _within(part.read(most + 1), most, name)

    def __getitem__(self, name: str) -> bytes:
        try:
            return self.read(name, MOST_PHOTO)
        except OSError:
            raise CannotRead(f"{name[:60]} cannot be read") from None

    def __iter__(self) -> Iterator[str]:
        return iter(sorted(self.names))

    def __len__(self) -> int:
        return len(self.names)

    def __contains__(self, name: object) -> bool:
        return name in self.names


def _within(content: bytes, most: int, name: str) -> bytes:
    if len(content) > most:
        raise CannotRead(f"{name[:60]} is larger than {most // 1_000_000} MB.")
    return content
