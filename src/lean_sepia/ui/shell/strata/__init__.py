"""The zone column: the rack of cores, the chosen core large, and its foot."""
