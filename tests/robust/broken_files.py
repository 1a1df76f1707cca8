#!/usr/bin/env python3
"""Files broken by chance: each must be read, or refused with words. No signal, no hang, exit code 0 or 2.

    broken_files.py --cli PROGRAM --demo FOLDER [--count N] [--seed S] [--only KIND]
    broken_files.py --cli PROGRAM --demo FOLDER --write FOLDER    the good files alone, a folder for each format"""
import argparse, json, os, pathlib, random, shutil, struct, subprocess, sys, tempfile

a = argparse.ArgumentParser()
a.add_argument("--cli", required=True)
a.add_argument("--demo", required=True)
a.add_argument("--count", type=int, default=500)
a.add_argument("--seed", type=int, default=1)
a.add_argument("--only", default="")
a.add_argument("--keep", default="", help="folder for files that failed")
a.add_argument("--write", default="", help="folder for the good files, which are not broken then")
o = a.parse_args()
dice = random.Random(o.seed)
demo = pathlib.Path(o.demo)
home = pathlib.Path(tempfile.mkdtemp(prefix="hygros-broken-"))


def run(*arguments, timeout=20):
    return subprocess.run([o.cli, *map(str, arguments)], capture_output=True, timeout=timeout, cwd=home)


# --- good ones to begin with --------------------------------------------------------------------------------------
obj = "mtllib a.mtl\no floor\nusemtl one\n" + "".join(f"v {x} {(x * z) % 3} {z}\nvn 0 1 0\nvt {x} {z}\n" for x in range(6) for z in range(6))
obj += "".join(f"f {6*x+z+1}/{6*x+z+1}/{6*x+z+1} {6*x+z+2}/{6*x+z+2}/{6*x+z+2} {6*x+z+8}/{6*x+z+8}/{6*x+z+8}\n" for x in range(5) for z in range(5))
ply = "ply\nformat ascii 1.0\nelement vertex 4\nproperty float x\nproperty float y\nproperty float z\nelement face 2\nproperty list uchar int vertex_indices\nend_header\n0 0 0\n1 0 0\n1 0 1\n0 0 1\n3 0 1 2\n3 0 2 3\n"
points = [(0, 0, 0), (1, 0, 0), (1, 0, 1), (0, 0, 1)]
binary_ply = ply.split("end_header\n")[0].replace("ascii", "binary_little_endian").encode() + b"end_header\n"
binary_ply += b"".join(struct.pack("<3f", *p) for p in points) + struct.pack("<B3i", 3, 0, 1, 2) + struct.pack("<B3i", 3, 0, 2, 3)
fbx = """; FBX 7.4.0 project file
FBXHeaderExtension:  {
	FBXHeaderVersion: 1003
	FBXVersion: 7400
}
GlobalSettings:  {
	Version: 1000
	Properties70:  {
		P: "UpAxis", "int", "Integer", "",1
		P: "UnitScaleFactor", "double", "Number", "",100
	}
}
Objects:  {
	Geometry: 100, "Geometry::floor", "Mesh" {
		Vertices: *12 {
			a: 0,0,0,1,0,0,1,0,1,0,0,1
		}
		PolygonVertexIndex: *6 {
			a: 0,1,-3,0,2,-4
		}
		GeometryVersion: 124
	}
	Model: 200, "Model::floor", "Mesh" {
		Version: 232
		Properties70:  {
			P: "Lcl Translation", "Lcl Translation", "", "A",0,0,0
		}
	}
}
Connections:  {
	C: "OO",200,0
	C: "OO",100,200
}
"""
gltf_bytes = b"".join(struct.pack("<3f", *p) for p in points) + struct.pack("<6H", 0, 1, 2, 0, 2, 3)
gltf = {"asset": {"version": "2.0"}, "scene": 0, "scenes": [{"nodes": [0]}], "nodes": [{"mesh": 0, "rotation": [0, 0, 0, 1], "scale": [1, 1, 1]}],
        "meshes": [{"primitives": [{"attributes": {"POSITION": 0}, "indices": 1}]}], "buffers": [{"uri": "a.bin", "byteLength": len(gltf_bytes)}],
        "bufferViews": [{"buffer": 0, "byteLength": 48}, {"buffer": 0, "byteOffset": 48, "byteLength": 12}],
        "accessors": [{"bufferView": 0, "componentType": 5126, "count": 4, "type": "VEC3", "min": [0, 0, 0], "max": [1, 0, 1]},
                      {"bufferView": 1, "componentType": 5123, "count": 6, "type": "SCALAR"}]}
ies = "IESNA:LM-63-2002\n[TEST] made up\nTILT=NONE\n1 1000 1 5 1 1 2 0 0 0\n1 1 60\n0 22.5 45 67.5 90\n0\n1000 900 600 200 0\n"
cube = "TITLE \"made up\"\n# curves, then a lattice\nLUT_1D_SIZE 4\nLUT_3D_SIZE 3\nDOMAIN_MIN 0 0 0\nDOMAIN_MAX 1 1 2\n" + "".join(f"{i / 3} {i / 4:.3f} {i / 5}\n" for i in range(4))
ocio = """ocio_profile_version: 2
roles: {default: raw, aces_interchange: aces, scene_linear: aces}
file_rules:
  - !<Rule> {name: Default, colorspace: default}
displays:
  Panel:
    - !<View> {name: Plain, colorspace: panel}
    - !<View> {name: Dark, colorspace: dark, looks: night}
looks:
  - !<Look> {name: night, process_space: aces, transform: !<CDLTransform> {slope: [0.5, 0.6, 0.9], offset: [0, 0, 0.01], sat: 0.7}}
colorspaces:
  - !<ColorSpace> {name: aces}
  - !<ColorSpace> {name: raw, isdata: true}
  - !<ColorSpace>
    name: panel
    from_scene_reference: !<GroupTransform>
      children:
        - !<MatrixTransform> {matrix: [2.5, -1.1, -0.4, 0, -0.3, 1.4, -0.1, 0, 0, -0.2, 1.2, 0, 0, 0, 0, 1]}
        - !<ExponentWithLinearTransform> {gamma: [2.4, 2.4, 2.4, 1], offset: [0.055, 0.055, 0.055, 0], direction: inverse}
  - !<ColorSpace>
    name: dark
    from_scene_reference: !<AllocationTransform> {allocation: lg2, vars: [-8, 4]}
"""
cube += "".join(f"{r / 2} {g / 2} {b / 2}\n" for b in range(3) for g in range(3) for r in range(3))
hdr = b"#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y 8 +X 16\n" + bytes(dice.randrange(100, 140) for _ in range(8 * 16 * 4))
project = {"format": "hygros-project", "version": 1, "name": "broken", "elements": [
    {"id": "shot", "kind": "shot", "settings": {}}, {"id": "look", "kind": "look", "settings": {}}, {"id": "sun", "kind": "sun", "settings": {}}]}
smallest_vdb = min((demo / "volumes").glob("*.vdb"), key=lambda f: f.stat().st_size)
(home / "a.mtl").write_text("newmtl one\nKd 0.5 0.4 0.3\n")
(home / "a.bin").write_bytes(gltf_bytes)
(home / "plain.hygros").write_text(json.dumps(project))
run("render", "plain.hygros", "--out", "good.exr", "--size", "16x8", "--samples", "1", "--layers", "all")


def in_project(kind, settings):
    whole = dict(project, elements=project["elements"] + [{"id": "x", "kind": kind, "settings": settings}])
    if kind in ("sun", "look"):
        whole["elements"] = [e if e["kind"] != kind else dict(e, settings=settings) for e in project["elements"]]
    return json.dumps(whole)


def render(text):
    (home / "use.hygros").write_text(text)
    return run("render", "use.hygros", "--out", "out.png", "--size", "16x8", "--samples", "1")


def as_set(name):
    return lambda: [run("info", name), render(in_project("set", {"file": name}))]


demo_project = (demo / "first-light.hygros").read_bytes()
recipe = next(demo.glob("recipes/*.hygros-recipe")).read_bytes()
kinds = {
    "obj": (obj.encode(), "b.obj", as_set("b.obj")),
    "ply": (ply.encode(), "b.ply", as_set("b.ply")),
    "plyBinary": (binary_ply, "b.ply", as_set("b.ply")),
    "fbx": (fbx.encode(), "b.fbx", as_set("b.fbx")),
    "gltf": (json.dumps(gltf).encode(), "b.gltf", as_set("b.gltf")),
    "gltfBytes": (gltf_bytes, "a.bin", lambda: [(home / "b.gltf").write_text(json.dumps(gltf)) and None, *as_set("b.gltf")()][1:]),
    "glb": ((demo / "tender.glb").read_bytes(), "b.glb", as_set("b.glb")),
    "exr": ((home / "good.exr").read_bytes(), "b.exr", lambda: [run("info", "b.exr"), render(in_project("plate", {"picture": "b.exr"}))]),
    "hdr": (hdr, "b.hdr", lambda: [run("info", "b.hdr"), render(in_project("sun", {"panorama": "b.hdr"}))]),
    "ies": (ies.encode(), "b.ies", lambda: [render(in_project("bulb", {"profile": "b.ies", "given": dice.choice(["lumens", "as in the profile"])}))]),
    "ocio": (ocio.encode(), "b.ocio", lambda: [render(in_project("look", {"config": "b.ocio"}))]),
    "cube": (cube.encode(), "b.cube", lambda: [render(in_project("look", {"table": "b.cube", "tableTakes": dice.choice(["picture as shown", "light in stops", "ACEScct"])}))]),
    "vdb": (smallest_vdb.read_bytes(), "b.vdb", lambda: [run("info", "b.vdb"), render(in_project("volume", {"file": "b.vdb"}))]),
    "project": (demo_project, "b.hygros", lambda: [run("info", "b.hygros")]),
    "recipe": (recipe, "b.hygros-recipe", lambda: [run("recipe", "apply", "b.hygros-recipe", "plain.hygros", "--out", "applied.hygros")]),
}


def write_good(to):
    """What the fuzzed readers begin with (tests/fuzz/reads.cpp)."""
    def put(kind, name, data):
        (to / kind).mkdir(parents=True, exist_ok=True)
        (to / kind / name).write_bytes(data)
    for kind in ("obj", "ply", "fbx", "exr", "hdr", "ies", "cube", "ocio", "project", "recipe"):
        put(kind, "good", kinds[kind][0])
    put("ply", "binary", binary_ply)
    put("vdb", "good", kinds["vdb"][0])
    import base64
    inside = dict(gltf, buffers=[{"byteLength": len(gltf_bytes), "uri": "data:application/octet-stream;base64," + base64.b64encode(gltf_bytes).decode()}])
    put("gltf", "good", json.dumps(inside).encode())
    text = json.dumps(dict(gltf, buffers=[{"byteLength": len(gltf_bytes)}])).encode()
    text += b" " * (-len(text) % 4)
    body = struct.pack("<II", len(text), 0x4E4F534A) + text + struct.pack("<II", len(gltf_bytes), 0x004E4942) + gltf_bytes
    put("glb", "good", struct.pack("<III", 0x46546C67, 2, 12 + len(body)) + body)
    run("render", "plain.hygros", "--out", "good.png", "--size", "16x8", "--samples", "1")
    put("png", "good", (home / "good.png").read_bytes())
    burning = dict(project, elements=project["elements"] + [
        {"id": "fire", "kind": "plume", "settings": {"voxel": 0.5}},
        {"id": "grate", "kind": "feed", "settings": {"plume": "fire"}}])
    (home / "fire.hygros").write_text(json.dumps(burning))
    ran = run("bake", "fire.hygros", "--frames", "1-3", "--store", str(home / "store"), timeout=120)
    assert ran.returncode == 0, ran.stderr
    for number, frame in enumerate(sorted((home / "store").glob("*/*.baked"))):
        data = frame.read_bytes()
        put("frame", f"good{number}", data)
        head = struct.unpack("<I", data[8:12])[0]
        put("gas", f"good{number}", data[12 + head:-8])


if o.write:
    write_good(pathlib.Path(o.write))
    shutil.rmtree(home, ignore_errors=True)
    sys.exit(0)

numbers = [b"1e38", b"-1e38", b"nan", b"inf", b"1e-40", b"999999999999999999999", b"-1", b"0", b"1e308", b"4294967295"]


def broken(good):
    """One of many ways to break it, some of them several times."""
    data = bytearray(good)
    for _ in range(dice.choice([1, 1, 1, 2, 4])):
        if not data:
            break
        how = dice.randrange(8)
        at = dice.randrange(len(data))
        if how == 0:
            data = data[:at]
        elif how == 1:
            data[at] ^= 1 << dice.randrange(8)
        elif how == 2:
            data[at:at + 4] = struct.pack("<f", dice.choice([float("nan"), float("inf"), -1e38, 1e38, 1e-45]))
        elif how == 3:
            data[at:at + 4] = struct.pack("<I", dice.choice([0, 0xffffffff, 0x7fffffff, len(data), dice.randrange(1 << 32)]))
        elif how == 4:
            end = min(len(data), at + dice.randrange(1, 200))
            del data[at:end]
        elif how == 5:
            data[at:at] = bytes(dice.randrange(256) for _ in range(dice.randrange(1, 40)))
        elif how == 6:
            end = min(len(data), at + dice.randrange(1, 300))
            data[at:at] = data[at:end] * dice.choice([1, 1, 50])
        else:  # a number in a text becomes another
            digits = [i for i in range(at, min(len(data), at + 400)) if 48 <= data[i] <= 57]
            if digits:
                first = last = digits[0]
                while last < len(data) and data[last] in b"0123456789.eE+-":
                    last += 1
                data[first:last] = dice.choice(numbers)
    return bytes(data)


failed, codes = [], {}
names = [k for k in kinds if not o.only or k == o.only]
for i in range(o.count):
    kind = names[i % len(names)]
    good, name, use = kinds[kind]
    data = broken(good)
    (home / name).write_bytes(data)
    problem = ""
    try:
        for ran in use():
            codes[(kind, ran.returncode)] = codes.get((kind, ran.returncode), 0) + 1
            if ran.returncode not in (0, 2):
                problem = f"exit {ran.returncode}: {ran.stderr[-300:].decode(errors='replace')}"
            elif ran.returncode == 2 and len(ran.stderr.strip()) < 20:
                problem = "refused without words"
    except subprocess.TimeoutExpired:
        problem = "no end within 20 s"
    if problem:
        failed.append(f"{kind} number {i}: {problem}")
        if o.keep:
            pathlib.Path(o.keep).mkdir(parents=True, exist_ok=True)
            (pathlib.Path(o.keep) / f"{i}-{name}").write_bytes(data)
    (home / "a.bin").write_bytes(gltf_bytes)
shutil.rmtree(home, ignore_errors=True)
for kind in names:
    print(f"{kind:10}", "  ".join(f"exit {code}: {n}" for (k, code), n in sorted(codes.items()) if k == kind))
print(f"{o.count} files, {len(failed)} failed")
for f in failed:
    print(f)
sys.exit(1 if failed else 0)
