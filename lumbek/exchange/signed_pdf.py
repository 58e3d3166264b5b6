"""A PDF signed by a firm's key, and what a signature on one proves: PAdES by pyHanko, RSA 3072, nothing visible.

A signature that is good says that these bytes were signed; only the hash that is kept with a paper says that a file is
that paper, unaltered. Nothing is fetched, and no certificate is trusted but those that are given.
"""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime, timedelta
from io import BytesIO
from typing import Any

_BITS = 3072
_YEARS = 10
# What a certificate has room for.
_NAME_BYTES = 64
# Hexadecimal digits kept for a signature with its certificate, twice what the longest name of a firm takes. To have it
# worked out takes a second signature.
_PLACE = 12288


@dataclass(frozen=True)
class SigningKey:
    """A key and its certificate, as they are kept (PKCS#8 and DER)."""

    private: bytes
    certificate: bytes
    from_at: datetime
    until_at: datetime


def make_key(firm: str, at: datetime) -> SigningKey:
    """Make a key for a firm, and a certificate that it signs for itself."""
    from cryptography import x509  # noqa: PLC0415 - large, and seldom wanted
    from cryptography.hazmat.primitives import hashes, serialization  # noqa: PLC0415
    from cryptography.hazmat.primitives.asymmetric import rsa  # noqa: PLC0415
    from cryptography.x509.oid import NameOID  # noqa: PLC0415

    key = rsa.generate_private_key(public_exponent=65537, key_size=_BITS)
    called = firm.encode()[:_NAME_BYTES].decode(errors="ignore")
    name = x509.Name([x509.NameAttribute(each, called) for each in (NameOID.COMMON_NAME, NameOID.ORGANIZATION_NAME)])
    from_at, until_at = at - timedelta(minutes=5), at + timedelta(days=365 * _YEARS)
    certificate = (
        x509.CertificateBuilder()
        .subject_name(name)
        .issuer_name(name)
        .public_key(key.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(from_at)
        .not_valid_after(until_at)
        .add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
        .add_extension(
            x509.KeyUsage(
                digital_signature=True,
                content_commitment=True,
                key_encipherment=False,
                data_encipherment=False,
                key_agreement=False,
                key_cert_sign=False,
                crl_sign=False,
                encipher_only=False,
                decipher_only=False,
            ),
            critical=True,
        )
        .sign(key, hashes.SHA256())
    )
    private = key.private_bytes(
        serialization.Encoding.DER, serialization.PrivateFormat.PKCS8, serialization.NoEncryption()
    )
    return SigningKey(private, certificate.public_bytes(serialization.Encoding.DER), from_at, until_at)


def sign_pdf(data: bytes, key: SigningKey, reason: str) -> bytes:
    """Return a PDF signed, certified so that nothing may be changed after it."""
    # pyHanko takes a third of a second to load: only who signs needs it.
    from asn1crypto.keys import PrivateKeyInfo  # noqa: PLC0415
    from asn1crypto.x509 import Certificate  # noqa: PLC0415
    from pyhanko.pdf_utils.incremental_writer import IncrementalPdfFileWriter  # noqa: PLC0415
    from pyhanko.sign import fields, signers  # noqa: PLC0415
    from pyhanko_certvalidator.registry import SimpleCertificateStore  # noqa: PLC0415

    signer = signers.SimpleSigner(
        signing_cert=Certificate.load(key.certificate),
        signing_key=PrivateKeyInfo.load(key.private),
        cert_registry=SimpleCertificateStore(),  # type: ignore[no-untyped-call]
    )
    meta = signers.PdfSignatureMetadata(
        field_name="Firm",
        reason=reason,
        certify=True,
        docmdp_permissions=fields.MDPPerm.NO_CHANGES,
        subfilter=fields.SigSeedSubFilter.PADES,
        md_algorithm="sha256",
    )
    out = BytesIO()
    signers.PdfSigner(meta, signer).sign_pdf(
        IncrementalPdfFileWriter(BytesIO(data)), bytes_reserved=_PLACE, output=out, in_place=False
    )
    return out.getvalue()


@dataclass(frozen=True)
class SignatureSaid:
    """What the signature of a file says: whether it is good, by whose certificate, and why not."""

    good: bool
    by: str = ""
    why: str = ""


def check_pdf(data: bytes, certificates: Iterable[bytes] = ()) -> SignatureSaid:
    """Return what the signature of a PDF says; with `certificates` only one of theirs is good.

    A file that cannot be read, has no signature, several of them or anything after it, is not good.
    """
    try:
        return _checked(data, tuple(certificates))
    except Exception:
        return SignatureSaid(False, why="It cannot be read as a signed paper.")


def _checked(data: bytes, certificates: tuple[bytes, ...]) -> SignatureSaid:
    from pyhanko.pdf_utils.reader import PdfFileReader  # noqa: PLC0415
    from pyhanko.sign.validation import validate_pdf_signature  # noqa: PLC0415
    from pyhanko.sign.validation.status import SignatureCoverageLevel  # noqa: PLC0415
    from pyhanko_certvalidator import ValidationContext  # noqa: PLC0415

    signatures = PdfFileReader(BytesIO(data), strict=True).embedded_signatures
    if len(signatures) != 1:
        return SignatureSaid(False, why="It has no signature." if not signatures else "It has several signatures.")
    (signature,) = signatures
    own = signature.signer_cert
    if certificates and own.dump() not in certificates:
        return SignatureSaid(False, why="It was signed by a key that is not one of theirs.")
    # The certificate is its own root: it says whose key it is, and whether that is theirs the list above says.
    context = ValidationContext(trust_roots=[own], allow_fetching=False, revocation_mode="soft-fail")
    status = validate_pdf_signature(signature, context)
    whole = status.coverage is SignatureCoverageLevel.ENTIRE_FILE
    good = status.intact and status.valid and whole and _only_padding(data, signature)
    name = str(own.subject.native.get("common_name", ""))
    return SignatureSaid(good, name, "" if good else "What was signed has been changed, or something was added.")


def _only_padding(data: bytes, signature: Any) -> bool:
    """Whether the place of the signature holds it, written as it is always written, and zeros after it."""
    from asn1crypto import parser  # noqa: PLC0415

    first, length, second, _ = (int(each) for each in signature.byte_range)
    raw, contents = data[first + length + 1 : second - 1], bytes(signature.pkcs7_content)
    return raw == contents.hex().upper().encode() and not any(contents[parser.peek(contents) :])
