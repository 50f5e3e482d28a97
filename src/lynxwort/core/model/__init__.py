"""The inputs: bike, setup, parts box, riders, race, readings. Frozen, bounded, (de)serialisable."""
