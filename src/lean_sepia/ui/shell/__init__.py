"""The window around the rooms: session, jobs, settings, first page, top bar, advice line."""
