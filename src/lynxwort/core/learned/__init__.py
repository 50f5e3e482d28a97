"""Estimators, one quantity a file: what readings say of it, given what was predicted and how far a measurement may lie
off.
"""
