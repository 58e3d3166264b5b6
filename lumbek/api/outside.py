"""Where a request comes from and whom it is for: a proxy that is trusted is asked, nobody else is believed."""

from ipaddress import IPv4Network, IPv6Network, ip_address, ip_network
from urllib.parse import urlsplit

from starlette.types import Scope

from lumbek.settings import Settings


class Outside:
    """What settings say of the way in: the proxies that are trusted, and the one host that is answered to."""

    def __init__(self, settings: Settings) -> None:
        """Raises ValueError for a proxy that is no address or network."""
        named = [each.strip() for each in settings.trusted_proxies.split(",") if each.strip()]
        self._proxies: list[IPv4Network | IPv6Network] = [ip_network(each, strict=False) for each in named]
        # The demo is opened by whatever name its machine has.
        self._host = b"" if settings.demo else urlsplit(settings.public_address).netloc.encode()

    def seen(self, scope: Scope) -> Scope:
        """Return a request with the address and scheme that a trusted proxy saw; as it is where none is between."""
        client = scope.get("client")
        if client is None or not self._is_proxy(client[0]):
            return scope
        headers = scope["headers"]
        scheme = _last(headers, b"x-forwarded-proto")
        # From the nearest to the farthest: the first that is no proxy of ours is who asks. Beyond it anybody may lie.
        address = client[0]
        for hop in reversed(_all(headers, b"x-forwarded-for")):
            if not _is_address(hop):
                break
            address = hop
            if not self._is_proxy(hop):
                break
        return {**scope, "client": (address, 0), "scheme": scheme if scheme in ("http", "https") else scope["scheme"]}

    def is_ours(self, scope: Scope) -> bool:
        """Whether a request is for the host that Lumbek is reached at; any, where settings name none."""
        if not self._host:
            return True
        if scope["path"] == "/api/health":
            # Whoever watches over the machine asks from within.
            return True
        said: bytes = dict(scope["headers"]).get(b"host", b"")
        return said.lower() == self._host.lower()

    def _is_proxy(self, address: str) -> bool:
        return _is_address(address) and any(ip_address(address) in each for each in self._proxies)


def _is_address(text: str) -> bool:
    try:
        ip_address(text)
    except ValueError:
        return False
    return True


def _all(headers: list[tuple[bytes, bytes]], name: bytes) -> list[str]:
    said = b",".join(value for key, value in headers if key == name).decode("latin-1")
    return [each.strip() for each in said.split(",") if each.strip()]


def _last(headers: list[tuple[bytes, bytes]], name: bytes) -> str:
    return (_all(headers, name) or [""])[-1].lower()
