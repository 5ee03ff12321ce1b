"""Where a request comes from, as far as that can be believed."""

from __future__ import annotations

from ipaddress import ip_address

from django.conf import settings
from django.http import HttpRequest


def client_address(request: HttpRequest) -> str:
    """The client's IP address.

    Behind `settings.TRUSTED_PROXIES` proxies it is the entry of X-Forwarded-For that the outermost of them wrote, counted from the
    right: whatever a client writes into that header itself stands further left. A list that is too short or holds no address there
    counts as the address that the connection came from.
    """
    connected = str(request.META.get("REMOTE_ADDR") or "")
    if settings.TRUSTED_PROXIES == 0:
        return connected
    forwarded = [part.strip() for part in request.META.get("HTTP_X_FORWARDED_FOR", "").split(",")]
    if len(forwarded) < settings.TRUSTED_PROXIES:
        return connected
    try:
        return str(ip_address(forwarded[-settings.TRUSTED_PROXIES]))
    except ValueError:
        return connected


def network_of(address: str) -> str:
    """What counts as one place on the network: an IPv4 address, or the /64 that an IPv6 connection gets as a whole."""
    try:
        found = ip_address(address)
    except ValueError:
        return address
    if found.version == 6 and found.ipv4_mapped is None:
        return str(ip_address(int(found) >> 64 << 64)) + "/64"
    return str(found)
