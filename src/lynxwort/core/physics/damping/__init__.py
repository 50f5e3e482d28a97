"""Damping: orifices, clicks, shim stacks, force against shaft speed."""
