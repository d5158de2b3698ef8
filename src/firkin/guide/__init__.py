"""The guide: rule lines with their sources, cautions, words."""
