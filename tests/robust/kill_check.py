#!/usr/bin/env python3
"""Kills a window that is being edited at a moment of chance, again and again: the project must always open, no file may be
torn, and at most two seconds of edits may be lost.

    kill_check.py --loop PROGRAM --cli PROGRAM --project FILE [--rounds N] [--seed S]"""
import argparse, base64, json, os, pathlib, random, shutil, signal, subprocess, sys, tempfile, threading, time

a = argparse.ArgumentParser()
a.add_argument("--loop", required=True)
a.add_argument("--cli", required=True)
a.add_argument("--project", required=True)
a.add_argument("--rounds", type=int, default=100)
a.add_argument("--seed", type=int, default=1)
o = a.parse_args()
dice = random.Random(o.seed)
home = pathlib.Path(tempfile.mkdtemp(prefix="hygros-kill-"))
project = home / "work.hygros"
source = json.loads(pathlib.Path(o.project).read_text())
# Without its set, so that a round takes little time.
source["elements"] = [e for e in source["elements"] if e["kind"] not in ("set", "plate")]
project.write_text(json.dumps(source))
env = dict(os.environ, HOME=str(home), XDG_DATA_HOME=str(home / "data"), XDG_CONFIG_HOME=str(home / "config"), XDG_CACHE_HOME=str(home / "cache"),
           QT_QPA_PLATFORM="offscreen", XDG_RUNTIME_DIR=str(home))
recovery = home / "data/hygros-tests/hygros/recovery"
worst, failed = 0.0, []


def number(name):
    return int(name.split()[1]) if name.startswith("edit ") else 0


proofs_seen = baked_seen = 0


def proofs_of(state, where):
    """Each kept proof is whole: a picture and the state that made it."""
    global proofs_seen
    for p in state.get("proofs", []):
        proofs_seen += 1
        if not base64.b64decode(p["picture"], validate=True).endswith(b"\xff\xd9") or not p["state"]["elements"]:
            failed.append(f"{where}: a torn proof")


for turn in range(o.rounds):
    shutil.rmtree(recovery, ignore_errors=True)
    began = time.monotonic()
    process = subprocess.Popen([o.loop, str(project), str(dice.randrange(1 << 30))], stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True, env=env)
    edits, saved = [], [0]

    def listen():
        for line in process.stdout:
            what, n = line.split()
            if what == "edit":
                edits.append((time.monotonic(), int(n)))
            else:
                saved.append(int(n))

    reader = threading.Thread(target=listen)
    reader.start()
    deadline = began + 20
    while not edits and time.monotonic() < deadline and process.poll() is None:
        time.sleep(0.01)
    if not edits:
        failed.append(f"round {turn}: it did not begin to edit")
        process.kill()
        reader.join()
        continue
    time.sleep(dice.uniform(0.05, 4.0))
    process.send_signal(signal.SIGKILL)
    killed = time.monotonic()
    process.wait()
    reader.join()
    # The artist's own file opens, whole.
    ran = subprocess.run([o.cli, "info", str(project), "--json"], capture_output=True, text=True, env=env)
    if ran.returncode != 0:
        failed.append(f"round {turn}: the project does not open: {ran.stderr.strip()[:200]}")
        continue
    # A save that was not told of any more may have landed all the same.
    kept = max(saved[-1], number(json.loads(ran.stdout)["name"]))
    proofs_of(json.loads(project.read_text()), f"round {turn}, project")
    # What is baked is whole or not there.
    ran = subprocess.run([o.cli, "bake", str(project), "--list", "--json"], capture_output=True, text=True, env=env)
    if ran.returncode != 0:
        failed.append(f"round {turn}: what is baked cannot be listed: {ran.stderr.strip()[:200]}")
    baked_seen += ran.stdout.count('"fresh"') + ran.stdout.count('"stale"')
    for journal in recovery.glob("*.hygros-recovery"):
        if journal.name.startswith("."):
            continue  # it was being written aside; the window does not offer it and clears it away
        try:
            state = json.loads(journal.read_text())["project"]
            kept = max(kept, number(state["name"]))
            proofs_of(state, f"round {turn}, journal")
        except ValueError:
            failed.append(f"round {turn}: a torn journal")
    lost = [when for when, n in edits if n > kept]
    gone = killed - lost[0] if lost else 0.0
    worst = max(worst, gone)
    if gone > 2.0:
        failed.append(f"round {turn}: {gone:.2f} s of edits are lost ({edits[-1][1] - kept} of {edits[-1][1]})")
    left = [f.name for f in home.glob("*") if f.suffix not in (".hygros",) and f.is_file() and not f.name.endswith("-lock")]
    for name in left:
        (home / name).unlink()  # what was being written aside when it was killed
shutil.rmtree(home, ignore_errors=True)
print(f"{o.rounds} rounds, at most {worst:.2f} s of edits lost, {proofs_seen} proofs read, {baked_seen} baked frames told, {len(failed)} failed")
for f in failed:
    print(f)
sys.exit(1 if failed else 0)
