"""Firkin: the bench companion of a home maker of hand rubs, soaps and detergents."""

__version__ = "0.1.0"
