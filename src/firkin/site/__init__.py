"""The whole site: settings, root addresses, base template, home page and static files."""
