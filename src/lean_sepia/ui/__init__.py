"""The window: the only folder that imports Qt. It asks the core and shows the answer."""
