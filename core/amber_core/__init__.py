"""The computation of Amber Pinion: no Django, no HTTP, no input or output. Millimetres, newton-metres and degrees throughout."""
