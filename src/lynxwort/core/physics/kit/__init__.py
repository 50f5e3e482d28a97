"""Kit: tyres, brakes, cooling, electrics, sound, masses at their places (KIT.md). Each law comes with its issue."""
