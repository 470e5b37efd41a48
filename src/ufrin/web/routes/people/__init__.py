"""People and devices: signing in, who may, tablets at the bench, and who did what."""
