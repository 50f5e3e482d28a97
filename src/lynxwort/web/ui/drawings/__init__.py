"""Computed drawings as SVG: lengths across in percent, up in pixels, so that text never stretches. Only the screen's
arithmetic.
"""
