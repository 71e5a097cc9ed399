#!/usr/bin/env python3
"""Writes docs/figures.md from what `make bench` measured: figures.py BENCH_LOG > docs/figures.md

Times of Criterion come from target/criterion (medians), the rest from the log, whose parts begin with '== '.
"""

import json
import pathlib
import platform
import re
import subprocess
import sys
import time

root = pathlib.Path(__file__).parent.parent


def said_by(*command):
    return subprocess.run(command, cwd=root, capture_output=True, text=True, check=True).stdout.strip()


def in_units(ns):
    for unit, size in (("s", 1e9), ("ms", 1e6), ("µs", 1e3)):
        if ns >= size:
            return f"{ns / size:.3g} {unit}"
    return f"{ns:.3g} ns"


def criterion(since):
    """Name, median and its 95 % interval of each benchmark measured after a moment, in seconds since 1970."""
    for estimates in sorted((root / "target/criterion").rglob("new/estimates.json")):
        if estimates.stat().st_mtime >= since:
            name = json.loads(estimates.with_name("benchmark.json").read_text())["full_id"]
            median = json.loads(estimates.read_text())["median"]
            range_ = median["confidence_interval"]
            yield name, *map(in_units, (median["point_estimate"], range_["lower_bound"], range_["upper_bound"]))


def parts(log):
    """The parts of the log that are tables of their own, without what Cargo says."""
    noise = re.compile(r"^(running \d+|test .*\.\.\. |test result|\s*$)")
    for part in re.split(r"^== ", log, flags=re.M)[1:]:
        title, *lines = part.splitlines()
        kept = [line.rstrip() for line in lines if not noise.match(line)]
        if kept and not any(re.search(r"^\s+time:\s+\[", line) for line in kept):
            yield title, kept


def main():
    log = pathlib.Path(sys.argv[1])
    cpu = re.search(r"^model name\s*: (.*)$", pathlib.Path("/proc/cpuinfo").read_text(), re.M)
    # The log was begun when the first benchmark was; its first line says when.
    text = log.read_text()
    began = float(text.split("\n", 1)[0])
    print("# Figures\n")
    print("Written by `make bench`; typed nowhere. Goals are in [ARCHITECTURE.md](../ARCHITECTURE.md#measured).\n")
    print(f"- {time.strftime('%Y-%m-%d', time.gmtime(began))}, commit {said_by('git', 'rev-parse', '--short', 'HEAD')}")
    print(f"- {cpu.group(1) if cpu else platform.machine()}, {said_by('nproc')} cores, {said_by('rustc', '--version')}\n")
    print("| what | median | 95 % of medians |\n|---|---|---|")
    for name, median, low, high in criterion(began):
        print(f"| {name} | {median} | {low} to {high} |")
    for title, lines in parts(text):
        print(f"\n## {title[0].upper()}{title[1:]}\n\n```text")
        print("\n".join(lines))
        print("```")


main()
