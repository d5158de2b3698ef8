"""People and the workshops their things belong to."""
