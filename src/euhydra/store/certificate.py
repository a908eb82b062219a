"""A certificate made on the spot, so that a phone in the home network keeps pages over HTTPS.

An authority of this machine's own signs a certificate for the names that the app is reached by. A
phone that trusts the authority trusts the certificates that follow it. Keys are for their owner
alone.
"""

from __future__ import annotations

import datetime as dt
import ipaddress
import os
from collections.abc import Iterable
from dataclasses import dataclass
from pathlib import Path

from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

AUTHORITY_DAYS, DAYS = 3650, 397  # phones refuse certificates that stand for longer
RENEW_DAYS = 30  # before its end


@dataclass(frozen=True)
class Certificate:
    """Where the certificate, its key, and the authority of this machine that signed it lie.

    One's own certificate was signed elsewhere: then there is no authority to trust here.
    """

    cert: Path
    key: Path
    authority: Path | None


def certificate(folder: Path, names: Iterable[str], now: dt.datetime) -> Certificate:
    """The certificate in a folder; made anew where there is none for these names, or it ends soon.

    ``names`` are host names and addresses. The authority is made once. Raises OSError.
    """
    folder.mkdir(parents=True, exist_ok=True, mode=0o700)
    there = Certificate(folder / "cert.pem", folder / "key.pem", folder / "authority.pem")
    wanted = tuple(dict.fromkeys(names))
    if (folder / "authority.pem").is_file() and _stands(there, wanted, now):
        return there
    signer, authority = _authority(folder, now)
    key = ec.generate_private_key(ec.SECP256R1())
    made = (_begun(_named(wanted[0]), authority.subject, key, now, DAYS)
            .add_extension(x509.SubjectAlternativeName([_general(n) for n in wanted]), False)
            .add_extension(x509.BasicConstraints(ca=False, path_length=None), True)
            .add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), False)
            .sign(signer, hashes.SHA256()))
    _write(there.key, _private(key))
    _write(there.cert, made.public_bytes(serialization.Encoding.PEM))
    return there


def _stands(there: Certificate, names: tuple[str, ...], now: dt.datetime) -> bool:
    try:
        made = x509.load_pem_x509_certificate(there.cert.read_bytes())
        found = made.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
    except (OSError, ValueError, x509.ExtensionNotFound):
        return False
    return (there.key.is_file() and set(found) == {_general(n) for n in names}
            and made.not_valid_after_utc - now > dt.timedelta(days=RENEW_DAYS))


def _authority(folder: Path, now: dt.datetime) -> tuple[ec.EllipticCurvePrivateKey,
                                                        x509.Certificate]:
    key_path, path = folder / "authority.key", folder / "authority.pem"
    if key_path.is_file() and path.is_file():
        key = serialization.load_pem_private_key(key_path.read_bytes(), None)
        if isinstance(key, ec.EllipticCurvePrivateKey):
            return key, x509.load_pem_x509_certificate(path.read_bytes())
    made_key = ec.generate_private_key(ec.SECP256R1())
    name = _named("Euhydra on this machine")
    usage = x509.KeyUsage(False, False, False, False, False, True, True, False, False)
    made = (_begun(name, name, made_key, now, AUTHORITY_DAYS)
            .add_extension(x509.BasicConstraints(ca=True, path_length=0), True)
            .add_extension(usage, True).sign(made_key, hashes.SHA256()))
    _write(key_path, _private(made_key))
    _write(path, made.public_bytes(serialization.Encoding.PEM))
    return made_key, made


def _begun(subject: x509.Name, issuer: x509.Name, key: ec.EllipticCurvePrivateKey,
           now: dt.datetime, days: int) -> x509.CertificateBuilder:
    return (x509.CertificateBuilder().subject_name(subject).issuer_name(issuer)
            .public_key(key.public_key()).serial_number(x509.random_serial_number())
            .not_valid_before(now - dt.timedelta(days=1))
            .not_valid_after(now + dt.timedelta(days=days)))


def _named(name: str) -> x509.Name:
    return x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, name[:64])])


def _general(name: str) -> x509.GeneralName:
    try:
        return x509.IPAddress(ipaddress.ip_address(name))
    except ValueError:
        return x509.DNSName(name)


def _private(key: ec.EllipticCurvePrivateKey) -> bytes:
    return key.private_bytes(serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8,
                             serialization.NoEncryption())


def _write(path: Path, body: bytes) -> None:
    path.unlink(missing_ok=True)
    with os.fdopen(os.open(path, os.O_CREAT | os.O_WRONLY | os.O_EXCL, 0o600), "wb") as out:
        out.write(body)
