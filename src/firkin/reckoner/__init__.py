"""The questions of strength and dilution, each a page that recalculates as the maker types."""
