"""Pages of bottles, recalls, money and review."""
