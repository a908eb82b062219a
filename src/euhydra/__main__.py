"""``python -m euhydra``."""

import sys

from euhydra.cli import main

sys.exit(main())
