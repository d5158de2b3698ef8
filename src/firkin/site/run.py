"""Running Firkin: demo, serve, adduser. Called by the start-up script with its arguments."""

import argparse
import getpass
import os
import sys
import zoneinfo
from pathlib import Path


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
    serve_command.add_argument("--allow", default="", help="host names it may be reached by, with commas")
    serve_command.add_argument("--https", action="store_true", help="it stands behind a proxy that speaks HTTPS")
    adduser_command = commands.add_parser("adduser", help="make an account")
    adduser_command.add_argument("name")
    adduser_command.add_argument("--workshop", default="", help="the workshop to join or found")
    adduser_command.add_argument("--zone", default="", help="its time zone, such as Europe/Berlin; else this machine's")
    manage_command = commands.add_parser("manage", help="a management command of the framework")
    manage_command.add_argument("rest", nargs=argparse.REMAINDER)
    options = parser.parse_args(arguments)

    os.environ["DJANGO_SETTINGS_MODULE"] = "firkin.site.settings"
    os.environ["FIRKIN_MODE"] = "demo" if options.command == "demo" else "serve"
    if options.command == "serve":
        os.environ["FIRKIN_HOSTS"] = options.allow
        os.environ["FIRKIN_HTTPS"] = "1" if options.https else "0"
    if options.command == "manage":
        from django.core.management import execute_from_command_line

        execute_from_command_line(["firkin", *options.rest])
        return 0
    prepare()
    if options.command == "adduser":
        return add_user(options.name, options.workshop, options.zone or machine_zone())
    if options.command == "demo":
        load_demo(options.fresh)
    serve("127.0.0.1" if options.command == "demo" else options.host, options.port)
    return 0


def prepare() -> None:
    """Make the data folder, bring the database up to date, collect the static files."""
    import django
    from django.conf import settings
    from django.core.management import call_command

    settings.DATA.mkdir(parents=True, exist_ok=True)
    django.setup()
    call_command("migrate", verbosity=0, interactive=False)
    call_command("collectstatic", verbosity=0, interactive=False)


def load_demo(fresh: bool) -> None:
    """Fill the demo's database when it is empty, or when asked to start over."""
    from django.core.management import call_command

    from firkin.accounts.models import Workshop
    from firkin.site import demo

    if fresh:
        call_command("flush", verbosity=0, interactive=False)
    if not Workshop.objects.exists():
        demo.load()


def machine_zone() -> str:
    """The time zone this machine is set to, by its name; UTC when it does not say."""
    place = str(Path("/etc/localtime").resolve())
    name = os.environ.get("TZ") or place.partition("zoneinfo/")[2]
    return name if name in zoneinfo.available_timezones() else "UTC"


def add_user(name: str, workshop_name: str, zone: str) -> int:
    """Make an account and its workshop, asking for the password twice."""
    from django.contrib.auth.password_validation import validate_password
    from django.core.exceptions import ValidationError

    from firkin.accounts.models import Membership, User, Workshop

    if zone not in zoneinfo.available_timezones():
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
    workshop, _ = Workshop.objects.get_or_create(name=workshop_name or f"{name}’s bench", defaults={"time_zone": zone})
    Membership.objects.create(user=user, workshop=workshop)
    print(f"Account {name} in “{workshop.name}”, on {workshop.time_zone} time. Start with ./firkin serve.")
    return 0


#: Bytes of one request: a photo of 15 MB and its form.
MOST_UPLOAD = 16 * 1024 * 1024


def serve(host: str, port: int) -> None:
    """Serve until interrupted."""
    from django.core.wsgi import get_wsgi_application
    from waitress import create_server

    try:
        server = create_server(
            get_wsgi_application(), host=host, port=port, threads=6, ident=None, max_request_body_size=MOST_UPLOAD
        )
    except OSError as error:
        sys.exit(f"Cannot listen on {host}:{port} ({error.strerror}). Try another --port.")
    print(f"Firkin is at http://{host}:{server.effective_port}/  (Ctrl-C to stop)", flush=True)
    server.run()


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
