"""How long what lies below must be left alone before what comes next, and until when that is possible."""
