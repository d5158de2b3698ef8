"""The command `firkin` of an installed Firkin, and `python -m firkin`: what the start-up script hands over to."""

import sys

_TEXT_COMMANDS = ("reckon", "solve", "read", "plan", "rehearse")


def main() -> int:
    """Run the command that the arguments name; the text commands without the web framework."""
    arguments = sys.argv[1:]
    if arguments and arguments[0] in _TEXT_COMMANDS:
        from firkin.exchange import textcommands

        return textcommands.main(arguments)
    from firkin.site import run

    return run.main(arguments)


if __name__ == "__main__":
    sys.exit(main())
