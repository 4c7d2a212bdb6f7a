"""Neighbours on the network, brokers and wires, against the window with a bench open and recording."""
import os
import pty
import random
import socket
import struct
import subprocess
import threading
import time

from common import Window, attack, bench_of, check, memory_mb, samples_of, verify, wait_for

PORT = 20000 + os.getpid() * 97 % 12000  # of this run, and none that the system gives away
REQUEST_S = 10  # for a whole request, in docs/security.md


def number(name, feed, field="level"):
    return {"id": name, "name": name, "quantity": {"kind": "number", "unit": "1", "low": 0, "high": 1e9, "accuracy": 1, "interval_s": 1},
            "source": {"field": field, "feed": feed}}


def board(name, link):
    return {"id": name, "name": name, "card": "", "link": link}


def posting_bench(folder, port, extra_boards=(), extra_readings=()):
    return bench_of(folder, {"bench": "x", "boards": [board("b", {"kind": "http", "http": {"port": port}}), *extra_boards],
                             "readings": [number("level", "b"), *extra_readings]})


def connect(port, source="127.0.0.1", seconds=5):
    s = socket.create_connection(("127.0.0.1", port), timeout=seconds, source_address=(source, 0))
    s.setsockopt(socket.IPPROTO_TCP, socket.TCP_NODELAY, 1)
    return s


def post_bytes(value, more="", board="b"):
    body = f'{{"level": {value}}}'
    return f"POST /in/{board} HTTP/1.1\r\nHost: 127.0.0.1\r\n{more}Content-Length: {len(body)}\r\n\r\n{body}".encode()


def post(port, value, more=""):
    """Status of one post; 0: no answer."""
    try:
        with connect(port) as s:
            s.sendall(post_bytes(value, more))
            return int(s.recv(200).split()[1])
    except (OSError, IndexError):
        return 0


def listening(port):
    """Waits until posts are taken; a moment later the window records them."""
    taken = wait_for(lambda: post(port, 1) == 200, 15)
    time.sleep(1)
    return taken


def fill(port, start, unit, most_mb=300, source="127.0.0.2"):
    """Sends `start`, then `unit` again and again, until the other side has enough; returns MB sent."""
    sent = 0
    try:
        with connect(port, source) as s:
            s.sendall(start)
            while sent < most_mb << 20:
                s.sendall(unit)
                sent += len(unit)
    except OSError:
        pass
    return sent >> 20


@attack("http: a request line, headers or a body without end")
def endless(folder, short):
    port = PORT
    with Window(folder, posting_bench(folder, port)) as window:
        check(listening(port), "it does not listen")
        before = memory_mb(window.process)
        starts = [(b"POST /", b"a" * 65536), (b"POST /in/b HTTP/1.1\r\nX: ", b"a" * 65536),
                  (b"POST /in/b HTTP/1.1\r\n", b"X-A: b\r\n" * 8192),
                  (b"POST /in/b HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 99999999999\r\n\r\n", b"a" * 65536),
                  (b"POST /in/b HTTP/1.1\r\nHost: 127.0.0.1\r\nTransfer-Encoding: chunked\r\n\r\n", b"10000\r\n" + b"a" * 65536 + b"\r\n")]
        threads = [threading.Thread(target=fill, args=(port, *start)) for start in starts for _ in range(2)]
        for t in threads:
            t.start()
        check(wait_for(lambda: post(port, 2) == 200, 5), "a good post has no answer meanwhile")
        for t in threads:
            t.join()
        grown = memory_mb(window.process) - before
        check(grown < 60, f"memory grew by {grown:.0f} MB")
        check(post(port, 3) == 200, "no answer after it")
        window.end()
    return len(threads), f"cut off, {grown:.0f} MB more memory"


@attack("http: connections that never end their request", short=False)
def slow(folder, short):
    port = PORT + 1
    with Window(folder, posting_bench(folder, port)) as window:
        check(listening(port), "it does not listen")
        held = []
        for i in range(200):
            try:
                s = connect(port, f"127.0.0.{2 + i // 20}")
                s.sendall(b"POST /in/b HTTP/1.1\r\nHost: 127")
                held.append(s)
            except OSError:
                pass
        ends = time.monotonic() + REQUEST_S + 4
        answered = 0
        while time.monotonic() < ends:  # and each sends a byte a second
            for s in held:
                try:
                    s.sendall(b".")
                except OSError:
                    pass
            answered += post(port, 5) == 200
            time.sleep(1)
        check(answered >= 3 and post(port, 6) == 200, f"{answered} posts were answered")
        window.end()
    return 200, f"{answered} of {REQUEST_S + 4} posts answered beside them; all let go after {REQUEST_S} s"


@attack("http: a page of somebody else in a browser")
def foreign(folder, short):
    port = PORT + 2
    with Window(folder, posting_bench(folder, port)) as window:
        check(listening(port), "it does not listen")
        for more in ("Origin: http://evil.example\r\n", "Origin: null\r\n"):
            check(post(port, 99, more) == 403, more)
        with connect(port) as s:
            s.sendall(post_bytes(99).replace(b"Host: 127.0.0.1", b"Host: evil.example"))
            check(b" 403 " in s.recv(200), "a foreign Host")
        check(post(port, 7, f"Origin: http://127.0.0.1\r\n") == 200, "its own origin")
        window.end()
        check(99 not in samples_of(window.bench, "level"), "it was recorded")
    return 3, "refused, nothing recorded"


@attack("http: many posts at once on one connection")
def pipelined(folder, short):
    port, n = PORT + 3, 180
    rounds = 2 if short else 8
    with Window(folder, posting_bench(folder, port)) as window:
        check(listening(port), "it does not listen")
        slowest = 0
        value = 1000
        for _ in range(rounds):
            with connect(port) as s:
                s.sendall(b"".join(post_bytes(value + i) for i in range(n)))
                got = b""
                while got.count(b"HTTP/1.1 200") < n:
                    piece = s.recv(65536)
                    check(piece, f"{got.count(b'HTTP/1.1 200')} of {n} answered")
                    got += piece
            value += n
            time.sleep(1.2)  # at most 200 of a board in a second
        with connect(port) as s:  # one after the other
            begun = time.monotonic()
            for i in range(100):
                s.sendall(post_bytes(value + i))
                check(b" 200 " in s.recv(500), "no answer")
            slowest = (time.monotonic() - begun) / 100 * 1000
        check(slowest < 20, f"{slowest:.0f} ms for each")
        window.end()
        values = [v for v in samples_of(window.bench, "level") if v >= 1000]
        check(len(values) == rounds * n + 100, f"{len(values)} of {rounds * n + 100} recorded")
    return rounds * n + 100, f"all recorded, {slowest:.1f} ms each"


def mqtt_string(text):
    return struct.pack(">H", len(text)) + text.encode()


def mqtt_packet(kind, body):
    length, out = len(body), bytes([kind])
    while True:
        out += bytes([length % 128 | (128 if length > 127 else 0)])
        length //= 128
        if not length:
            return out + body


def mqtt_connect(port, name):
    s = connect(port)
    s.sendall(mqtt_packet(0x10, mqtt_string("MQTT") + b"\x04\x02" + struct.pack(">H", 60) + mqtt_string(name)))
    check(s.recv(4)[:1] == b"\x20", "the broker refuses")
    return s


@attack("mqtt: a flood of large messages", short=False)
def flood(folder, short):
    port, seconds = PORT + 4, 4 if short else 10
    broker = subprocess.Popen(["mosquitto" if not os.path.exists("/usr/sbin/mosquitto") else "/usr/sbin/mosquitto", "-p", str(port)],
                              stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
    try:
        check(wait_for(lambda: _reachable(port)), "there is no broker")
        bench = bench_of(folder, {"bench": "x", "boards": [board("b", {"kind": "mqtt", "mqtt": {"host": "127.0.0.1", "port": port, "topics": "#"}})],
                                  "readings": [number("level", "b")]})
        with Window(folder, bench) as window:
            time.sleep(2)
            before = memory_mb(window.process)
            text = " ".join(str(random.random()) for _ in range(3400)).encode()[:64000]
            s = mqtt_connect(port, "flood")
            ends, sent = time.monotonic() + seconds, 0
            while time.monotonic() < ends:
                s.sendall(mqtt_packet(0x30, mqtt_string("noise") + text))
                sent += 1
            quiet = mqtt_connect(port, "quiet")
            begun = time.monotonic()
            for i in range(40):
                quiet.sendall(mqtt_packet(0x30, mqtt_string("level") + str(777000 + i).encode()))
                time.sleep(0.1)
            grown = memory_mb(window.process) - before
            check(grown < 150, f"memory grew by {grown:.0f} MB")
            window.end()
            values = [v for v in samples_of(window.bench, "level") if v >= 777000]
            check(len(values) >= 20, f"{len(values)} of 40 values behind the flood were recorded")
        return sent, f"{grown:.0f} MB more memory, {len(values)} of 40 values behind it recorded"
    finally:
        broker.kill()
        broker.wait()


def _reachable(port):
    try:
        connect(port).close()
        return True
    except OSError:
        return False


@attack("serial: noise beside a board that posts", short=False)
def noise(folder, short):
    port = PORT + 5
    ours, theirs = pty.openpty()
    name = os.ttyname(theirs)
    serial = board("s", {"kind": "serial", "port": name, "baud": 115200})
    kinds = [lambda: os.urandom(4096), lambda: b"\x1b[2J\x1b[1;1H" * 300, lambda: bytes(range(256)) * 16,
             lambda: (b"1," * random.randrange(1, 200) + b"2\n") * 20, lambda: b"{[" * 2000, lambda: b"a" * 4096]
    stop = threading.Event()

    def make_noise():
        os.set_blocking(ours, False)
        while not stop.is_set():
            try:
                os.write(ours, random.choice(kinds)())
            except BlockingIOError:
                time.sleep(0.002)
    with Window(folder, posting_bench(folder, port, [serial], [number("wire", "s")])) as window:
        check(listening(port), "it does not listen")
        thread = threading.Thread(target=make_noise)
        thread.start()
        answered = 0
        seconds = 8 if short else 20
        for i in range(seconds * 5):
            answered += post(port, 5000 + i) == 200
            time.sleep(0.2)
        used = memory_mb(window.process)
        window.end()
        stop.set()
        thread.join()
        values = [v for v in samples_of(window.bench, "level") if v >= 5000]
        check(answered == seconds * 5 and len(values) == answered, f"{answered} answered, {len(values)} recorded")
        check(used < 500, f"{used:.0f} MB")
    return seconds * 5, "every post recorded"


@attack("serial: a plug that is pulled again and again")
def pulled(folder, short):
    link = folder / "port"
    tries = 10 if short else 40
    serial = board("s", {"kind": "serial", "port": str(link), "baud": 115200})
    bench = bench_of(folder, {"bench": "x", "boards": [serial], "readings": [number("level", "s")]})
    sent = 0
    with Window(folder, bench) as window:
        for i in range(tries):
            ours, theirs = pty.openpty()
            link.unlink(missing_ok=True)
            link.symlink_to(os.ttyname(theirs))
            time.sleep(0.3)
            os.write(ours, b"half a li")
            os.write(ours, b"".join(b"level=%d\n" % (10_000 * (i + 1) + k) for k in range(20)))
            time.sleep(0.2)
            link.unlink()
            os.close(theirs)
            os.close(ours)
            sent += 20
        check(window.alive(), "the window ended")
        window.end()
        verify(folder, bench)
        got = len([v for v in samples_of(bench, "level") if v >= 10_000])
        check(got > sent // 2, f"{got} of {sent} recorded")
    return tries, f"alive, {got} of {sent} lines recorded"


@attack("file: a log that is renamed, copied over and cut", short=False)
def rotated(folder, short):
    log = folder / "log.csv"
    log.write_text("time,level\n")
    bench = bench_of(folder, {"bench": "x", "boards": [board("f", {"kind": "file", "file": {"path": str(log), "follow": True}})],
                              "readings": [number("level", "f")]})
    turns = 6 if short else 18
    value, expected = 0, set()

    def row():
        nonlocal value
        value += 1
        expected.add(value)
        return f"{1767225600 + value},{value}\n"
    with Window(folder, bench) as window:
        time.sleep(2)
        for turn in range(turns):
            for _ in range(5):
                with open(log, "a") as f:
                    f.write("".join(row() for _ in range(20)))
                time.sleep(0.05)
            if turn % 3 == 0:  # renamed while its writer is still at it
                old = open(log, "a")
                log.rename(folder / f"old{turn}.csv")
                log.write_text("time,level\n")
                old.write("".join(row() for _ in range(20)))
                old.close()
            elif turn % 3 == 1:  # another file is moved over it, after its last rows were read
                time.sleep(0.6)
                (folder / "next").write_text("time,level\n" + row())
                (folder / "next").rename(log)
            else:  # cut and begun anew, longer than before at once
                time.sleep(0.6)
                size = log.stat().st_size
                text = "time,level\n"
                while len(text) < size + 500:
                    text += row()
                log.write_text(text)
            time.sleep(0.6)
        time.sleep(1.5)
        window.end()
        got = set(map(int, samples_of(bench, "level")))
        check(got == expected, f"{len(expected - got)} of {len(expected)} rows are missing")
    return turns, f"all {len(expected)} rows recorded"


@attack("file: a pipe that nobody writes into, as a log")
def pipe_as_log(folder, short):
    port = PORT + 6
    os.mkfifo(folder / "p")
    file = board("f", {"kind": "file", "file": {"path": str(folder / "p"), "follow": True}})
    with Window(folder, posting_bench(folder, port, [file])) as window:
        check(listening(port), "it waits for the pipe")
        check(post(port, 4) == 200, "it waits for the pipe")
        window.end()
    return 1, "said so, the other board goes on"
