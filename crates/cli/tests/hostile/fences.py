"""Ends with 0 where no fenced block of a Markdown file is closed early, and nothing outside one is a forged heading or raw markup."""
import re, sys

fence = None
for line in open(sys.argv[1], encoding="utf-8"):
    marks = re.match(r" {0,12}(`{3,}|~{3,})", line)
    if fence is None:
        if marks:
            fence = marks.group(1)
        elif re.match(r" *# Forged|.*(?<!\\)<script", line):
            sys.exit(f"outside a block: {line}")
    elif marks and marks.group(1)[0] == fence[0] and len(marks.group(1)) >= len(fence) and line.strip() == marks.group(1):
        fence = None
if fence is not None:
    sys.exit("a block is left open")
