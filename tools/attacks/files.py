"""Tables and benches that are wrong by accident: full disks, wrong orders, odd names."""
import json
import os
import random
import subprocess
import time

from common import CLI, attack, check, cli, environment, rows_csv, verify, write


@attack("a table with rows of 200 widths")
def widths(folder, short):
    write(folder / "w.csv", "time,a\n" + "".join(f"{1767225600 + i},1{',2' * (i % 200)}\n" for i in range(4000)))
    done = cli(folder, "import", "w.csv", "--bench", "b.cognitum", "--json")
    check(done.returncode == 0 and json.loads(done.out)["rows"] == 20, done.err)
    return 4000, "20 good rows taken, the rest counted in 64 reasons"


@attack("noise to decode")
def noise(folder, short):
    tries = 5 if short else 40
    for i in range(tries):
        alphabet = random.choice([range(256), range(128), b"\x1b[0123456789;H", b"{}[],:\"1", b"\r\n,.;0123456789", [85, 170]])
        write(folder / "n.bin", bytes(random.choices(list(alphabet), k=200_000)))
        cli(folder, "decode", "n.bin", "--json")
    return tries, "ends each time, within bounds"


@attack("a line of a megabyte after good rows")
def long_line(folder, short):
    write(folder / "l.csv", rows_csv(6200) + "1," * 700_000 + "\n" + rows_csv(5, 7000).split("\n", 1)[1])
    cli(folder, "import", "l.csv", "--bench", "b.cognitum")
    check(verify(folder, "b.cognitum")["samples"] == 6205, "rows are missing")
    return 1, "6205 rows saved, the line set aside"


@attack("a disk that is full in the middle of an import", short=False)
def full_disk(folder, short):
    tries = 6 if short else 25
    rows = random.Random(1)
    text = "time,level\n" + "".join(f"{1767225600 + i},{rows.random()}\n" for i in range(150_000))
    write(folder / "f.csv", text)
    for i in range(tries):
        name = f"b{i}.cognitum"
        # From a pipe, so that it commits on the way.
        done = cli(folder, "import", "f.csv", "--bench", name, limit_file=60_000 + i * 90_000)
        if done.returncode == 0:
            continue
        said = int(done.err.split(" rows before")[0].split()[-1]) if " rows before" in done.err else 0
        if (folder / name).exists():
            check(verify(folder, name)["samples"] >= said, f"{said} rows were said to be saved")
        else:
            check(said == 0, "a file with saved rows is gone")
    return tries, "what was said to be saved is there, and sound"


@attack("an import that fails in a bench with samples")
def failing_import(folder, short):
    write(folder / "a.csv", rows_csv(6200))
    cli(folder, "import", "a.csv", "--bench", "b.cognitum")
    for bad in ("time,x\nno time,1\n", "\n", "level\n1\n", "time,level\n" + "x" * 2_000_000):
        write(folder / "bad.csv", bad)
        check(cli(folder, "import", "bad.csv", "--bench", "b.cognitum").returncode == 3, "bad rows were taken")
    check(verify(folder, "b.cognitum")["samples"] == 6200, "samples are gone")
    return 4, "6200 samples stay"


@attack("times in any order, and twice")
def shuffled(folder, short):
    tries = 3 if short else 10
    for i in range(tries):
        lines = rows_csv(5000).splitlines()
        body = lines[1:] + random.choices(lines[1:], k=500)
        random.shuffle(body)
        write(folder / "s.csv", "\n".join([lines[0]] + body) + "\n")
        cli(folder, "import", "s.csv", "--bench", f"b{i}.cognitum")
        check(verify(folder, f"b{i}.cognitum")["samples"] == 5000, "samples are missing")
    return tries, "sound, in order, each time once"


@attack("names that are no files")
def names(folder, short):
    write(folder / "a.csv", rows_csv(3))
    check(cli(folder, "import", "a.csv", "--bench", "").returncode != 0, "rows were taken into nothing")
    for name in (":memory:", "file:x.db?mode=memory", "file::memory:", "a b%41?.cognitum"):
        done = cli(folder, "import", "a.csv", "--bench", name)
        check(done.returncode == 0 and (folder / name).is_file(), f"{name}: said to be saved, and no file")
        check(verify(folder, f"{folder}/{name}")["samples"] == 3, name)
    for name in ("/dev/null", "/proc/self/mem", str(folder), f"{folder}/none/b.cognitum"):
        check(cli(folder, "import", "a.csv", "--bench", name).returncode != 0, name)
    return 9, "refused, or a real file"


@attack("an empty file of ours")
def empty(folder, short):
    write(folder / "b.cognitum", "")
    write(folder / "a.csv", rows_csv(3))
    check(cli(folder, "import", "a.csv", "--bench", "b.cognitum").returncode == 0, "refused for ever")
    check(verify(folder, "b.cognitum")["samples"] == 3, "not taken up")
    return 1, "taken up again"


@attack("a table of 100 000 columns")
def columns(folder, short):
    write(folder / "c.csv", "time," + ",".join(f"c{i}" for i in range(100_000)) + "\n1767225600" + ",1" * 100_000 + "\n")
    check(cli(folder, "import", "c.csv", "--bench", "b.cognitum", seconds=5).returncode == 3, "taken")
    return 1, "refused at once"


@attack("a header in Latin-1")
def latin(folder, short):
    write(folder / "l.csv", "time,Füllstand\n1767225600,1\n".encode("latin-1"))
    done = cli(folder, "import", "l.csv", "--bench", "b.cognitum")
    check(done.returncode == 3 and "UTF-8" in done.err and "disk" not in done.err, done.err)
    return 1, "said so"


@attack("names that a spreadsheet would run")
def formulas(folder, short):
    names = ["=1+1", "@SUM(A1)", "+cmd", "-2+3", '=HYPERLINK("x")']
    quoted = ['"' + n.replace('"', '""') + '"' for n in names]
    write(folder / "n.csv", "time," + ",".join(quoted) + "\n1767225600,1,2,3,4,5\n")
    cli(folder, "import", "n.csv", "--bench", "b.cognitum")
    out = cli(folder, "export", "b.cognitum", "--causes").out
    check(not any(f'{s}{c}' in out.splitlines()[0] for s in (",", ',"') for c in "=@+-"), out)
    write(folder / "again.csv", cli(folder, "export", "b.cognitum").out)
    cli(folder, "import", "again.csv", "--bench", "c.cognitum")
    check(cli(folder, "export", "c.cognitum").out == cli(folder, "export", "b.cognitum").out, "not read again as it was")
    return 5, "exported as text, read again as they were"


@attack("writing into a full device")
def full_device(folder, short):
    write(folder / "a.csv", rows_csv(3))
    cli(folder, "import", "a.csv", "--bench", "b.cognitum")
    verbs = [("export", "b.cognitum"), ("verify", "b.cognitum"), ("check", "b.cognitum"), ("demo", "--bench", "d.cognitum"),
             ("physics", "dew-point", "temperature=20degC", "humidity=50%"), ("signal", "a.csv")]
    for verb in verbs:
        with open("/dev/full", "wb") as full:
            check(cli(folder, *verb, stdout=full).returncode != 0, f"{verb[0]} says that all is well")
    check(cli(folder, "export", "b.cognitum", "--output", "/dev/full").returncode != 0, "export")
    return 7, "each ends with an error"


@attack("an export that breaks in the middle")
def broken_export(folder, short):
    write(folder / "a.csv", rows_csv(60_000))
    cli(folder, "import", "a.csv", "--bench", "b.cognitum")
    write(folder / "e.csv", "what stood there before\n")
    done = cli(folder, "export", "b.cognitum", "--output", "e.csv", limit_file=100_000)
    check(done.returncode != 0, "said to be whole")
    check((folder / "e.csv").read_text() == "what stood there before\n", "a part took the place of the old file")
    check(len(list(folder.glob("e.csv*"))) == 1, "a part is left")
    return 1, "nothing is left, the old file stays"


@attack("a bench in a folder that cannot be written")
def read_only(folder, short):
    write(folder / "a.csv", rows_csv(5000))
    cli(folder, "import", "a.csv", "--bench", "b.cognitum")
    (folder / "ro").mkdir()
    (folder / "b.cognitum").rename(folder / "ro/b.cognitum")
    (folder / "ro/b.cognitum").chmod(0o444)
    (folder / "ro").chmod(0o555)
    folder.chmod(0o755)
    try:
        for verb in (["verify", "--json"], ["export"], ["check"]):
            done = cli(folder, verb[0], "ro/b.cognitum", *verb[1:], as_nobody=True)
            check(done.returncode == 0, f"{verb[0]}: {done.err}")
        check(cli(folder, "import", "a.csv", "--bench", "ro/b.cognitum", as_nobody=True).returncode == 3, "written")
    except PermissionError:
        return 0, "not tried: nobody may not run the programs here"
    finally:
        (folder / "ro").chmod(0o755)
    return 4, "read; not written, and said so"


@attack("a pipe or a device as a file")
def fifo(folder, short):
    os.mkfifo(folder / "p")
    for what in (str(folder / "p"), "/dev/zero", "/dev/tty", str(folder)):
        check(cli(folder, "verify", what).returncode == 3, what)
    check(cli(folder, "import", "/dev/zero", "--bench", "b.cognitum").returncode == 3, "/dev/zero")
    return 5, "refused, none waited for"


@attack("two imports that make one bench")
def two_imports(folder, short):
    tries = 8 if short else 40
    write(folder / "a.csv", rows_csv(3000, name="first"))
    write(folder / "b.csv", rows_csv(3000, name="second"))
    for i in range(tries):
        bench = f"t{i}.cognitum"
        both = [subprocess.Popen([CLI, "import", f, "--bench", bench], cwd=folder, env=environment(folder),
                                 stdout=subprocess.DEVNULL, stderr=subprocess.PIPE) for f in ("a.csv", "b.csv")]
        for p in both:
            err = p.communicate(timeout=30)[1].decode()
            check(p.returncode == 0, err)
        check(verify(folder, bench)["samples"] == 6000, "samples are missing")
        header = cli(folder, "export", bench).out.splitlines()[0]
        check("first" in header and "second" in header, f"a reading is lost: {header}")
    return tries, "both plans and all samples are there"


@attack("a bench that is replaced while rows come in")
def replaced(folder, short):
    tries = 3 if short else 12
    for i in range(tries):
        bench, other = folder / f"r{i}.cognitum", folder / f"o{i}.cognitum"
        write(folder / "a.csv", rows_csv(2000, name="mine"))
        write(folder / "b.csv", rows_csv(1000, name="other"))
        cli(folder, "import", "a.csv", "--bench", bench)
        cli(folder, "import", "b.csv", "--bench", other)
        running = subprocess.Popen([CLI, "import", "-", "--bench", bench], cwd=folder, env=environment(folder),
                                   stdin=subprocess.PIPE, stdout=subprocess.DEVNULL, stderr=subprocess.PIPE)
        body = rows_csv(4000, 10_000, "mine").encode()
        half = body.index(b"\n", len(body) // 2) + 1
        running.stdin.write(body[:half])
        running.stdin.flush()
        time.sleep(0.5 + random.random())
        kept = folder / f"kept{i}.cognitum"
        os.link(bench, kept)
        os.rename(other, bench)
        try:
            running.stdin.write(body[half:])
            running.stdin.close()
        except BrokenPipeError:
            pass
        running.stdin = None
        err = running.communicate(timeout=30)[1].decode()
        check(running.returncode != 0 and "replaced" in err, f"nothing was said: {err}")
        check(verify(folder, bench)["samples"] == 1000, "the new file was written into")
        check(verify(folder, kept)["samples"] >= 2000, "the old file lost samples")
    return tries, "said so; both files sound"


@attack("one bit that is another")
def flipped(folder, short):
    tries = 60 if short else 400
    write(folder / "a.csv", rows_csv(9000))
    cli(folder, "import", "a.csv", "--bench", "b.cognitum")
    sound = (folder / "b.cognitum").read_bytes()
    whole = cli(folder, "export", "b.cognitum").out
    seen = 0
    for i in range(tries):
        at, bit = random.randrange(100, len(sound)), random.randrange(8)
        broken = bytearray(sound)
        broken[at] ^= 1 << bit
        write(folder / "x.cognitum", bytes(broken))
        done = cli(folder, "verify", "x.cognitum", "--json")
        if done.returncode != 0:
            seen += 1
        else:  # it may lie where nothing is stored
            check(cli(folder, "export", "x.cognitum").out == whole, f"bit {bit} of byte {at} went unseen")
    return tries, f"{seen} seen; the others changed nothing that is stored"


@attack("a file that is cut")
def cut(folder, short):
    tries = 10 if short else 80
    write(folder / "a.csv", rows_csv(9000))
    cli(folder, "import", "a.csv", "--bench", "b.cognitum")
    sound = (folder / "b.cognitum").read_bytes()
    for i in range(tries):
        write(folder / "x.cognitum", sound[:random.randrange(len(sound))])
        check(cli(folder, "verify", "x.cognitum").returncode != 0, "said to be sound")
    return tries, "none is said to be sound"
