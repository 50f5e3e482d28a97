"""Command line: a module a verb; what is reckoned is JSON in, JSON out.

`lynxwort --help` lists the verbs, `lynxwort VERB --help` what each takes; `python -m lynxwort` is the same.
Exit 0, or 2 with {"errors": [{path, code, low, high, unit, message}]} on standard output.
"""
