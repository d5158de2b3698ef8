"""What pages share: form fields that read the bench's language, rows of lines, template tags, fragments, their styles.

Imports core and drawings, and knows no model: shelf and every app above it may import it.
"""
