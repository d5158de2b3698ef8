"""The formula book: formulas, their versions, lines and steps."""
