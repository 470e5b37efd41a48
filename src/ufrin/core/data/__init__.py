"""Figures as TOML: each table says its unit, its source and what kind of source that is."""
