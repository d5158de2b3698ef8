"""Batches: making a formula once, from planning to the empty bottle."""
