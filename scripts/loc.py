"""Print the share of tests among all code lines (blank lines left out)."""

import subprocess

files = subprocess.run(["git", "ls-files"], capture_output=True, text=True, check=True)
counts = {"src": 0, "tests": 0}
for name in files.stdout.split():
    room = name.split("/")[0]
    code = name.endswith((".py", ".js", ".html", ".sql", ".css"))
    if room not in counts or not code or "/vendor/" in name or name.endswith(
            (".min.js", "static/app.css")):
        continue
    with open(name, encoding="utf-8") as handle:
        counts[room] += sum(1 for line in handle if line.strip())
whole = sum(counts.values())
print(f"source {counts['src']} lines, tests {counts['tests']} lines: "
      f"{100 * counts['tests'] / whole:.1f} % tests")
