"""What a maker filled in at each station, and the same with every default settled. Pure data.

Imports ``data_files`` of ``core`` alone.
"""
