#!/usr/bin/env python3
"""Every number at both ends of its range, on a demo that has its kind: each small render must end, with finite pixels.

    range_sweep.py --cli PROGRAM --demo FOLDER [--sample SHARE] [--seed S] [--seconds T] [--only KIND] [--slowest N]"""
import argparse, json, pathlib, random, shutil, subprocess, sys, tempfile, time

a = argparse.ArgumentParser()
a.add_argument("--cli", required=True)
a.add_argument("--demo", required=True)
a.add_argument("--sample", type=float, default=1.0)
a.add_argument("--seed", type=int, default=1)
a.add_argument("--seconds", type=float, default=60)
a.add_argument("--only", default="")
a.add_argument("--slowest", type=int, default=5)
o = a.parse_args()
dice = random.Random(o.seed)
home = pathlib.Path(tempfile.mkdtemp(prefix="hygros-sweep-"))
parameters = json.loads(subprocess.run([o.cli, "params", "--json"], check=True, capture_output=True, text=True).stdout)
demos = ["first-light", "lamps", "plate", "valley-inversion", "cumulus", "signals", "fair-weather", "fireball"]
where = {}
for name in demos:
    project = json.loads((pathlib.Path(o.demo) / f"{name}.hygros").read_text())
    for e in project["elements"]:
        where.setdefault(e["kind"], (name, e["id"]))
tried, slow, failed = 0, [], []
# What failed once is in every sample.
failed_once = {("sun", "sky"), ("sun", "strength"), ("cloudDeck", "visibility")}
for p in parameters:
    if p["type"] not in ("number", "whole") or "range" not in p or (o.only and p["kind"] != o.only):
        continue
    for end in p["range"]:
        if dice.random() > o.sample and (p["kind"], p["id"]) not in failed_once:
            continue
        sets = []
        if p["kind"] in where:
            name, element = where[p["kind"]]
            project = pathlib.Path(o.demo) / f"{name}.hygros"
        else:  # none of the demos has one: put into the first
            source = json.loads((pathlib.Path(o.demo) / "first-light.hygros").read_text())
            for e in source["elements"]:
                if e["kind"] == "set":
                    e["settings"]["file"] = str((pathlib.Path(o.demo) / e["settings"]["file"]).resolve())
            element = "swept"
            source["elements"].append({"id": element, "kind": p["kind"], "name": "swept", "settings": {}})
            project = home / "swept.hygros"
            project.write_text(json.dumps(source))
        path = f"{element}.{p['id']}={end!r}"
        tried += 1
        began = time.monotonic()
        try:
            ran = subprocess.run([o.cli, "render", str(project), "--out", str(home / "out.exr"), "--size", "24x16", "--samples", "1", "--set", path],
                                 capture_output=True, text=True, timeout=o.seconds)
        except subprocess.TimeoutExpired:
            failed.append(f"{project.name} {path}: no end within {o.seconds:.0f} s")
            continue
        took = time.monotonic() - began
        slow.append((took, f"{project.name} {path}"))
        if ran.returncode not in (0, 2):
            failed.append(f"{project.name} {path}: exit {ran.returncode}: {ran.stderr[-200:]}")
        elif ran.returncode == 0:
            stats = subprocess.run(["oiiotool", "--stats", str(home / "out.exr")], capture_output=True, text=True).stdout
            for line in stats.splitlines():
                if ("NanCount" in line or "InfCount" in line) and any(w not in ("0",) for w in line.split(":")[1].split()):
                    failed.append(f"{project.name} {path}: {line.strip()}")
            greatest = [abs(float(w)) for line in stats.splitlines() if "Stats Max" in line for w in line.split(":")[1].split()[:3] if w[0].isdigit()]
            if greatest and max(greatest) > 1e15:
                failed.append(f"{project.name} {path}: blown up to {max(greatest):g}")
shutil.rmtree(home, ignore_errors=True)
slow.sort(reverse=True)
for took, path in slow[:o.slowest]:
    print(f"{took:6.1f} s  {path}")
print(f"{tried} renders, {len(failed)} failed")
for f in failed:
    print(f)
sys.exit(1 if failed else 0)
