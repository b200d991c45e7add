"""Formats: bytes in, core dataclasses out, and back. Open formats only."""
