"""Pages of batches: the stages, readings and rescues, the calendar, comparing, pouring by the scale."""
