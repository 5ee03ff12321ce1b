"""What the product says: sentences with typed parameters, told in the reader's language and units."""

from amber_core.words.reader import Reader, reading_as
from amber_core.words.said import NOTHING, Said, figure, listed, retold, say, stored, storing, together

__all__ = ["NOTHING", "Reader", "Said", "figure", "listed", "reading_as", "retold", "say", "stored", "storing", "together"]
