"""Hydraulics: friction, outlets, the network and its solution, evenness."""
