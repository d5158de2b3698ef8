"""The season: what is needed by when, the plan drawn over weeks, what to buy, and the plan played ahead."""
