"""The errors of core. Their text is a sentence fit to show to the maker."""


class CannotReckon(ValueError):
    """The numbers are understood but cannot be worked with; the text says what would be possible.

    ``path`` names the place in the input, as keys and positions, once it is known.

    >>> str(CannotReckon("A strength cannot be above 100 %.").at("lines", 0, "strength"))
    'A strength cannot be above 100 %.'
    """

    def __init__(self, message: str) -> None:
        super().__init__(message)
        self.path: tuple[str | int, ...] = ()

    def at(self, *path: str | int) -> "CannotReckon":
        """Return this error with ``path`` put before the place it already names."""
        self.path = path + self.path
        return self


class CannotRead(CannotReckon):
    """A text is not a number, quantity, strength or name that Firkin knows."""
