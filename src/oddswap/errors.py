"""The one error the core raises for input that cannot be: it names the field, the value, the limit and the way out."""

from __future__ import annotations


class DomainError(ValueError):
    """A value outside what the job allows.

    Args:
        field: Path of the field in the document it came from, for example ``"sources.0.mass_kg"``.
        value: The offending value as given.
        limit: What is allowed, in words with units.
        way_out: What the reader can do about it.
    """

    def __init__(self, field: str, value: object, limit: str, way_out: str) -> None:
        self.field, self.value, self.limit, self.way_out = field, value, limit, way_out
        super().__init__(f"{field}: {value!r} cannot be: {limit}. {way_out}")

    def at(self, prefix: str) -> DomainError:
        """The same error seen from a document that holds this one under ``prefix``."""
        return DomainError(f"{prefix}.{self.field}" if self.field else prefix, self.value, self.limit, self.way_out)
