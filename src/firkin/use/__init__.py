"""After the bottle: who has what, how long it lasts, what is called back, what it costs and how batches compare.

Pages over what batches keep; it has no tables of its own. Imports batches and what lies below; site and exchange import
it.
"""
