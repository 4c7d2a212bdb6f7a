"""Programs that are killed at any moment: what was reported as saved is there, and nothing half-made looks whole."""
import random
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
        kill_after(process, random.random() * (0.05 if i % 2 else 0.4))
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
