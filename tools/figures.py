#!/usr/bin/env python3
"""Measures, and writes what was measured into docs/figures.md: figures.py [PART ...], all parts without one.

A part that is not measured keeps what it has there, with its own day and commit. Times of Criterion come from
target/criterion (medians), other figures from what the part prints.
"""

import json
import pathlib
import platform
import re
import subprocess
import sys
import time

root = pathlib.Path(__file__).parent.parent
page = root / "docs/figures.md"

# Name, title, what builds and runs it, what goes to the program that is run.
PARTS = [
    ("stages", "The stages", "bench -p kachel-engine", ""),
    ("plane", "Join and grow, side by side with libraries of the registry", "bench -p kachel-geom --bench plane", ""),
    ("beds", "Beds", "bench -p kachel-pack", ""),
    (
        "tracing",
        "Tracing quality and time, side by side with a library of the registry",
        "bench -p kachel-trace --bench quality",
        "",
    ),
    (
        "defaults",
        "What Check says of default objects",
        "test --release -p kachel-engine --test defaults",
        "three_hundred --ignored --nocapture",
    ),
    (
        "browser",
        "In the browser, with software rendering (release build)",
        "test --release -p kachel-server --test browser",
        "timings --ignored --nocapture --test-threads=1",
    ),
]

HEAD = """# Figures

Written by `make bench`, or part by part by `make bench PART=stages` (or plane, beds, tracing, defaults, browser); typed nowhere.
Goals are in [ARCHITECTURE.md](../ARCHITECTURE.md#measured).
"""


def said_by(*command):
    return subprocess.run(command, cwd=root, capture_output=True, text=True, check=True).stdout.strip()


def in_units(ns):
    for unit, size in (("s", 1e9), ("ms", 1e6), ("µs", 1e3)):
        if ns >= size:
            return f"{ns / size:.3g} {unit}"
    return f"{ns:.3g} ns"


def criterion(since):
    """A table of each benchmark measured after a moment, in seconds since 1970: median and its 95 % interval."""
    rows = []
    for estimates in sorted((root / "target/criterion").rglob("new/estimates.json")):
        if estimates.stat().st_mtime >= since:
            name = json.loads(estimates.with_name("benchmark.json").read_text())["full_id"]
            median = json.loads(estimates.read_text())["median"]
            range_ = median["confidence_interval"]
            all_ = map(in_units, (median["point_estimate"], range_["lower_bound"], range_["upper_bound"]))
            rows.append("| {} | {} | {} to {} |".format(name, *all_))
    return ["| what | median | 95 % of medians |", "|---|---|---|", *rows] if rows else []


def printed(log):
    """What a part prints, without what Cargo and the test runner say."""
    noise = re.compile(r"^(running \d+|test result|ok$|\s*$)")
    # The first line that a test prints follows its name.
    lines = (re.sub(r"^test \S+ \.\.\. ", "", line.rstrip()) for line in log.splitlines())
    return ["```text", *(line for line in lines if not noise.match(line)), "```"]


def ticks():
    """The processors' time so far, in all and what the host of a virtual machine gave to others (man 5 proc_stat)."""
    times = [int(n) for n in pathlib.Path("/proc/stat").read_text().split()[1:9]]
    return sum(times), times[7]


def measured(build, arguments):
    """Runs a part; the lines that go below its title."""
    began, (all_before, stolen_before) = time.time(), ticks()
    command = ["cargo", *build.split(), *(["--", *arguments.split()] if arguments else [])]
    log = ""
    with subprocess.Popen(command, cwd=root, stdout=subprocess.PIPE, text=True) as run:
        for line in run.stdout:
            print(line, end="", flush=True)
            log += line
    if run.returncode != 0:
        sys.exit(f"{' '.join(command)} failed: nothing is written")
    all_after, stolen = ticks()
    table = criterion(began) or printed(log)
    cpu = re.search(r"^model name\s*: (.*)$", pathlib.Path("/proc/cpuinfo").read_text(), re.M)
    return [
        f"{time.strftime('%Y-%m-%d', time.gmtime(began))}, commit {said_by('git', 'rev-parse', '--short', 'HEAD')}, "
        f"{cpu.group(1) if cpu else platform.machine()}, {said_by('nproc')} cores, {said_by('rustc', '--version')}, "
        f"{100 * (stolen - stolen_before) / (all_after - all_before):.0f} % of the time taken by the machine's host",
        "",
        *table,
    ]


def main():
    wanted = sys.argv[1:] or [name for name, *_ in PARTS]
    if strange := set(wanted) - {name for name, *_ in PARTS}:
        sys.exit(f"no part is named {', '.join(sorted(strange))}: {', '.join(name for name, *_ in PARTS)}")
    # Everything is built before anything is timed.
    for name, _, build, _ in PARTS:
        if name in wanted:
            subprocess.run(["cargo", *build.split(), "--no-run"], cwd=root, check=True)
    for name, title, build, arguments in PARTS:
        if name in wanted:
            print(f"== {title}", flush=True)
            lines = measured(build, arguments)
            before = dict(
                (part.split("\n", 1)[0], part.split("\n", 1)[1].strip())
                for part in re.split(r"^## ", page.read_text(), flags=re.M)[1:]
            )
            before[title] = "\n".join(lines)
            sections = [f"## {title}\n\n{before[title]}\n" for _, title, *_ in PARTS if title in before]
            page.write_text("\n".join([HEAD, *sections]))


main()
