"""What is wrong with a mix, or worth knowing: the rules by subject, each finding with its stable id, and what would
cure it. Imports questions and what lies below it; recipe and bench may import it.
"""

from firkin.core.audit.audit import VERDICT_RULES, audit
from firkin.core.audit.findings import Finding, Severity
from firkin.core.audit.fixes import fixes
from firkin.core.audit.materials import audit_materials
from firkin.core.audit.mixing import GOES_IN, meeting_finding
from firkin.core.audit.together import together

__all__ = [
    "GOES_IN",
    "VERDICT_RULES",
    "Finding",
    "Severity",
    "audit",
    "audit_materials",
    "fixes",
    "meeting_finding",
    "together",
]
