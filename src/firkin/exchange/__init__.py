"""Firkin's open formats: reading and writing them, and the text commands that use them."""
