"""./amber WORD: one word, one thing."""

from __future__ import annotations

import subprocess
import sys

from amber_cli.say import Failed

HELP = """Amber Pinion

  ./amber demo            install what is missing, start everything with demo data, until Ctrl-C
  ./amber test [LABEL]    every check and every test, then one summary line
  ./amber check           format, lint, types and import rules alone
  ./amber compute NAME    one computation: JSON on standard input, JSON on standard output
  ./amber bench           speed, as ratios from one run
  ./amber bench load      1, 8 and 32 people at once: requests a second, how long they take
  ./amber bench driveline drivelines, spectra and recordings, without a server
  ./amber bench setup [N] N random axles (1000) set up by the advice and by rules of thumb, side by side
  ./amber hostile [N]     N requests (10000) made from the API's schema, bad files, bent questions; what fails is listed
  ./amber torture [N [S]] N kills (500), seed S, of the parts of a workshop that is written to; every acknowledged write is looked for
  ./amber workshop WORD   a real workshop on this machine: make, start, check, backup, restore, upgrade (docs/running.md)
  ./amber cluster         three databases that follow one another, two web servers, one door, on loopback, with the demo (docs/cluster.md)
  ./amber cluster torture --minutes 10    the same, written to while its parts are killed
  ./amber serve           the server for a real workshop; settings from the environment (docs/running.md)
  ./amber manage ...      Django's own commands with the settings of ./amber serve
  ./amber types           write the API schema and the front end's types again
  ./amber help            this
"""


def main(arguments: list[str]) -> int:
    """Do what the first word says."""
    word, rest = (arguments[0], arguments[1:]) if arguments else ("help", [])
    if word == "compute":
        from amber_cli import install
        from amber_cli.paths import PYTHON

        install.system("compute")
        install.python(for_tests=False)
        return subprocess.call([str(PYTHON), "-m", "amber_cli.compute", *rest])
    if word in ("demo", "serve"):
        from amber_cli import running

        return running.demo() if word == "demo" else running.serve()
    if word in ("test", "check", "types"):
        from amber_cli import testing

        return {"test": lambda: testing.test(rest), "check": testing.check, "types": testing.make_types}[word]()
    if word == "bench":
        from amber_cli import benching

        if rest[:1] == ["setup"]:
            return benching.bench_setup(rest[1:])
        if rest == ["load"]:
            return benching.bench_load()
        if rest[:1] == ["driveline"]:
            return benching.bench_driveline()
        return benching.bench()
    if word == "hostile":
        from amber_cli import benching

        return benching.hostile(rest)
    if word == "torture":
        from amber_cli import benching

        return benching.torture(rest)
    if word == "workshop":
        from amber_cli.workshop import commands

        return commands.main(rest or ["--help"])
    if word == "cluster":
        from amber_cli.cluster import commands as cluster

        return cluster.main(rest)
    if word == "manage":
        from amber_cli import running

        return running.django(rest)
    print(HELP, file=sys.stdout if word in ("help", "-h", "--help") else sys.stderr)
    return 0 if word in ("help", "-h", "--help") else 64


if __name__ == "__main__":
    try:
        raise SystemExit(main(sys.argv[1:]))
    except Failed as wrong:
        print(f"\namber: {wrong}", file=sys.stderr)
        raise SystemExit(1) from None
    except KeyboardInterrupt:
        raise SystemExit(130) from None
