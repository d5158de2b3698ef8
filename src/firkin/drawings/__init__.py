"""Numbers in, SVG out. Colours and fonts come from the page's style sheet by class."""
