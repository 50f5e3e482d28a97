"""Command line: JSON in, JSON out; a module a verb.

    python -m lynxwort evaluate FILE.json [--views [NAME ...]] | --example | --schema python -m lynxwort course
    FILE.gpx --heights barometer|satellite|terrain [--stage STAGE.json] [--out geojson] python -m lynxwort sweep
    FILE.json python -m lynxwort propose FILE.json [--wish WISH.json] python -m lynxwort stops FILE.json python -m
    lynxwort stack FILE.json [--speed M/S] [--valve shock_piston --change PERCENT] python -m lynxwort ride FILE.json
    [--felt COMPLAINT --end rear] python -m lynxwort log LOG.csv --setup FILE.json [--column lambda=3 ...] [--gauge
    14.7] python -m lynxwort dyno RUN.csv [RUN.csv ...] --setup FILE.json [--place wheel|crank] [--standard
    none|sae_j1349|iso_1585|din_70020] python -m lynxwort kit FILE.json [--on ID] [--off ID] python -m lynxwort build
    FILE.json python -m lynxwort spares FILE.json python -m lynxwort week FILE.json [--today DAY] python -m lynxwort
    trial FILE.json python -m lynxwort laps SESSION.gpx --course LAP.gpx

Exit 0, or 2 with {"errors": [{path, code, low, high, unit, message}]} on standard output.
"""
