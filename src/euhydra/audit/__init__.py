"""Whether all that is said of a garden agrees: every statement of one quantity, wherever made."""

from euhydra.audit.compare import Audited, Difference, audit
from euhydra.audit.statements import Statement

__all__ = ["Audited", "Difference", "Statement", "audit"]
