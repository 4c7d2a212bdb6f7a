#!/usr/bin/env python3
"""A man page from what a program says of itself: its --help, and that of each of its verbs.

man.py NAME PROGRAM "ONE LINE" > NAME.1     Environment: SOURCE_DATE_EPOCH, seconds, dates the page.
"""
import datetime
import os
import re
import subprocess
import sys


def said(arguments):
    result = subprocess.run(arguments, capture_output=True, text=True, env={**os.environ, "QT_QPA_PLATFORM": "offscreen"})
    if result.returncode != 0:
        sys.exit(f"man.py: {' '.join(arguments)} ended with {result.returncode}: {result.stderr}")
    return result.stdout.rstrip()


def roff(text):
    lines = []
    for line in text.split("\n"):
        line = line.replace("\\", "\\e").replace("-", "\\-")
        lines.append("\\&" + line if line[:1] in (".", "'") else line)
    return "\n".join(lines)


def wrapped(text, width=76):
    """Long lines of a help, folded at blanks under where their text begins."""
    out = []
    for line in text.split("\n"):
        indent = len(line) - len(line.lstrip())
        columns = [m.end() for m in re.finditer(r"\S {2,}", line)]
        begin = columns[-1] if columns and columns[-1] < width - 20 else indent + 4
        while len(line) > width and (cut := line.rfind(" ", begin + 1, width)) > begin:
            out.append(line[:cut])
            line = " " * begin + line[cut + 1:]
        out.append(line)
    return "\n".join(out)


def main():
    name, program, about = sys.argv[1:4]
    date = datetime.datetime.fromtimestamp(int(os.environ.get("SOURCE_DATE_EPOCH", "0")), datetime.timezone.utc)
    own = said([program, "--help"]).replace(program, name)
    out = [f'.TH {name.upper()} 1 "{date:%Y-%m-%d}" "Cognitum 0.1.0" "User Commands"', ".SH NAME",
           f"{roff(name)} \\- {roff(about)}", ".SH DESCRIPTION", ".nf", roff(wrapped(own)), ".fi"]
    verbs = []
    if "\nSubcommands:" in own:
        for line in own.split("\nSubcommands:")[1].split("\n"):
            found = re.match(r"  ([a-z][a-z-]+)(\s|$)", line)
            if found:
                verbs.append(found.group(1))
    if verbs:
        out.append(".SH VERBS")
    for verb in verbs:
        out += [f".SS {roff(verb)}", ".nf", roff(wrapped(said([program, verb, "--help"]).replace(program, name))), ".fi"]
    out += [".SH SEE ALSO", "The documents in /usr/share/doc/cognitum."]
    print("\n".join(out))


main()
