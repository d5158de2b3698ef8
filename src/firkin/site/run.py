"""Running Firkin: demo, serve, adduser, backup, restore. Called by the start-up script with its arguments."""

import argparse
import getpass
import logging
import os
import sqlite3
import subprocess
import sys
import tempfile
import threading
import zoneinfo
from datetime import date, datetime
from pathlib import Path

from firkin.site import backup
from firkin.site.folder import DATABASE, IN_USE, FolderTrouble, alone, data_folder, ready

#: Whoever else has an account on this machine reads nothing that Firkin writes.
OWNER_ONLY = 0o077


def main(arguments: list[str]) -> int:
    """Run one command of the start-up script."""
    parser = argparse.ArgumentParser(prog="./firkin")
    commands = parser.add_subparsers(dest="command", required=True)
    demo_command = commands.add_parser("demo", help="the Lantern Quay demo, on this machine only")
    demo_command.add_argument("--port", type=int, default=8640)
    demo_command.add_argument("--fresh", action="store_true", help="throw the demo's data away and start over")
    serve_command = commands.add_parser("serve", help="run it for real")
    serve_command.add_argument("--port", type=int, default=8641)
    serve_command.add_argument("--host", default="127.0.0.1", help="the address to listen on")
    serve_command.add_argument(
        "--lan", action="store_true", help="for the telephones at home: on this machine's address in its own network"
    )
    serve_command.add_argument("--allow", default="", help="host names it may be reached by, with commas")
    serve_command.add_argument("--https", action="store_true", help="it stands behind a proxy that speaks HTTPS")
    serve_command.add_argument(
        "--preload", action="store_true", help="ask browsers to know this name and those below it as HTTPS for good"
    )
    serve_command.add_argument(
        "--behind", default="", metavar="ADDRESS", help="the proxy's address, which is believed; with --https 127.0.0.1"
    )
    adduser_command = commands.add_parser("adduser", help="make an account")
    adduser_command.add_argument("name")
    adduser_command.add_argument("--workshop", default="", help="the workshop to join or found")
    adduser_command.add_argument("--zone", default="", help="its time zone, such as Europe/Berlin; else this machine's")
    backup_command = commands.add_parser("backup", help="copy the data folder into one file, also while it is served")
    backup_command.add_argument("file", type=Path)
    backup_command.add_argument("--recipient", default="", help="a public key of age to encrypt it for")
    restore_command = commands.add_parser("restore", help="put a backup into an empty data folder")
    restore_command.add_argument("file", type=Path, nargs="?")
    restore_command.add_argument("--identity", type=Path, help="the file of the key of age that opens it")
    restore_command.add_argument(
        "--drill",
        action="store_true",
        help="try the newest copy in a scratch folder: open every page",
    )
    export_command = commands.add_parser("export", help="a whole workshop (a zip or a folder), or one formula (.json)")
    export_command.add_argument("file", type=Path)
    export_command.add_argument("--workshop", default="", help="which, where there are several")
    export_command.add_argument("--formula", default="", help="the name of a formula: that one alone")
    export_command.add_argument("--batch", default="", help="the number of a batch, such as 26-014: that one alone")
    import_command = commands.add_parser("import", help="a workshop or a formula that was exported")
    import_command.add_argument("file", type=Path)
    import_command.add_argument("--check", action="store_true", help="say what it would add, and add nothing")
    import_command.add_argument("--workshop", default="", help="where a formula goes, where there are several")
    import_command.add_argument("--into", default="", help="bring it into this workshop, beside what it has")
    import_command.add_argument("--as", dest="name", default="", help="the name of the workshop here")
    import_command.add_argument("--account", default="", help="an account that becomes a member")
    manage_command = commands.add_parser("manage", help="a management command of the framework")
    manage_command.add_argument("rest", nargs=argparse.REMAINDER)
    options = parser.parse_args(arguments)
    os.umask(OWNER_ONLY)
    try:
        return _run(options)
    except FolderTrouble as trouble:
        print(trouble, file=sys.stderr)
        return 1


def _run(options: argparse.Namespace) -> int:
    mode = "demo" if options.command == "demo" else "serve"
    folder = data_folder(mode)
    if options.command == "backup":
        backup.take(folder, options.file, options.recipient)
        print(f"{options.file} holds all of {folder}. Restore it into an empty folder with ./firkin restore.")
        return 0
    if options.command == "restore" and options.drill:
        return drill(options.file or backup.newest(folder), options.identity)
    if options.command == "restore":
        if options.file is None:
            raise FolderTrouble("Say which file to restore, or --drill.")
        backup.restore(options.file, folder, options.identity)
        print(f"{folder} is as it was. Start with ./firkin serve.")
        return 0
    os.environ["DJANGO_SETTINGS_MODULE"] = "firkin.site.settings"
    os.environ["FIRKIN_MODE"] = mode
    if options.command == "serve":
        if options.lan:
            _to_lan(options)
        os.environ["FIRKIN_HOSTS"] = options.allow
        os.environ["FIRKIN_HTTPS"] = "1" if options.https else "0"
        os.environ["FIRKIN_PRELOAD"] = "1" if options.preload else "0"
    if options.command == "manage":
        from django.core.management import execute_from_command_line

        execute_from_command_line(["firkin", *options.rest])
        return 0
    ready(folder)
    lock = alone(folder) if options.command in ("demo", "serve") else None
    prepare(folder)
    if options.command in ("export", "import"):
        from firkin.exchange.transfer import run

        return run(options)
    if options.command == "adduser":
        return add_user(options.name, options.workshop, options.zone)
    if options.command == "demo":
        load_demo(options.fresh)
        serve("127.0.0.1", options.port)
    else:
        threading.Thread(target=copy_nightly, args=(folder,), daemon=True).start()
        serve(options.host, options.port, options.behind or ("127.0.0.1" if options.https else ""), lan=options.lan)
    if lock is not None:
        os.close(lock)
    return 0


def _to_lan(options: argparse.Namespace) -> None:
    """Listen on this machine's own address at home, which is then the only name it answers to."""
    from firkin.site import lan

    address = lan.own_address()
    if options.https or options.behind:
        raise FolderTrouble("--lan is for plain HTTP at home. Behind a proxy, give --host and --allow.")
    if address is None:
        raise FolderTrouble("This machine has no address in a home network. Say which with --host and --allow.")
    options.host = address
    options.allow = ",".join(filter(None, (options.allow, address)))


def prepare(folder: Path) -> None:
    """Bring the database up to date, collect the static files.

    Raises FolderTrouble where the folder does not let it.
    """
    import django
    from django.core.management import call_command
    from django.db import DatabaseError

    django.setup()
    try:
        if _behind(folder):
            copy = backup.before_update(folder, datetime.now())
            print(f"The database is brought up to date. {copy} holds it as it was.", file=sys.stderr)
        call_command("migrate", verbosity=0, interactive=False)
        call_command("collectstatic", verbosity=0, interactive=False)
        (folder / IN_USE).touch()
    except (DatabaseError, OSError) as error:
        raise FolderTrouble(f"{folder} cannot be used ({error}). Is the disk full, or the folder read-only?") from None


def _behind(folder: Path) -> bool:
    """True where there is a database, and a newer Firkin is about to change its tables."""
    from django.db import connection
    from django.db.migrations.executor import MigrationExecutor

    if not (folder / DATABASE).exists() or (folder / DATABASE).stat().st_size == 0:
        return False
    executor = MigrationExecutor(connection)
    done = bool(executor.loader.applied_migrations)
    return done and bool(executor.migration_plan(executor.loader.graph.leaf_nodes()))


def drill(file: Path, identity: Path | None) -> int:
    """Restore a copy into a scratch folder in a process of its own, open every page of it, and say what came of it."""
    with tempfile.TemporaryDirectory() as scratch:
        backup.restore(file, Path(scratch), identity)
        environment = {**os.environ, "FIRKIN_DATA": scratch, "FIRKIN_MODE": "serve"}
        environment.pop("DJANGO_SETTINGS_MODULE", None)
        tried = subprocess.run(
            [sys.executable, "-m", "firkin.site.drill"], env=environment, check=False, capture_output=True, text=True
        )
    print(f"{file}: {tried.stdout.strip() or tried.stderr.strip()[-500:]}")
    return tried.returncode


#: Seconds between two looks whether today’s copy is there.
_LOOK_S = 3600.0


def copy_nightly(folder: Path) -> None:
    """A copy of the data folder each day, as long as this process lives; what goes wrong is logged, and tried again."""
    stopped = threading.Event()
    while True:
        try:
            backup.nightly(folder, date.today())
        except (FolderTrouble, OSError, sqlite3.Error) as trouble:
            logging.getLogger("firkin.backup").error("No copy of today: %s", trouble)
        stopped.wait(_LOOK_S)


def load_demo(fresh: bool) -> None:
    """Fill the demo's database when it is empty, or when asked to start over."""
    from django.core.management import call_command

    from firkin.accounts.models import Workshop
    from firkin.site import demo

    if fresh:
        call_command("flush", verbosity=0, interactive=False)
    if not Workshop.objects.exists():
        demo.load()


def add_user(name: str, workshop_name: str, zone: str) -> int:
    """Make an account and its workshop, asking for the password twice."""
    from django.contrib.auth.password_validation import validate_password
    from django.core.exceptions import ValidationError

    from firkin.accounts.first import machine_zone
    from firkin.accounts.models import Membership, User, Workshop

    if zone and zone not in zoneinfo.available_timezones():
        print(f"{zone} is not a time zone. Write one such as Europe/Berlin.", file=sys.stderr)
        return 2
    if User.objects.filter(username=name).exists():
        print(f"There is already an account {name}.", file=sys.stderr)
        return 2
    if sys.stdin.isatty():
        password = getpass.getpass("Password: ")
        if password != getpass.getpass("Once more: "):
            print("The two passwords differ.", file=sys.stderr)
            return 2
    else:
        password = sys.stdin.readline().rstrip("\n")
    user = User(username=name)
    try:
        user.full_clean(exclude=["password"])
        validate_password(password, user)
    except ValidationError as error:
        print(" ".join(error.messages), file=sys.stderr)
        return 2
    user.set_password(password)
    user.save()
    found = {"time_zone": zone or machine_zone()}
    workshop, new = Workshop.objects.get_or_create(name=workshop_name or f"{name}’s bench", defaults=found)
    if zone and not new and workshop.time_zone != zone:
        workshop.time_zone = zone
        workshop.save(update_fields=["time_zone"])
    Membership.objects.create(user=user, workshop=workshop)
    print(f"Account {name} in “{workshop.name}”, on {workshop.time_zone} time. Start with ./firkin serve.")
    return 0


#: More than this the server does not even take in, of whatever is sent.
MOST_BYTES = 64 * 1024 * 1024


#: So many connections are held at a time; one that sends nothing for so many seconds, or only drops, is closed
#: (patience.Channel). Whoever sends half a request and waits keeps nobody out.
MOST_CONNECTIONS, PATIENCE_S = 500, 20


def serve(host: str, port: int, behind: str = "", *, lan: bool = False) -> None:
    """Serve until interrupted; what a proxy at the address ``behind`` says of its clients is believed, no other's.

    With ``lan`` a code for the telephones at home is printed, and what is sent in clear.
    """
    from django.core.wsgi import get_wsgi_application
    from waitress import create_server
    from waitress.server import TcpWSGIServer

    from firkin.accounts.first import link
    from firkin.site.patience import Channel

    # On the class: create_server makes one server for each address of the host and takes no class of channels.
    TcpWSGIServer.channel_class = Channel

    believed = {"trusted_proxy_headers": {"x-forwarded-proto", "x-forwarded-for"}, "trusted_proxy_count": 1}
    proxy = {"trusted_proxy": behind, **believed} if behind else {}
    try:
        server = create_server(
            get_wsgi_application(),
            host=host,
            port=port,
            threads=6,
            ident=None,
            connection_limit=MOST_CONNECTIONS,
            channel_timeout=PATIENCE_S,
            cleanup_interval=5,
            asyncore_use_poll=True,
            max_request_body_size=MOST_BYTES,
            clear_untrusted_proxy_headers=True,
            **proxy,
        )
    except OSError as error:
        sys.exit(f"Cannot listen on {host}:{port} ({error.strerror}). Try another --port.")
    print(f"Firkin is at http://{host}:{server.effective_port}/  (Ctrl-C to stop)", flush=True)
    if lan:
        from firkin.site.lan import IN_CLEAR, code

        print(f"{code(f'http://{host}:{server.effective_port}/')}\n{IN_CLEAR}", flush=True)
    way_in = link()
    if way_in:
        here = f"http://{'127.0.0.1' if host in ('0.0.0.0', '::') else host}:{server.effective_port}"  # noqa: S104
        print(f"There is no account yet. Make the first one here, within a day: {here}{way_in}", flush=True)
    server.run()


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
