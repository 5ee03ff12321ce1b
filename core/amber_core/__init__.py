"""The computation of Amber Pinion: no Django, no HTTP, no input or output. Millimetres, newton-metres and degrees throughout."""

__version__ = "0.7"
"""Kept beside every saved answer, so that an old one can be told from what would be computed today."""
