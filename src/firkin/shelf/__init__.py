"""What stands on the shelf: stocks, own materials, vessels and bottles."""
