"""The command line: serve, demo, report, audit, import, export, backup, restore, prune."""

from __future__ import annotations

import argparse
import datetime as dt
import json
import sqlite3
import sys
from collections.abc import Iterator, Sequence
from pathlib import Path

from euhydra import __version__, report
from euhydra.core.assessment.assess import assess
from euhydra.core.editing.file import BadFile, from_json, weather_in
from euhydra.core.log.entries import Entry
from euhydra.data import garden_log, garden_text, library
from euhydra.serving import address, gardens_of, passphrase, say_unreadable, serve
from euhydra.store import backup, going, trouble
from euhydra.store.database import default_path
from euhydra.store.gardens import DEMO_TITLE, Gardens
from euhydra.store.in_use import AlreadyInUse, alone
from euhydra.store.kept import NoSuchGarden, Unreadable
from euhydra.store.log import Log
from euhydra.store.riding import as_file, keep
from euhydra.web.pictures import riding_in

DEMO_GARDENS = ("balcony", "plot-27", "wringer-lane", "lantern-patio", "quarry-steps", "kiln-yard")


def main(argv: Sequence[str] | None = None) -> int:
    """Run a command; the exit code is 0, or 2 when what was asked cannot be done."""
    args = _parser().parse_args(argv)
    try:
        return int(args.run(args))
    except (BadFile, trouble.BadCopy, trouble.CannotWrite, AlreadyInUse, NoSuchGarden, Unreadable,
            OSError, UnicodeDecodeError, sqlite3.Error) as error:
        print(f"euhydra: {_words(error)}", file=sys.stderr)
        return 2


def _words(error: Exception) -> str:
    if isinstance(error, NoSuchGarden):
        return f"there is no garden called {error}"
    if isinstance(error, UnicodeDecodeError):
        return "the file is not text in UTF-8"
    if isinstance(error, sqlite3.Error):
        return str(trouble.of(error))
    return str(error)


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="euhydra", description="Follow the water: from the "
                                     "gutter to the last drip.")
    parser.add_argument("--version", action="version", version=f"euhydra {__version__}")
    commands = parser.add_subparsers(required=True, metavar="COMMAND")
    for name, run, text in (("serve", serve, "serve the app on this machine"),
                            ("demo", _demo, "the same, with the demo gardens")):
        command = commands.add_parser(name, help=text)
        command.add_argument("--port", type=int, default=8017)
        command.add_argument("--db", type=Path, default=None, help="the file gardens are kept in")
        command.add_argument("--check", action="store_true",
                             help="look the file through, whole, before it is served")
        command.add_argument("--host", default="127.0.0.1", metavar="ADDRESS",
                             help="listen on another address of this machine: 0.0.0.0 for all")
        command.add_argument("--at", type=address, default=None, metavar="URL",
                             help="where a phone reaches the app, as http://garden.local:8017")
        command.add_argument("--https", action="store_true",
                             help="over HTTPS, with a certificate made here or your own")
        command.add_argument("--cert", type=Path, default=None, metavar="FILE",
                             help="your own certificate, with --https")
        command.add_argument("--key", type=Path, default=None, metavar="FILE",
                             help="its private key")
        command.set_defaults(run=run)
    command = commands.add_parser("report", help="the whole reckoning of a garden's file")
    command.add_argument("file", type=Path, metavar="GARDEN.json")
    command.add_argument("--json", action="store_true", help="as data with stable keys")
    command.add_argument("--units", choices=("metric", "us"), default=None)
    command.set_defaults(run=_report)
    command = commands.add_parser("audit", help="compare all that is said of a garden; 1 if any "
                                  "two statements of one quantity differ")
    command.add_argument("file", type=Path, metavar="GARDEN.json")
    command.add_argument("--json", action="store_true", help="as data")
    command.add_argument("--units", choices=("metric", "us"), default=None)
    command.set_defaults(run=_audit)
    command = commands.add_parser("export", help="write a kept garden as JSON")
    command.add_argument("garden", help="the garden's id")
    command.add_argument("--db", type=Path, default=None)
    command.add_argument("--out", type=Path, default=None, help="a file instead of the screen")
    command.set_defaults(run=_export)
    command = commands.add_parser("import", help="keep the garden in a file")
    command.add_argument("file", type=Path, metavar="GARDEN.json")
    command.add_argument("--db", type=Path, default=None)
    command.set_defaults(run=_import)
    _of_copies(commands)
    return parser


def _of_copies(commands: argparse._SubParsersAction[argparse.ArgumentParser]) -> None:
    command = commands.add_parser("backup", help="make a checked copy of all gardens")
    command.add_argument("--db", type=Path, default=None)
    command.add_argument("--to", type=Path, default=None, metavar="FILE",
                         help="a file of its own; else beside the gardens")
    command.set_defaults(run=_backup)
    command = commands.add_parser("restore", help="put a copy in the place of all gardens; what "
                                  "is there is kept first")
    command.add_argument("file", type=Path, metavar="FILE")
    command.add_argument("--db", type=Path, default=None)
    command.set_defaults(run=_restore)
    command = commands.add_parser("prune", help="forget a garden's changes older than a year")
    command.add_argument("garden", help="the garden's id")
    command.add_argument("--db", type=Path, default=None)
    command.set_defaults(run=_prune)
    command = commands.add_parser("passphrase", help="choose what lets others in from the network")
    command.add_argument("--db", type=Path, default=None)
    command.set_defaults(run=passphrase)
    command = commands.add_parser("check", help="look the file of gardens through, whole")
    command.add_argument("--db", type=Path, default=None)
    command.set_defaults(run=_check)


def _demo(args: argparse.Namespace) -> int:
    gardens = gardens_of(args)
    if gardens.database.trouble is None:
        add_demo(gardens)
    return serve(args)


def add_demo(gardens: Gardens) -> None:
    """Keep the demo gardens that are not there yet, each with the log of an invented season."""
    there = {listed.id for listed in gardens.listed()}
    for name in DEMO_GARDENS:
        if name not in there:
            gardens.add(from_json(garden_text(name), gardens.library), DEMO_TITLE)
            Log(gardens.database).put(name, demo_log(name))


def demo_log(name: str) -> Iterator[Entry]:
    """The log of an invented season that ships with a demo garden."""
    for row in garden_log(name):
        yield Entry(row["id"], dt.date.fromisoformat(row["day"]), row["kind"], row["about"],
                    float(row["value"]) if row["value"] else None, row["word"], row["note"])


def _report(args: argparse.Namespace) -> int:
    text = args.file.read_text(encoding="utf-8-sig")
    garden = from_json(text, library())
    assessment = assess(garden, library(), weather_in(text))
    system = args.units or garden.units
    if args.json:
        print(json.dumps(report.as_data(assessment, system), indent=2, ensure_ascii=False))
    else:
        print(report.as_text(assessment, system), end="")
    return 0


def _audit(args: argparse.Namespace) -> int:
    from euhydra.audit import audit  # here, so that a report does not wait for the pages

    text = args.file.read_text(encoding="utf-8-sig")
    garden = from_json(text, library())
    if args.units:
        garden = garden.model_copy(update={"units": args.units})
    told = audit(assess(garden, library(), weather_in(text)))
    if args.json:
        print(json.dumps(told.data(), indent=2, ensure_ascii=False))
    else:
        for difference in told.differ:
            print(difference.words())
        print(f"{told.compared} statements compared, {len(told.differ)} differ.")
    return 1 if told.differ else 0


def _export(args: argparse.Namespace) -> int:
    gardens = gardens_of(args)
    text = _text_of(gardens, args.garden)
    if args.out:
        args.out.write_text(text, encoding="utf-8")
    else:
        print(text, end="")
    return 0


def _text_of(gardens: Gardens, garden_id: str) -> str:
    """A garden's file, its weather with it; the stored text where that cannot be read."""
    try:
        kept = gardens.load(garden_id)
    except Unreadable as error:
        print(f"euhydra: {error} This is its stored text.", file=sys.stderr)
        return gardens.text(garden_id)
    if kept.held_back:
        print(f"euhydra: {kept.held_back.why} This is the stored text of its last change.",
              file=sys.stderr)
        return gardens.text(garden_id)
    return as_file(gardens.database, kept.garden)


def _import(args: argparse.Namespace) -> int:
    gardens = gardens_of(args)
    text = args.file.read_text(encoding="utf-8-sig")
    garden = keep(gardens, from_json(text, gardens.library), riding_in(text), "Opened from a file")
    print(f"kept as {garden.id}")
    return 0


def _backup(args: argparse.Namespace) -> int:
    gardens = gardens_of(args)
    copy = backup.by_hand(gardens.database, gardens.library, args.to)
    print(f"{copy.gardens} gardens copied to {copy.path}, looked through and sound.")
    say_unreadable(copy)
    return 0


def _restore(args: argparse.Namespace) -> int:
    path = args.db or default_path()
    with alone(path):
        copy, kept = backup.restore(path, args.file, library())
    print(f"{copy.gardens} gardens brought back from {copy.path}.")
    if kept:
        print(f"What was there is kept in {kept}.")
    say_unreadable(copy)
    return 0


def _prune(args: argparse.Namespace) -> int:
    gone = going.prune(gardens_of(args).database, args.garden, dt.datetime.now(dt.UTC))
    print(f"{gone} changes older than a year are forgotten.")
    return 0


def _check(args: argparse.Namespace) -> int:
    copy = backup.checked(args.db or default_path(), library())
    print(f"{copy.path} is sound: {copy.gardens} gardens.")
    say_unreadable(copy)
    return 2 if copy.unreadable else 0
