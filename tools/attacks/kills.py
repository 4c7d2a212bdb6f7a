"""Programs that are killed at any moment: what was reported as saved is there, and nothing half-made looks whole."""
import json
import random
import shutil
import signal
import sqlite3
import subprocess
import time

from common import CLI, RECORDER, attack, check, cli, environment, rows_csv, verify, write


def kill_after(process, seconds):
    time.sleep(seconds)
    process.send_signal(signal.SIGKILL)
    process.wait()


def last_number(process):
    """What a killed recorder had reported last; a number that was cut is none."""
    lines = process.stdout.read().decode().split("\n")[:-1]
    return int(lines[-1]) if lines else 0


def killed_recorder(folder, i, mode):
    bench = folder / f"{mode}{i}.cognitum"
    process = subprocess.Popen([RECORDER, bench, mode], stdout=subprocess.PIPE, env=environment(folder))
    kill_after(process, 0.01 + random.random() * 0.25)
    return bench, last_number(process)


def recorder_killed(folder, mode, tries, count):
    for i in range(tries):
        bench, said = killed_recorder(folder, i, mode)
        if not bench.exists():
            check(said == 0, "a bench with saved data is gone")
            continue
        verify(folder, bench)
        there = count(bench)
        check(there >= said, f"{there} of {said} that were said to be saved")
        bench.unlink()
    # What a killed program was making beside a name goes when the next one makes a file of that name.
    for left in folder.glob(f"{mode}*.made-by-*"):
        bench = folder / left.name.split(".made-by-")[0]
        write(folder / "a.csv", rows_csv(3))
        cli(folder, "import", "a.csv", "--bench", bench)
        check(not left.exists(), "leftovers stay")


def query(bench, sql):
    with sqlite3.connect(bench) as db:
        return db.execute(sql).fetchone()[0]


def rows_of(bench, sql):
    with sqlite3.connect(bench) as db:
        return db.execute(sql).fetchall()


@attack("killed while it records")
def recording(folder, short):
    tries = 20 if short else 300
    recorder_killed(folder, "samples", tries, lambda b: verify(folder, b)["samples"])
    return tries, "every sample that was said to be saved is there"


@attack("killed between an edit and its undo")
def edits(folder, short):
    tries = 10 if short else 150

    def plans(bench):
        readings = query(bench, "SELECT count(*) FROM plan WHERE kind = 'reading'")
        check(readings in (1, 2), "half an edit")
        return query(bench, "SELECT position FROM plan WHERE kind = 'revision'")
    recorder_killed(folder, "plan", tries, plans)
    return tries, "each plan is whole"


@attack("killed while it calibrates")
def calibrations(folder, short):
    tries = 10 if short else 150
    recorder_killed(folder, "calibrations", tries, lambda b: query(b, "SELECT count(*) FROM calibration"))
    return tries, "every record is there"


@attack("killed while a bench is made")
def making(folder, short):
    tries = 20 if short else 200
    left = 0
    for i in range(tries):
        bench = folder / f"d{i}.cognitum"
        process = subprocess.Popen([CLI, "demo", "--bench", bench, "--end", "2026-06-01T09:00:00Z"], env=environment(folder),
                                   stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
        kill_after(process, random.random() * (0.05 if i % 2 else 3))  # the whole takes a second or two
        if bench.exists():
            verify(folder, bench)
            check(query(bench, "SELECT count(*) FROM calibration") > 5, "half a demo bench")
            left += 1
        bench.unlink(missing_ok=True)
    bench = folder / "d0.cognitum"
    check(cli(folder, "demo", "--bench", bench, "--end", "2026-06-01T09:00:00Z").returncode == 0, "it cannot be made any more")
    return tries, f"whole or not there ({left} whole)"


@attack("killed while it imports", short=False)
def importing(folder, short):
    tries = 15 if short else 200
    rows = 60_000
    write(folder / "a.csv", rows_csv(rows))
    for i in range(tries):
        bench = folder / f"i{i}.cognitum"
        process = subprocess.Popen([CLI, "import", "-", "--bench", bench], env=environment(folder), stdin=subprocess.PIPE,
                                   stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
        text = (folder / "a.csv").read_bytes()
        end = time.monotonic() + random.random() * 0.6
        try:
            for at in range(0, len(text), 40_000):
                process.stdin.write(text[at:at + 40_000])
                process.stdin.flush()
                if time.monotonic() > end:
                    break
                time.sleep(0.02)
        except BrokenPipeError:
            pass
        process.kill()
        process.wait()
        if bench.exists():
            verify(folder, bench)
        done = cli(folder, "import", "a.csv", "--bench", bench)  # and again: the rest is added
        check(done.returncode in (0, 3) and verify(folder, bench)["samples"] == rows, "the rest cannot be added")
        bench.unlink()
    return tries, "sound each time, and the rest is added"


def raw_bench(folder, n):
    """A bench with n raw counts that go through a path."""
    bench = folder / "raw.cognitum"
    plan = {"bench": "raw", "boards": [], "readings": [{
        "id": "level", "name": "level",
        "quantity": {"kind": "number", "unit": "1", "low": 0, "high": 100, "accuracy": 1, "interval_s": 1, "place": ""},
        "path": {"input_unit": "count", "stages": [{"stage": "scale", "factor": 2, "offset": 1, "input_unit": "count", "unit": "1"}]}}]}
    write(folder / "raw.json", json.dumps(plan))
    check(cli(folder, "import", "raw.json", "--bench", bench).returncode == 0, "the plan")
    write(folder / "raw.csv", rows_csv(n))
    done = cli(folder, "import", "raw.csv", "--bench", bench, "--raw")
    check(done.returncode == 0, done.err)
    return bench


@attack("killed while old data go through new constants")
def reevaluating(folder, short):
    tries, rows = (8 if short else 80), 600_000
    model = raw_bench(folder, rows)
    whole = 0
    for i in range(tries):
        bench = folder / f"e{i}.cognitum"
        shutil.copyfile(model, bench)
        process = subprocess.Popen([CLI, "reevaluate", bench, "--reading", "level"], env=environment(folder),
                                   stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
        kill_after(process, random.random() * 1.5)
        verify(folder, bench)
        names = [json.loads(body)["name"] for body, in rows_of(bench, "SELECT body FROM plan WHERE kind = 'reading'")]
        for name in names:
            if name != "level" and not name.endswith("(not finished)"):
                said = json.loads(cli(folder, "summary", bench, "--reading", name, "--json").out)["n"]
                check(said == rows, f"{said} of {rows} look whole")
                whole += 1
        said = json.loads(cli(folder, "summary", bench, "--reading", "level", "--json").out)["n"]
        check(said == rows, "the old series was touched")
        bench.unlink()
    return tries, f"half of it says so in its name ({whole} whole)"


@attack("killed while a thinner copy is made")
def thinning(folder, short):
    tries, rows = (8 if short else 80), 600_000
    bench = raw_bench(folder, rows)
    whole = 0
    for i in range(tries):
        copy = folder / f"t{i}.cognitum"
        process = subprocess.Popen([CLI, "thin", bench, copy, "--before", "2027-01-01", "--step", "10min"],
                                   env=environment(folder), stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
        kill_after(process, random.random() * 1.0)
        check(verify(folder, bench)["samples"] == rows, "the bench was touched")
        if copy.exists():
            check(verify(folder, copy)["samples"] >= 2 * rows // 600, "half a copy")
            check(query(copy, "SELECT count(*) FROM logbook WHERE text LIKE 'Thinned%'") == 1, "its logbook says nothing")
            whole += 1
        copy.unlink(missing_ok=True)
    return tries, f"the copy is whole or not there ({whole} whole)"


@attack("a disk that is full while old data are seen anew and thinned")
def full_for_new_writers(folder, short):
    rows = 300_000
    bench = raw_bench(folder, rows)
    size = bench.stat().st_size
    tries = refused = 0
    for share in (0.2, 0.5, 0.9):
        copy = folder / f"copy{tries}.cognitum"
        done = cli(folder, "thin", bench, copy, "--before", "2026-01-01", "--step", "10min", limit_file=int(size * share))
        check(copy.exists() == (done.returncode == 0), "half a copy")
        check(not copy.exists() or verify(folder, copy)["samples"] == rows, "half a copy")
        anew = folder / f"anew{tries}.cognitum"
        shutil.copyfile(bench, anew)
        again = cli(folder, "reevaluate", anew, "--reading", "level", limit_file=int(size * (1 + share)))
        there = verify(folder, anew)["samples"]
        check(there == 2 * rows if again.returncode == 0 else there >= rows, "samples are missing")
        refused += (done.returncode != 0) + (again.returncode != 0)
        tries += 2
    check(refused >= 3, "nothing was refused: the disk was not full")
    return tries, f"refused with a sentence ({refused} times), and what was there stays"
