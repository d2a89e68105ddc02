"""How far to lighten a colour and with what: fades, ladders of tones, panels."""
