"""Print the share of tests among all code lines (blank lines left out)."""

import subprocess

files = subprocess.run(["git", "ls-files"], capture_output=True, text=True, check=True)
counts = {"src": 0, "tests": 0}
BUILT = (".min.js", "static/app.css", "static/app.js", "static/theme.js")
for name in files.stdout.split():
    room = "src" if name.startswith("assets/js/") else name.split("/")[0]
    code = name.endswith((".py", ".js", ".html", ".sql", ".css"))
    if room not in counts or not code or "/vendor/" in name or name.endswith(BUILT):
        continue
    with open(name, encoding="utf-8") as handle:
        counts[room] += sum(1 for line in handle if line.strip())
whole = sum(counts.values())
print(f"source {counts['src']} lines, tests {counts['tests']} lines: "
      f"{100 * counts['tests'] / whole:.1f} % tests")
