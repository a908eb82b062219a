"""The drawings, to scale: one module a station. Each takes a :class:`Sheet` and gives SVG."""
