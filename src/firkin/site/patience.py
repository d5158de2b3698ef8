"""How long the server waits for a request that is still arriving: as long as it keeps coming, and not by drops."""

from time import time
from typing import Any

from waitress.channel import HTTPChannel

#: Slower than this, over the whole of a request, nothing is sent that anybody waits for. Common practice, no source.
LEAST_BYTES_A_SECOND = 500


class Channel(HTTPChannel):  # type: ignore[misc]  # waitress has no types
    """A connection whose half request counts as idle once it arrives slower than LEAST_BYTES_A_SECOND.

    The server closes what is idle for its ``channel_timeout``. A byte now and then would keep a place for ever if each
    of them counted as activity; a photo over a slow line keeps its place.
    """

    last_activity: float
    _began: float | None = None
    _bytes = 0

    def received(self, data: bytes) -> Any:
        """Take in what came, and say when the sender was last in time."""
        if self.request is None or self._began is None:
            self._began, self._bytes = time(), 0
        self._bytes += len(data)
        taken = super().received(data)
        if self.request is None:
            self._began = None
        else:
            self.last_activity = min(self.last_activity, self._began + self._bytes / LEAST_BYTES_A_SECOND)
        return taken
