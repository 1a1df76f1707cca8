#!/usr/bin/env python3
"""The readers of every format for some seconds each: what was found once, good files, and these changed by chance.

    short_run.py --program hygros-fuzz-short --cli PROGRAM --demo FOLDER --formats NAME… [--seconds S] [--seed N]"""
import argparse, os, pathlib, shutil, subprocess, sys, tempfile

a = argparse.ArgumentParser()
a.add_argument("--program", required=True)
a.add_argument("--cli", required=True)
a.add_argument("--demo", required=True)
a.add_argument("--formats", nargs="+", required=True)
a.add_argument("--seconds", type=float, default=2.0)
a.add_argument("--seed", type=int, default=1)
o = a.parse_args()
here = pathlib.Path(__file__).parent
home = pathlib.Path(tempfile.mkdtemp(prefix="hygros-fuzz-"))
subprocess.run([here.parent / "robust" / "broken_files.py", "--cli", o.cli, "--demo", o.demo, "--write", home / "good"], check=True)
failed = []
for name in o.formats:
    corpus = home / "corpus" / name
    shutil.copytree(home / "good" / name, corpus)
    for found in sorted((here / "found" / name).glob("*")):
        shutil.copy(found, corpus / ("found-" + found.name))
    try:
        ran = subprocess.run([o.program, corpus, str(o.seconds), str(o.seed)], cwd=home, capture_output=True, text=True,
                             env=dict(os.environ, HYGROS_FUZZ=name), timeout=120 + o.seconds)
        bad = ran.returncode != 0
        print(f"{name}: {ran.stdout.strip()}{' ' + ran.stderr.strip()[-300:] if bad else ''}")
    except subprocess.TimeoutExpired:
        bad = True
        print(f"{name}: no end")
    if bad:
        shutil.copy(home / "last-input", pathlib.Path(tempfile.gettempdir()) / f"hygros-{name}-input")
        print(f"   the input is {tempfile.gettempdir()}/hygros-{name}-input")
        failed.append(name)
shutil.rmtree(home, ignore_errors=True)
sys.exit(1 if failed else 0)
