#!/usr/bin/env python3
"""Projects with settings drawn by chance, several at a time, and elements of chance kinds added: each small render must
end, with finite pixels that are not negative. What fails is told with as few settings as still fail.

    chance_settings.py --cli PROGRAM --demo FOLDER [--rounds N] [--seed S] [--seconds T] [--compare FACTOR] [--keep FOLDER]

--compare also path-traces every project and tells where the live picture's mean light is farther than FACTOR from that."""
import argparse, json, math, pathlib, random, shutil, subprocess, sys, tempfile, time

a = argparse.ArgumentParser()
a.add_argument("--cli", required=True)
a.add_argument("--demo", required=True)
a.add_argument("--rounds", type=int, default=100)
a.add_argument("--seed", type=int, default=1)
a.add_argument("--seconds", type=float, default=60)
a.add_argument("--compare", type=float, default=0)
a.add_argument("--keep", default="", help="where projects that fail are written")
o = a.parse_args()
demo = pathlib.Path(o.demo).resolve()
home = pathlib.Path(tempfile.mkdtemp(prefix="hygros-chance-"))
kinds = {}
for p in json.loads(subprocess.run([o.cli, "params", "--json"], check=True, capture_output=True, text=True).stdout):
    kinds.setdefault(p["kind"], []).append(p)
# Their settings cost hours or write gigabytes by themselves; what they bound is tested by range_sweep.
costly = {("copies", "count"), ("setCopies", "count")}


def number(dice, p):
    low, high = p["range"]
    how = dice.random()
    if how < 0.12:
        return dice.choice([low, high])
    if how < 0.7 and "ruler" in p:
        low, high = max(low, p["ruler"]["from"]), min(high, p["ruler"]["to"])
        if p["ruler"]["byFactors"] and low > 0:
            return math.exp(dice.uniform(math.log(low), math.log(high)))
    elif low > 0 and high / low > 100:
        return math.exp(dice.uniform(math.log(low), math.log(high)))
    return dice.uniform(low, high)


def drawn(dice, p):
    """A value for a parameter, or None where chance has none."""
    t = p["type"]
    if t == "number":
        return number(dice, p)
    if t == "whole":
        return int(round(min(max(number(dice, p), -2e9), 2e9)))
    if t == "switch":
        return dice.random() < 0.5
    if t == "choice":
        return dice.choice(p["choices"])
    if t == "colour":
        return [dice.choice([0.0, 1.0, dice.random()]) * min(1.0, p["range"][1]) for _ in range(3)]
    if t == "point":
        reach = dice.choice([1.0, 30.0, 300.0])
        return [min(max(d + dice.uniform(-reach, reach), p["range"][0]), p["range"][1]) for d in p["default"]]
    return None


def project(dice):
    """One of the demos with chance settings, as (project, [(element, parameter), …] of what was drawn)."""
    source = json.loads(dice.choice(sorted(demo.glob("*.hygros"))).read_text())
    for e in source["elements"]:
        for name, value in e.get("settings", {}).items():
            if isinstance(value, str) and (demo / value).is_file():
                e["settings"][name] = str(demo / value)
    for n in range(dice.choice([0, 0, 1, 2, 3])):
        kind = dice.choice([k for k in kinds if k not in ("shot", "look")])
        source["elements"].append({"id": f"drawn-{n}", "kind": kind, "name": kind, "settings": {}})
    changed = []
    able = [(e, p) for e in source["elements"] for p in kinds.get(e["kind"], []) if (p["kind"], p["id"]) not in costly]
    weighted = [x for x in able for _ in range(3 if x[0]["id"].startswith("drawn-") else 1)]
    for e, p in dice.sample(weighted, min(len(weighted), dice.choice([1, 2, 4, 8, 16]))):
        value = drawn(dice, p)
        if value is not None:
            e.setdefault("settings", {})[p["id"]] = value
            changed.append((e["id"], p["id"]))
    source["frame"] = dice.choice([source.get("frame", 1), dice.randint(-3, 60)])
    return source, changed


def means(file):
    stats = subprocess.run(["oiiotool", "--stats", str(file)], capture_output=True, text=True).stdout
    table = {}
    for line in stats.splitlines():
        for what in ("Min", "Max", "Avg", "NanCount", "InfCount"):
            if line.strip().startswith(f"Stats {what}:"):
                table[what] = [float(w) for w in line.split(":")[1].split("(")[0].split()[:3]]
    return table


def render(source, integrator="live", samples=1):
    """What is wrong with its picture (or nothing), how long it took, and its mean light."""
    file, out = home / "drawn.hygros", home / "drawn.exr"
    file.write_text(json.dumps(source))
    out.unlink(missing_ok=True)
    began = time.monotonic()
    try:
        ran = subprocess.run([o.cli, "render", str(file), "--out", str(out), "--size", "40x24", "--samples", str(samples), "--integrator", integrator],
                             capture_output=True, text=True, timeout=o.seconds)
    except subprocess.TimeoutExpired:
        return f"{integrator}: no end within {o.seconds:.0f} s", o.seconds, None
    took = time.monotonic() - began
    if ran.returncode not in (0, 2):
        return f"{integrator}: exit {ran.returncode}: {ran.stderr[-300:]}", took, None
    if ran.returncode == 2:
        return "", took, None  # refused in words
    table = means(out)
    if any(table.get("NanCount", [])) or any(table.get("InfCount", [])):
        return f"{integrator}: pixels that are no numbers", took, None
    if max(table["Max"]) > 1e15:
        return f"{integrator}: blown up to {max(table['Max']):g}", took, None
    if min(table["Min"]) < -1e-4 * max(1e-6, max(table["Max"])):
        return f"{integrator}: negative down to {min(table['Min']):g}", took, None
    return "", took, table["Avg"]


def apart(source):
    trouble, _, live = render(source, samples=6)
    if trouble or live is None:
        return trouble
    # Twice with other numbers of paths, or chance alone would tell of what a few bright paths are.
    for samples in (24, 40):
        trouble, _, paths = render(source, "reference", samples)
        if trouble or paths is None:
            return trouble
        l, p = sum(live), sum(paths)
        if max(l, p) < 1e-12 or max(l, p) <= o.compare * min(l, p):
            return ""
    return f"live is {l / p if p else math.inf:.3g} of path-traced"


def trouble_of(source):
    if o.compare:
        return apart(source)
    trouble, took, _ = render(source)
    return trouble


failed, slow = [], []
for n in range(o.rounds):
    dice = random.Random(f"{o.seed} {n}")
    source, changed = project(dice)
    if dice.random() < 0.25 and not o.compare:
        trouble, took, _ = render(source, "reference")
        again = lambda s: render(s, "reference")[0]
    else:
        began = time.monotonic()
        trouble = trouble_of(source)
        took = time.monotonic() - began
        again = trouble_of
    slow.append((took, n))
    if not trouble:
        continue
    # As few settings and elements as still fail.
    for element, parameter in list(changed):
        smaller = json.loads(json.dumps(source))
        for e in smaller["elements"]:
            if e["id"] == element:
                e["settings"].pop(parameter, None)
        if again(smaller):
            source = smaller
            changed.remove((element, parameter))
    for e in list(source["elements"]):
        smaller = dict(source, elements=[x for x in source["elements"] if x is not e])
        if e["kind"] not in ("shot", "look") and again(smaller):
            source = smaller
    trouble = again(source) or trouble
    told = {f"{e['id']}.{k}": e["settings"][k] for e in source["elements"] for k in e.get("settings", {}) if (e["id"], k) in changed}
    failed.append(f"round {n}, {source.get('name', '')}, frame {source['frame']}: {trouble}\n    {told}\n    of {[e['kind'] for e in source['elements']]}")
    print(failed[-1], flush=True)
    if o.keep:
        pathlib.Path(o.keep).mkdir(parents=True, exist_ok=True)
        (pathlib.Path(o.keep) / f"{o.seed}-{n}.hygros").write_text(json.dumps(source, indent=1))
shutil.rmtree(home, ignore_errors=True)
slow.sort(reverse=True)
print("slowest: " + ", ".join(f"{t:.1f} s (round {n})" for t, n in slow[:5]))
print(f"{o.rounds} projects, {len(failed)} failed")
sys.exit(1 if failed else 0)
