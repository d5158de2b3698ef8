"""Practice: the trade’s arithmetic drawn, marked, repeated when it is due, and printed."""
