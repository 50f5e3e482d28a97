"""The demo scenario: invented places, people and makes."""
