"""`./sepia bench`: run every measurement, or those named."""

import sys

from benchmarks import (
    ageing,
    answers,
    bottles,
    card,
    cast,
    fading,
    film,
    fitting,
    harmonise,
    laying,
    mixing,
    placing,
    plan,
    projects,
    promise,
    ranges,
    responsiveness,
    startup,
    trust,
    viewing,
    wear,
    whole,
)

ALL = {
    "startup": startup.main,
    "mixing": mixing.main,
    "bottles": bottles.main,
    "fitting": fitting.main,
    "fading": fading.main,
    "ageing": ageing.main,
    "harmonise": harmonise.main,
    "promise": promise.main,
    "trust": trust.main,
    "ranges": ranges.main,
    "card": card.main,
    "cast": cast.main,
    "film": film.main,
    "viewing": viewing.main,
    "wear": wear.main,
    "placing": placing.main,
    "plan": plan.main,
    "projects": projects.main,
    "laying": laying.main,
    "whole": whole.main,
    "answers": answers.main,
    "responsiveness": responsiveness.main,
}


def main() -> int:
    """Exit 1 where a figure was not reached."""
    chosen = [name for name in sys.argv[1:] if not name.startswith("-")] or list(ALL)
    unknown = [name for name in chosen if name not in ALL]
    if unknown:
        print(f"There is no benchmark {unknown[0]!r}; there are {', '.join(ALL)}.", file=sys.stderr)
        return 2
    reached = [ALL[name]() for name in chosen]
    return 0 if all(reached) else 1


if __name__ == "__main__":
    sys.exit(main())
