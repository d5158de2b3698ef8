"""Pages of needs, the plan, shopping and playing ahead."""
