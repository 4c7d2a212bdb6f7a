"""The window itself: told to end, killed, its file taken away or replaced."""
import os
import random
import shutil
import time
from pathlib import Path

from common import Window, attack, check, cli, rows_csv, samples_of, verify, wait_for, write
from links import PORT, listening, post, posting_bench


def of_process(path):
    """What /proc says at `path`, or nothing once that process or thread has ended."""
    try:
        return Path(path).read_text()
    except (FileNotFoundError, ProcessLookupError):
        return ""


def children_of(process):
    # A thread may end between the list of threads and the look at it.
    tasks = Path(f"/proc/{process.pid}/task").iterdir()
    return [int(c) for task in tasks for c in of_process(task / "children").split()]


def running(pid):
    said = of_process(f"/proc/{pid}/stat")
    return bool(said) and said.split(")")[1].split()[0] != "Z"


@attack("window: told to end while it records")
def told(folder, short):
    tries = 2 if short else 8
    for i in range(tries):
        folder_i = folder / f"t{i}"
        folder_i.mkdir()
        port = PORT + 10 + i
        with Window(folder_i, posting_bench(folder_i, port)) as window:
            check(listening(port), "it does not listen")
            n = sum(post(port, 100 + k) == 200 for k in range(50))
            said = window.end()
            check("samples of this recording are saved" in said, said)
            values = [v for v in samples_of(window.bench, "level") if v >= 100]
            check(len(values) == n, f"{len(values)} of {n} recorded")
    return tries, "ends at once, every post saved, and says so"


@attack("window: killed, and what it started")
def killed(folder, short):
    tries = 2 if short else 8
    for i in range(tries):
        folder_i = folder / f"k{i}"
        folder_i.mkdir()
        bench = folder_i / "demo.cognitum"
        cli(folder_i, "demo", "--bench", bench)
        window = Window(folder_i, str(bench))
        started = wait_for(lambda: len(children_of(window.process)) >= 3 and children_of(window.process))
        check(started, "the simulated boards do not run")
        time.sleep(1 + random.random())
        window.process.kill()
        window.process.wait()
        check(wait_for(lambda: not any(running(c) for c in started), 5), "children live on")
        verify(folder_i, bench)
        # The next start removes what the killed one left.
        with Window(folder_i, str(bench)) as again:
            wait_for(lambda: len(children_of(again.process)) >= 3)
            again.end()
        left = [p.name for p in folder_i.iterdir() if p.is_dir() and p.name not in ("own", "config", "run")]
        check(not left, f"folders are left: {left}")
    return tries, "children end with it, its folders go with the next start"


@attack("window: its bench is replaced while it records", short=False)
def replaced(folder, short):
    tries = 2 if short else 8
    for i in range(tries):
        folder_i = folder / f"r{i}"
        folder_i.mkdir()
        port = PORT + 30 + i
        bench = Path(posting_bench(folder_i, port))
        shutil.copy(bench, folder_i / "other.cognitum")
        write(folder_i / "o.csv", rows_csv(500, name="level"))
        cli(folder_i, "import", "o.csv", "--bench", folder_i / "other.cognitum")
        with Window(folder_i, str(bench)) as window:
            check(listening(port), "it does not listen")
            n = sum(post(port, 100_000 + k) == 200 for k in range(60))
            time.sleep(random.random() * 2)
            os.link(bench, folder_i / "old.cognitum")
            os.rename(folder_i / "other.cognitum", bench)
            n += sum(post(port, 200_000 + k) == 200 for k in range(60))
            time.sleep(4)
            n += sum(post(port, 300_000 + k) == 200 for k in range(60))
            time.sleep(1)
            said = window.end()
        check("replaced" in said, f"nothing was said: {said}")
        verify(folder_i, bench)
        verify(folder_i, folder_i / "old.cognitum")
        values = samples_of(bench, "level")
        check(len([v for v in values if v < 1000]) >= 500, "the new file lost its samples")
        both = [v for v in values + samples_of(folder_i / "old.cognitum", "level") if v >= 100_000]
        check(len(both) == n, f"{len(both)} of {n} posts are in the two files")
    return tries, "old and new file sound; every post in one of them"


@attack("window: its bench is taken away, and it is closed")
def taken_away(folder, short):
    port = PORT + 50
    bench = Path(posting_bench(folder, port))
    with Window(folder, str(bench)) as window:
        check(listening(port), "it does not listen")
        time.sleep(1.5)
        bench.rename(folder / "away")
        n = sum(post(port, 1000 + k) == 200 for k in range(40))
        time.sleep(1.5)
        said = window.end()
    check("could not be saved" in said, said)
    kept = list(folder.glob("b.unsaved-*.cognitum"))
    check(len(kept) >= 1, "nothing is kept beside it")
    (folder / "away").rename(bench)
    with Window(folder, str(bench), record=False) as window:
        check(wait_for(lambda: not list(folder.glob("b.unsaved-2*.cognitum"))), "not taken in again")
        window.end()
    values = [v for v in samples_of(bench, "level") if v >= 1000]
    check(len(values) == n, f"{len(values)} of {n} are back")
    return n, "kept beside it, taken in when it is back"


@attack("window: the command line adds a reading meanwhile")
def beside(folder, short):
    port = PORT + 51
    bench = Path(posting_bench(folder, port))
    with Window(folder, str(bench)) as window:
        check(listening(port), "it does not listen")
        tries = 5 if short else 30
        for i in range(tries):
            write(folder / "a.csv", rows_csv(50, name=f"added{i}"))
            check(cli(folder, "import", "a.csv", "--bench", bench).returncode == 0, "the import failed")
            post(port, i)
        time.sleep(2.5)
        window.end()
    header = cli(folder, "export", bench).out.splitlines()[0]
    check(all(f"added{i}" in header for i in range(tries)) and "level" in header, header)
    verify(folder, bench)
    return tries, "every reading and every sample is there"
