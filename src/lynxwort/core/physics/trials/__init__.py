"""Trials: design, effects, looks, scores, learning, timing, growth. Sign of every effect: the second setting
less the first, minus is quicker.
"""
