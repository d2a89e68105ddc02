"""When each step is done: one pair of hands, inside the evenings, waits in calendar time."""
