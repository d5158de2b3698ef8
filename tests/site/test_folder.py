"""The data folder: its owner's alone, refused with a sentence where it cannot be started on; backups whole and checked."""

import json
import os
import sqlite3
import zipfile
from datetime import date, datetime, timedelta
from pathlib import Path

import pyrage
import pytest
from django.test import Client
from django.utils import timezone
from hypothesis import given
from hypothesis import strategies as st

from firkin.site import backup
from firkin.site.folder import DATABASE, IN_USE, SECRET, FolderTrouble, alone, damage_of, ready, secret_key
from steps import said


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    """A folder in use, with a database that has something in its write-ahead log."""
    there = tmp_path / "data"
    ready(there)
    secret_key(there)
    database = sqlite3.connect(there / DATABASE)
    database.execute("PRAGMA journal_mode=WAL")
    database.execute("CREATE TABLE entry (text)")
    database.executemany("INSERT INTO entry VALUES (?)", [(f"poured {i}",) for i in range(500)])
    database.commit()
    (there / IN_USE).touch()
    yield there
    database.close()


def rows(database: Path) -> list[tuple[str]]:
    connection = sqlite3.connect(database)
    found = connection.execute("SELECT text FROM entry ORDER BY rowid").fetchall()
    connection.close()
    return found


def test_the_folder_and_what_is_in_it_are_the_owners_alone(folder: Path) -> None:
    (folder / DATABASE).chmod(0o644)
    folder.chmod(0o755)
    ready(folder)
    assert folder.stat().st_mode & 0o777 == 0o700
    assert {path.stat().st_mode & 0o777 for path in (folder / DATABASE, folder / SECRET)} == {0o600}


@pytest.mark.parametrize(
    ("harm", "says"),
    [
        (lambda path: path.write_bytes(b"no database at all " * 50), "damaged"),
        (lambda path: path.write_bytes(path.read_bytes()[:5000]), "damaged"),
        (lambda path: path.write_bytes(path.read_bytes()[:4096] + b"\xff" * 8192), "damaged"),
        (lambda path: path.write_bytes(b""), "is empty, and this folder was in use"),
        (lambda path: path.unlink(), "is missing, and this folder was in use"),
    ],
)
def test_a_database_that_is_damaged_or_gone_is_refused_with_what_helps(folder: Path, harm, says: str) -> None:
    connection = sqlite3.connect(folder / DATABASE)
    connection.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    connection.close()
    for log in ("-wal", "-shm"):
        (folder / f"{DATABASE}{log}").unlink(missing_ok=True)
    harm(folder / DATABASE)
    with pytest.raises(FolderTrouble, match=says) as refused:
        ready(folder)
    assert "restore" in str(refused.value)


def test_a_new_folder_is_begun_a_file_in_its_place_and_a_full_disk_are_refused(tmp_path: Path, monkeypatch) -> None:
    ready(tmp_path / "new")
    (tmp_path / "file").write_text("here already")
    with pytest.raises(FolderTrouble, match="cannot be written to"):
        ready(tmp_path / "file")
    monkeypatch.setattr("shutil.disk_usage", lambda _: type("Usage", (), {"free": 1_000_000})())
    with pytest.raises(FolderTrouble, match="MB are free"):
        ready(tmp_path / "new")


def test_a_key_that_is_empty_is_said_and_one_server_holds_a_folder(folder: Path) -> None:
    assert secret_key(folder) == secret_key(folder)
    (folder / SECRET).write_text("")
    with pytest.raises(FolderTrouble, match="empty or cut short"):
        secret_key(folder)
    alone(folder)
    with pytest.raises(FolderTrouble, match="Another Firkin"):
        alone(folder)


def test_a_backup_holds_what_stands_in_the_log_and_comes_back_the_same(folder: Path, tmp_path: Path) -> None:
    file, again = tmp_path / "all.zip", tmp_path / "again"
    assert (folder / f"{DATABASE}-wal").stat().st_size > 0
    backup.take(folder, file)
    assert file.stat().st_mode & 0o077 == 0
    backup.restore(file, again)
    assert rows(again / DATABASE) == rows(folder / DATABASE)
    assert (again / SECRET).read_text() == (folder / SECRET).read_text()
    assert damage_of(again / DATABASE) == ""
    ready(again)
    with pytest.raises(FolderTrouble, match="never written over"):
        backup.take(folder, file)
    with pytest.raises(FolderTrouble, match="not empty"):
        backup.restore(file, again)
    assert [path.name for path in tmp_path.iterdir() if path.name.startswith("tmp")] == []


@pytest.mark.parametrize("cut", [0, 10, 500, -40])
def test_a_backup_that_was_cut_short_writes_nothing(folder: Path, tmp_path: Path, cut: int) -> None:
    file, again = tmp_path / "all.zip", tmp_path / "again"
    backup.take(folder, file)
    whole = file.read_bytes()
    file.write_bytes(whole[:cut])
    with pytest.raises(FolderTrouble, match="nothing was written"):
        backup.restore(file, again)
    assert not again.exists()


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"format": "firkin-backup/2"}, "newer Firkin"),
        ({"format": "something"}, "no backup"),
        ({"sha256": {DATABASE: "0" * 64}}, "sums differ"),
        ({"sha256": {}}, "sums differ"),
        ({"sha256": None}, "no sound backup"),
    ],
)
def test_a_backup_of_another_kind_or_with_other_sums_is_refused(folder, tmp_path, change, says: str) -> None:
    file, odd = tmp_path / "all.zip", tmp_path / "odd.zip"
    backup.take(folder, file)
    with zipfile.ZipFile(file) as there, zipfile.ZipFile(odd, "w") as written:
        for name in there.namelist():
            content = there.read(name)
            if name == backup.MANIFEST:
                content = json.dumps(json.loads(content) | change).encode()
            written.writestr(name, content)
    with pytest.raises(FolderTrouble, match=says):
        backup.restore(odd, tmp_path / "again")
    assert not (tmp_path / "again").exists()


def test_nightly_copies_are_taken_once_a_day_and_let_go_by_the_rule(folder: Path) -> None:
    day = date(2026, 3, 1)
    assert backup.nightly(folder, day) is not None
    assert backup.nightly(folder, day) is None
    (only,) = backup.copies(folder)
    for back in range(1, 300):  # what lay there from before
        only.file.with_name(f"firkin-{day - timedelta(days=back)}.zip").write_bytes(b"x")
    backup.nightly(folder, day)
    left = [copy.day for copy in backup.copies(folder)]
    assert left[: backup.DAYS] == [day - timedelta(days=back) for back in range(backup.DAYS)]
    assert len(left) <= backup.DAYS + backup.WEEKS + backup.MONTHS


@given(st.sets(st.integers(0, 2000), min_size=1, max_size=60))
def test_the_newest_copy_is_always_kept(days: set[int]) -> None:
    today = date(2026, 3, 1)
    there = [backup.Copy(today - timedelta(days=back), Path(str(back)), 1) for back in days]
    kept = backup.kept(there, today)
    assert min(days) in {int(str(copy.file)) for copy in kept}
    assert {back for back in days if back < backup.DAYS} <= {int(str(copy.file)) for copy in kept}
    assert len(kept) == len(set(kept))


def test_the_page_of_copies_says_what_is_kept_and_when_none_is_there(bench: Client, settings, tmp_path: Path) -> None:
    settings.DATA = tmp_path
    page = said(bench.get("/copies/"))
    assert "There is no copy of today or yesterday" in page
    (tmp_path / "backups").mkdir()
    today = timezone.localdate()
    for back in (0, 3):
        (tmp_path / "backups" / f"firkin-{today - timedelta(days=back)}.zip").write_bytes(b"x" * 2048)
    page = said(bench.get("/copies/"))
    assert "There is no copy" not in page
    assert page.count("2.0 KB") == 2
    (tmp_path / "backups" / f"firkin-{today}.zip").unlink()
    assert "There is no copy of today or yesterday" in said(bench.get("/copies/"))


# copies that are encrypted, and kept in a second place


@pytest.fixture
def keys(tmp_path: Path) -> tuple[str, Path]:
    """A public key of age, and the file of the secret one."""
    pair = pyrage.x25519.Identity.generate()
    identity = tmp_path / "identity.txt"
    identity.write_text(f"# created for a test\n{pair}\n")
    return str(pair.to_public()), identity


def test_an_encrypted_backup_opens_with_its_identity_alone(folder: Path, tmp_path: Path, keys) -> None:
    recipient, identity = keys
    file = tmp_path / "all.zip.age"
    backup.take(folder, file, recipient)
    content = file.read_bytes()
    assert content.startswith(b"age-encryption.org/v1")
    assert (b"SQLite format 3" in content, b"PK\x03\x04" in content[:100]) == (False, False)
    other = tmp_path / "other.txt"
    other.write_text(str(pyrage.x25519.Identity.generate()))
    (tmp_path / "empty.txt").write_text("")
    for wrong, says in ((None, "is encrypted"), (other, "does not open"), (tmp_path / "empty.txt", "does not open"), (tmp_path / "no", "does not open")):  # fmt: skip
        with pytest.raises(FolderTrouble, match=says):
            backup.restore(file, tmp_path / "again", wrong)
        assert not (tmp_path / "again").exists()
    backup.restore(file, tmp_path / "again", identity)
    assert rows(tmp_path / "again" / DATABASE) == rows(folder / DATABASE)
    with pytest.raises(FolderTrouble, match="no recipient"):
        backup.take(folder, tmp_path / "x.age", "age1nonsense")
    assert not (tmp_path / "x.age").exists()


def test_the_nightly_copy_is_encrypted_and_goes_into_a_second_folder_too(folder, tmp_path, keys, monkeypatch) -> None:
    second = tmp_path / "stick"
    monkeypatch.setenv("FIRKIN_BACKUP_RECIPIENT", keys[0])
    monkeypatch.setenv("FIRKIN_BACKUP_SECOND", str(second))
    today = date(2026, 11, 29)
    with pytest.raises(FolderTrouble, match="is not there"):
        backup.nightly(folder, today)
    second.mkdir()
    assert backup.nightly(folder, today) is None  # the first was taken already; the second gets it now
    assert [file.name for file in second.iterdir()] == ["firkin-2026-11-29.zip.age"]
    assert (second / "firkin-2026-11-29.zip.age").stat().st_mode & 0o077 == 0
    backup.restore(second / "firkin-2026-11-29.zip.age", tmp_path / "again", keys[1])
    assert [copy.day for copy in backup.copies(folder)] == [today]
    for day in range(30):
        backup.nightly(folder, today + timedelta(days=day + 1))
    there = {file.name for file in second.iterdir()}
    assert there == {copy.file.name for copy in backup.copies(folder)}
    assert len(there) < 16


def test_the_newest_copy_is_found_whatever_it_is_called(folder: Path) -> None:
    with pytest.raises(FolderTrouble, match="no copy"):
        backup.newest(folder)
    backup.nightly(folder, date(2026, 11, 29))
    update = backup.before_update(folder, datetime(2026, 11, 29, 8, 30))
    assert update.name == "before-update-2026-11-29-083000.zip"
    os.utime(update, (2e9, 2e9))
    assert backup.newest(folder) == update
    for day in range(40):  # no rule lets go of it
        backup.nightly(folder, date(2026, 12, 1) + timedelta(days=day))
    assert update.exists()
