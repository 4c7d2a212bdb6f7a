"""What all attacks use: the programs, a folder of their own, and benches to attack."""
import json
import os
import random
import resource
import shutil
import signal
import subprocess
import tempfile
import time
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
BIN = ROOT / "build/release/bin"
CLI, WINDOW, RECORDER = BIN / "cognitum-cli", BIN / "cognitum", BIN / "recorder"
LONGEST = 20  # seconds that any command may take with an attack

attacks = []


class Failed(Exception):
    """An attack that got through."""


def attack(name, short=True):
    """Registers f(folder, short) → (tries, sentence). It raises Failed when the attack got through."""
    def register(f):
        attacks.append((name, short, f))
        return f
    return register


def check(good, what):
    if not good:
        raise Failed(what)


def environment(folder):
    env = {k: v for k, v in os.environ.items() if not k.startswith(("DISPLAY", "WAYLAND"))}
    run = Path(folder) / "run"
    run.mkdir(mode=0o700, exist_ok=True)
    env |= {"XDG_RUNTIME_DIR": str(run), "COGNITUM_DATA": str(ROOT / "data"), "XDG_DATA_HOME": f"{folder}/own", "XDG_CONFIG_HOME": f"{folder}/config",
            "QT_QPA_PLATFORM": "offscreen", "TZ": "UTC", "LC_ALL": "C.UTF-8", "TMPDIR": str(folder)}
    return env


def cli(folder, *arguments, input=None, limit_file=None, seconds=LONGEST, stdout=subprocess.PIPE, as_nobody=False):
    """Runs cognitum-cli; a crash, or more than `seconds`, is an attack that got through."""
    def prepare():
        if limit_file:  # writes beyond fail, as on a full disk
            signal.signal(signal.SIGXFSZ, signal.SIG_IGN)
            resource.setrlimit(resource.RLIMIT_FSIZE, (limit_file, limit_file))
        if as_nobody and os.getuid() == 0:
            os.setgid(65534)
            os.setuid(65534)
    try:
        done = subprocess.run([CLI, *map(str, arguments)], input=input, stdout=stdout, stderr=subprocess.PIPE, cwd=folder,
                              env=environment(folder), timeout=seconds, preexec_fn=prepare)
    except subprocess.TimeoutExpired:
        raise Failed(f"{arguments[0]} took more than {seconds} s")
    check(done.returncode >= 0, f"{arguments[0]} crashed with signal {-done.returncode}")
    done.out = (done.stdout or b"").decode(errors="replace")
    done.err = done.stderr.decode(errors="replace")
    return done


def verify(folder, bench):
    """The report of `verify`; raises Failed when the file is not sound."""
    done = cli(folder, "verify", bench, "--json", seconds=60)
    check(done.returncode in (0, 1), f"verify says {done.err.strip()}")
    report = json.loads(done.out)
    check(report["ok"], f"{Path(bench).name} is not sound: {report['problems'][:2]}")
    return report


def rows_csv(n, first=0, name="level"):
    """n rows, a second apart, from second `first` of 2026 on."""
    start = 1767225600
    return f"time,{name}\n" + "".join(f"{start + first + i},{(first + i) % 977 / 8}\n" for i in range(n))


def write(path, text):
    Path(path).write_bytes(text if isinstance(text, bytes) else text.encode())
    return path


def bench_of(folder, plan, name="b.cognitum"):
    """A bench file made of its JSON form."""
    write(f"{folder}/plan.json", json.dumps(plan))
    done = cli(folder, "import", "plan.json", "--bench", name)
    check(done.returncode == 0, done.err)
    return f"{folder}/{name}"


def memory_mb(process):
    """Most memory that a running process ever had in RAM."""
    for line in Path(f"/proc/{process.pid}/status").read_text().splitlines():
        if line.startswith("VmHWM"):
            return int(line.split()[1]) / 1024
    return 0


class Window:
    """The window program with a bench open, offscreen, recording."""

    def __init__(self, folder, bench, record=True):
        self.folder, self.bench = folder, bench
        self.log = open(f"{folder}/window.log", "ab")
        self.process = subprocess.Popen([WINDOW, bench] + (["--record"] if record else []), env=environment(folder),
                                        stdout=self.log, stderr=self.log)

    def alive(self):
        return self.process.poll() is None

    def end(self, seconds=15):
        """Asks it to end as log-out does; returns what it said."""
        self.process.send_signal(signal.SIGTERM)
        try:
            self.process.wait(seconds)
        except subprocess.TimeoutExpired:
            raise Failed("the window did not end when it was asked to")
        check(self.process.returncode == 0, f"the window ended with {self.process.returncode}")
        return Path(f"{self.folder}/window.log").read_text()

    def __enter__(self):
        return self

    def __exit__(self, *_):
        if self.alive():
            self.process.kill()
            self.process.wait()


def wait_for(what, seconds=15, every=0.05):
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        if answer := what():
            return answer
        time.sleep(every)
    return None


def samples_of(bench, reading):
    """Values of a reading in order of time, through the program's own export."""
    done = cli(Path(bench).parent, "export", bench, "--format", "csv", "--reading", reading, seconds=60)
    check(done.returncode == 0, f"export: {done.err.strip()}")
    return [float(line.split(",")[1]) for line in done.out.splitlines()[1:] if line.split(",")[1]]


def run(words, short):
    failed = 0
    print(f"{'attack':<58} {'tries':>6}  {'s':>5}  result")
    started = time.monotonic()
    for name, in_short, f in attacks:
        if (words and not any(w in name for w in words)) or (short and not in_short and not words):
            continue
        folder = Path(tempfile.mkdtemp(prefix="attack-"))
        begun = time.monotonic()
        random.seed(20261)
        try:
            tries, sentence = f(folder, short)
        except Exception as e:  # also one that broke by itself has not shown that it does not get through
            tries, sentence = "", f"GOT THROUGH: {e}" if isinstance(e, Failed) else f"BROKE: {e!r}"
            failed += 1
        finally:
            shutil.rmtree(folder, ignore_errors=True)
        print(f"{name:<58} {tries:>6}  {time.monotonic() - begun:5.1f}  {sentence}", flush=True)
    print(f"attack: {failed} got through, {time.monotonic() - started:.0f} s")
    return 1 if failed else 0
