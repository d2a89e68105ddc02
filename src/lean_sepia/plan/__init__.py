"""Time and safety: steps, rules, drying, schedule, cautions."""
