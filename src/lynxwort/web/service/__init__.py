"""Service: what is written down of a bike's hours, parts, checks, wear and bolts."""
