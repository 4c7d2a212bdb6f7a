"""Files that somebody made to do harm: cards, plans and databases."""
import json
import os
import random
import sqlite3
import subprocess
import time
from pathlib import Path

from common import WINDOW, Window, attack, bench_of, check, cli, environment, memory_mb, rows_csv, wait_for, write

VERBS = (["verify"], ["check"], ["export"], ["import", "a.csv", "--bench"], ["path", "--reading", "level"])


def on_all_verbs(folder, bench, about, sound=False):
    """Every verb ends, and verify does not take the file for sound."""
    write(folder / "a.csv", rows_csv(3))
    for verb in VERBS:
        done = cli(folder, verb[0], *(verb[1:] + [bench] if verb[0] == "import" else [bench] + verb[1:]), seconds=10)
        if verb[0] == "verify" and not sound:
            check(done.returncode != 0, f"verify takes it for sound: {about}")


def bench_with(folder, sql, name="x.cognitum", rows=100):
    """A bench that somebody changed with SQL of their own."""
    Path(folder / name).unlink(missing_ok=True)
    write(folder / "rows.csv", rows_csv(rows))
    cli(folder, "import", "rows.csv", "--bench", name)
    db = sqlite3.connect(folder / name)
    db.create_function("row_sum", -1, lambda *a: 0)
    db.executescript(sql)
    db.commit()
    db.close()
    return name


@attack("brackets 100 000 deep")
def deep(folder, short):
    own = folder / "own/cognitum/parts"
    own.mkdir(parents=True)
    tries = 0
    for text in ("[" * 100_000 + "]" * 100_000, '{"a":' * 100_000 + "1" + "}" * 100_000, "[" * 100_000, '{"a":[' * 50_000):
        write(own / "deep.json", text)
        write(folder / "p.json", text)
        write(folder / "board.json", text)
        for arguments in (["check", "p.json"], ["import", "p.json", "--bench", "b.cognitum"], ["convert", "p.json"],
                          ["decode", "board.json"], ["decode", "board.json", "--format", "json"]):
            cli(folder, *arguments, input=b"1\n")
            tries += 1
        db = f"d{tries}.cognitum"
        bench_with(folder, "", db)
        with sqlite3.connect(folder / db) as connection:
            connection.execute("UPDATE plan SET body = ?, check_sum = NULL WHERE kind = 'reading'", (text,))
        check(cli(folder, "check", db).returncode == 3, "a plan of brackets was taken")
    return tries + 4, "refused with its line, no crash"


@attack("a number that no double holds")
def huge_number(folder, short):
    own = folder / "own/cognitum"
    for kind in ("parts", "boards", "recipes"):
        (own / kind).mkdir(parents=True)
        write(own / kind / "x.json", '{"id": "x", "name": "x", "minimum_interval_s": 1e400}')
    write(folder / "p.json", '{"bench": "x", "readings": [{"id": "a", "name": "a", "path": 1e400}]}')
    check(cli(folder, "check", "p.json").returncode == 3, "taken")
    write(folder / "a.csv", rows_csv(3))
    check(cli(folder, "import", "a.csv", "--bench", "b.cognitum").returncode == 0, "a bad card stops an import")
    with Window(folder, str(folder / "b.cognitum"), record=False) as window:
        time.sleep(3)
        check(window.alive(), "a bad card ends the window")
        window.end()
    return 3, "one bad card, and the rest is there"


@attack("a database whose parts are not ours")
def schema(folder, short):
    endless = "WITH RECURSIVE c(x) AS (SELECT 1 UNION ALL SELECT x + 1 FROM c) SELECT"
    attacks = [
        f"DROP TABLE plan; CREATE VIEW plan AS {endless} 'bench' AS kind, x AS id, x AS position, '{{}}' AS body, NULL AS check_sum FROM c;",
        f"DROP TABLE series; CREATE VIEW series AS {endless} x AS id, x AS reading, NULL AS check_sum FROM c;",
        f"DROP TABLE tail; CREATE VIEW tail AS {endless} 1 AS series, x AS time, 1.0 AS raw, 1.0 AS value, 0 AS cause, NULL AS check_sum FROM c;",
        "CREATE TRIGGER t AFTER INSERT ON tail BEGIN DELETE FROM series; END;",
        "DROP TRIGGER logbook_kept;",
        "CREATE TABLE more (x);",
        "CREATE INDEX more ON tail (value);",
        "DROP TABLE logbook; CREATE TABLE logbook (id INTEGER PRIMARY KEY, time, reading, kind, text, corrects, check_sum);",
        "ALTER TABLE plan ADD COLUMN g TEXT GENERATED ALWAYS AS (body || body);",
        "PRAGMA writable_schema = ON; UPDATE sqlite_schema SET sql = replace(sql, 'REAL', 'TEXT') WHERE name = 'tail';",
        "PRAGMA user_version = 1;", "PRAGMA user_version = 0;", "PRAGMA user_version = -1;",
        "PRAGMA writable_schema = ON; UPDATE sqlite_schema SET rootpage = 2 WHERE name = 'tail';",
    ]
    for i, sql in enumerate(attacks):
        on_all_verbs(folder, bench_with(folder, sql, f"x{i}.cognitum"), sql)
    return len(attacks) * len(VERBS), "refused by what is not ours"


@attack("rows that cannot be")
def rows(folder, short):
    insert = "INSERT INTO tail (series, time, raw, value, cause) VALUES (1, {}, {}, {}, {})"
    block = "INSERT INTO block (series, level, first, last, n, valued, low, high, sum, digest, data) VALUES ({}, {}, {}, {}, {}, 1, 0, 0, 0, {}, {})"
    zeros = "x'28b52ffda000e1f50554000010000001 00a5e1f50540 ff'".replace(" ", "")  # says that it unpacks to 100 MB
    attacks = [
        insert.format(2**63 - 1, 1, 1, 0), insert.format(-2**63, 1, 1, 0), insert.format("'x'", 1, 1, 0),
        insert.format(5, "x'00'", "'text'", 0), insert.format(5, 1, 1, 99), insert.format(5, 1, 1, "'x'"),
        block.format(1, 0, 1, 2, 2, "x''", "x''"), block.format(1, 0, 1, 2**62, 2**62, zeros, zeros),
        block.format(9, 0, 1, 2, 2, "x'00'", "x'00'"), block.format(1, 7, 1, 2, 2, "x'00'", "NULL"),
        block.format(1, 0, 5, 1, 2, "zeroblob(60000000)", "zeroblob(60000000)"),
        "UPDATE plan SET body = zeroblob(60000000) WHERE kind = 'reading'",
        "UPDATE plan SET body = 'null'", "UPDATE plan SET id = x'ff00ff'", "UPDATE plan SET position = 'x'",
        "UPDATE series SET reading = x'ff'", "INSERT INTO series (reading) VALUES ('')", "DELETE FROM series",
        "DELETE FROM plan WHERE kind = 'reading'",
        "INSERT INTO plan (kind, id, position, body) WITH RECURSIVE c(x) AS (SELECT 1 UNION ALL SELECT x + 1 FROM c LIMIT 50000) SELECT 'reading', x, x, '{}' FROM c",
    ]
    for i, sql in enumerate(attacks):
        on_all_verbs(folder, bench_with(folder, sql + ";", f"x{i}.cognitum"), sql)
    return len(attacks) * len(VERBS), "named by verify, none hangs or crashes"


@attack("bytes of a bench at random")
def random_bytes(folder, short):
    tries = 25 if short else 250
    bench_with(folder, "", "b.cognitum", 9000)
    sound = (folder / "b.cognitum").read_bytes()
    for i in range(tries):
        broken = bytearray(sound)
        for _ in range(random.choice([1, 10, 100, 1000])):
            broken[random.randrange(100, len(broken))] = random.randrange(256)
        write(folder / "x.cognitum", bytes(broken))
        for verb in ("verify", "export"):
            cli(folder, verb, "x.cognitum")
    return 2 * tries, "no crash, no hang"


@attack("markup in every text of a bench")
def markup(folder, short):
    evil = "<img src='/dev/zero' width='99999' height='99999'><table>" + "<tr><td>x" * 2000
    plan = json.loads((Path(__file__).resolve().parents[2] / "data/demo/whelk-point.json").read_text())

    def poison(value, key=""):
        if isinstance(value, dict):
            return {k: poison(v, k) for k, v in value.items()}
        if isinstance(value, list):
            return [poison(v, key) for v in value]
        free = ("name", "place", "reason", "because", "marking", "note", "by", "label", "certificate", "expected_when", "disturbed_how")
        return evil + value if isinstance(value, str) and key in free else value

    plan = poison(plan)
    plan["bench"] = evil
    for board in plan["boards"]:
        board["link"] = {"kind": "none"}
    write(folder / "plan.json", json.dumps(plan))
    done = cli(folder, "import", "plan.json", "--bench", "b.cognitum")
    check(done.returncode == 0, done.err)
    stops = (1, 3, 6) if short else range(1, 8)
    for stop in stops:
        with open(folder / "log", "wb") as log:
            window = subprocess.Popen([WINDOW, folder / "b.cognitum", "--stop", str(stop)], env=environment(folder), stderr=log)
            time.sleep(2.5)
            check(window.poll() is None, f"the window ended at stop {stop}")
            used = memory_mb(window)
            window.kill()
            window.wait()
            check(used < 500, f"{used:.0f} MB at stop {stop}")
    return len(stops), "shown as it stands, under 500 MB"


@attack("a bench that asks to listen wide")
def wide(folder, short):
    print_of, port = "ab" * 32, 15000 + os.getpid() % 5000
    bench = bench_of(folder, {"bench": "x", "boards": [{"id": "b", "name": "b", "card": "", "link": {
        "kind": "http", "http": {"port": port, "wide": True, "token_print": print_of}}}], "readings": []})
    with Window(folder, bench, record=False):
        listening = wait_for(lambda: [l.split()[1] for l in Path("/proc/net/tcp").read_text().splitlines()
                                      if l.split()[1].endswith(f":{port:04X}") and l.split()[3] == "0A"])
        check(listening, "it does not listen at all")
        check(all(a.startswith("0100007F") for a in listening), "it listens to the whole network unasked")
    return 1, "listens on this computer alone until a person allows it"
