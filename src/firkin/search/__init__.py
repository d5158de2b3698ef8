"""One search over formulas, batches, stocks, people with bottles and the guide. The site and exchange import it; it
imports batches, the guide and what lies below.
"""
