"""The trade: pure Python, no web framework, no input or output but its own data files.

Inside, amounts are floats in mL and g, fractions of mass or volume between 0 and 1,
temperatures in degrees Celsius. Text is read at the edge (numerals, quantities, strengths).
"""
