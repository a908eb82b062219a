"""What machines ask and tell over HTTP, described by OpenAPI at ``/api/openapi.json``."""

from euhydra.web.api.app import api

__all__ = ["api"]
