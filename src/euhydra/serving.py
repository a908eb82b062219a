"""How the app is started: where it listens, for whom, and with which certificate."""

from __future__ import annotations

import argparse
import datetime as dt
import gc
import getpass
import os
import re
import socket
import ssl
import sys
import threading
from pathlib import Path
from urllib.parse import urlsplit

from euhydra.core.season.warming import warm
from euhydra.data import library
from euhydra.store import backup
from euhydra.store.access import Access, TooShort
from euhydra.store.certificate import Certificate, certificate
from euhydra.store.database import Database, default_path
from euhydra.store.gardens import Gardens
from euhydra.store.in_use import shared

COLLECTED_AT = (50_000, 20, 100)  # new things, then rounds of the younger


def gardens_of(args: argparse.Namespace) -> Gardens:
    """The gardens in the file that the command names, or in a person's own."""
    return Gardens(Database(args.db or default_path()), library())


def say_unreadable(copy: backup.Copy) -> None:
    """Tell which gardens' last changes were held back from a copy."""
    if copy.unreadable:
        print(f"Held back, since it cannot be read, is the last change of: "
              f"{', '.join(copy.unreadable)}.")


def address(text: str) -> str:
    """The address at which phones reach the app, as typed."""
    if not re.fullmatch(r"https?://[a-z0-9.-]+(:\d{1,5})?", text.rstrip("/")):
        raise argparse.ArgumentTypeError(
            f"“{text[:60]}” is no such address. It has a scheme, a name and maybe a port: "
            "http://garden.local:8017")
    return text.rstrip("/")


def seldom_collected() -> None:
    """Leave alone what is loaded, and look for cycles seldom.

    A garden is thousands of small things that live as long as its results; to go through them all
    at each few hundred new ones took a fifth of a search.
    """
    gc.collect()
    gc.freeze()
    gc.set_threshold(*COLLECTED_AT)


def serve(args: argparse.Namespace) -> int:
    """Start the app, and give back how it ended."""
    import uvicorn  # here, so that a report does not wait for it

    from euhydra.store.minder import Minder
    from euhydra.web.app import create_app

    gardens = gardens_of(args)
    if args.check and gardens.database.trouble is None:
        say_unreadable(backup.checked(gardens.database.path, gardens.library))
    if gardens.database.trouble:
        print(f"euhydra: open read-only. {gardens.database.trouble}", file=sys.stderr, flush=True)
    stands_open = reached_by_others(args.host, args.at)
    if stands_open and not _passphrase_chosen(Access(gardens.database)):
        return 2
    with socket.socket() as sock:
        sock.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            sock.bind((args.host, args.port))
        except (OSError, OverflowError):
            print(f"euhydra: port {args.port} cannot be had; another program may hold it. Choose "
                  "another with --port (make demo PORT=…).", file=sys.stderr)
            return 2
    scheme = "https" if args.https else "http"
    at = args.at or f"{scheme}://localhost:{args.port}"
    try:
        tls = _tls(args, gardens.database.path, at)
    except (OSError, ValueError, ssl.SSLError) as error:
        print(f"euhydra: no HTTPS: {error}", file=sys.stderr)
        return 2
    print(f"Euhydra is at {scheme}://localhost:{args.port}/  (Ctrl-C ends it)", flush=True)
    if stands_open:
        print(f"In your network it is at {at}/", flush=True)
    with shared(gardens.database.path), Minder(gardens):
        app = create_app(gardens, at, stands_open=stands_open,
                         authority=tls.authority if tls else None)
        threading.Thread(target=warm, daemon=True).start()
        seldom_collected()
        uvicorn.run(app, host=args.host, port=args.port, log_level="warning", server_header=False,
                    ssl_certfile=tls.cert if tls else None, ssl_keyfile=tls.key if tls else None)
    return 0


def reached_by_others(host: str, at: str | None) -> bool:
    """Whether the app is meant for more than this machine: by its network, or past a proxy."""
    here = ("127.0.0.1", "localhost", "::1")
    return host not in here or (at is not None and urlsplit(at).hostname not in here)


def _tls(args: argparse.Namespace, path: Path, at: str) -> Certificate | None:
    """The certificate to serve with; None without HTTPS. Raises OSError or ValueError in words."""
    if not args.https:
        if args.cert or args.key:
            raise ValueError("--cert and --key go with --https")
        return None
    if args.cert or args.key:
        if not (args.cert and args.key):
            raise ValueError("--cert and --key go together")
        ssl.create_default_context(ssl.Purpose.CLIENT_AUTH).load_cert_chain(args.cert, args.key)
        return Certificate(args.cert, args.key, None)
    name = urlsplit(at).hostname or "localhost"
    return certificate(path.with_name(f"{path.stem}-https"),
                       (name, "localhost", "127.0.0.1", "::1"), dt.datetime.now(dt.UTC))


def _passphrase_chosen(access: Access, *, anew: bool = False) -> bool:
    """Whether there is a passphrase, asked for where there is none yet, or ``anew``."""
    if access.has_passphrase and not anew:
        return True
    typed = os.environ.get("EUHYDRA_PASSPHRASE", "")
    if not typed and sys.stdin.isatty():
        print("Whoever comes in from the network types a passphrase. Choose one, three or four "
              "words.")
        typed = getpass.getpass("Passphrase: ")
        if typed != getpass.getpass("Once more: "):
            print("euhydra: the two are not alike; nothing was chosen", file=sys.stderr)
            return False
    if not typed:
        print("euhydra: a passphrase is needed before others are let in. Choose one with “euhydra "
              "passphrase”, or put it in EUHYDRA_PASSPHRASE.", file=sys.stderr)
        return False
    try:
        access.choose(typed)
    except TooShort as error:
        print(f"euhydra: {error}", file=sys.stderr)
        return False
    return True


def passphrase(args: argparse.Namespace) -> int:
    """Ask for a passphrase that lets others in from the network."""
    if not _passphrase_chosen(Access(gardens_of(args).database), anew=True):
        return 2
    print("Chosen. Every device is let in anew.")
    return 0
