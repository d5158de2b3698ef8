"""Pages of batches: the stages, looking and rescuing, the calendar, comparing, pouring by the scale."""
