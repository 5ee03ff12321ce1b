"""nginx in front of the web server: TLS, limits before anything is read, and the page that brings the house's certificate onto a phone."""

from __future__ import annotations

import html
import os
import subprocess
from pathlib import Path

from amber_cli.paths import PYTHON
from amber_cli.say import run
from amber_cli.workshop import certificates
from amber_cli.workshop.home import Home

_LARGEST_BODY_MB = 101  # the largest upload that the application takes, with the form around it
_LARGEST_ELSEWHERE_MB = 2
_AWAY = "The server is starting or has stopped."


def address(home: Home) -> str:
    """Where phones and benches find the workshop."""
    settings = home.settings
    port = "" if settings.https_port == 443 else f":{settings.https_port}"
    return f"https://{settings.hosts[0]}{port}/"


def certificate_address(home: Home) -> str:
    """Where a phone gets the house's certificate."""
    settings = home.settings
    port = "" if settings.http_port == 80 else f":{settings.http_port}"
    return f"http://{settings.hosts[0]}{port}/"


def configure(home: Home) -> None:
    """Write nginx's settings and the page, and let nginx look at them.

    Raises
    ------
    Failed
        When nginx does not take them.
    """
    for name in ("body", "proxy", "fastcgi", "uwsgi", "scgi", "www"):
        (home.nginx / name).mkdir(exist_ok=True)
    _write_page(home)
    (home.nginx / "nginx.conf").write_text(_conf(home), encoding="utf-8")
    run([*command(home), "-t"], what="nginx", mend="Look at what it says below.")


def command(home: Home) -> list[str | Path]:
    """nginx with the workshop's own settings; the system's nginx is left alone."""
    return ["nginx", "-c", home.nginx / "nginx.conf", "-p", home.nginx, "-e", home.nginx / "error.log"]


def reload(home: Home) -> None:
    """Let a running nginx read its settings and the certificate again."""
    if (home.nginx / "nginx.pid").exists():
        subprocess.run([str(part) for part in [*command(home), "-s", "reload"]], capture_output=True, check=False)


def qr(text: str) -> str:
    """A code for a phone's camera, as text for the terminal."""
    drawing = "import io, sys, segno; out = io.StringIO(); segno.make(sys.argv[1]).terminal(out=out, border=2, compact=True)"
    program = f"{drawing}; print(out.getvalue())"
    env = {"PYTHONIOENCODING": "utf-8", "PATH": os.environ.get("PATH", "")}
    return subprocess.run([str(PYTHON), "-c", program, text], capture_output=True, text=True, env=env, check=False).stdout


def _conf(home: Home) -> str:
    settings, folder = home.settings, home.nginx
    user = "user www-data;" if os.geteuid() == 0 else ""
    temporary = "\n  ".join(
        f"{name} {folder / part};"
        for name, part in (
            ("client_body_temp_path", "body"),
            ("proxy_temp_path", "proxy"),
            ("fastcgi_temp_path", "fastcgi"),
            ("uwsgi_temp_path", "uwsgi"),
            ("scgi_temp_path", "scgi"),
        )
    )
    hosts = " ".join(settings.hosts)
    if settings.own_certificate:
        plain = "return 308 https://$host$port_of_tls$request_uri;"
    else:
        plain = f"""root {folder / "www"};
    location = / {{ try_files /index.html =404; add_header Cache-Control no-store; }}
    location = /house.crt {{ default_type application/x-x509-ca-cert; add_header Cache-Control no-store; }}
    location ~ \\.svg$ {{ }}
    location / {{ return 308 https://$host$port_of_tls$request_uri; }}"""
    port = "" if settings.https_port == 443 else f":{settings.https_port}"
    away = f'{{"error": {{"code": "away", "message": "{_AWAY} What you typed is kept. Try again in a moment.", "field": ""}}}}'
    page = f'<!doctype html><title>Amber Pinion</title><p style="font:20px sans-serif">{_AWAY} This page loads again by itself.</p>'
    return f"""# written by ./amber workshop; changed settings belong into {home.settings_file}
daemon off;
worker_processes 1;
{user}
pid {folder / "nginx.pid"};
error_log {folder / "error.log"} warn;
events {{ worker_connections 1024; }}
http {{
  include /etc/nginx/mime.types;
  access_log off;
  server_tokens off;
  {temporary}
  map $host $port_of_tls {{ default "{port}"; }}
  # a stranger who asks for passwords to be looked at waits here, before the web server hears of it
  limit_req_zone $binary_remote_addr zone=signing_in:1m rate=30r/m;
  limit_conn_zone $binary_remote_addr zone=each:1m;
  limit_conn each 60;
  limit_req_status 429;
  limit_conn_status 429;
  client_header_timeout 15s;
  client_body_timeout 30s;
  send_timeout 60s;
  large_client_header_buffers 4 16k;
  keepalive_timeout 65s;
  upstream web {{ server 127.0.0.1:{settings.web_port} max_fails=0; keepalive 8; }}
  server {{
    listen {settings.http_port} default_server;
    {plain}
  }}
  server {{
    listen {settings.https_port} ssl default_server;
    ssl_certificate {home.tls / "server.crt"};
    ssl_certificate_key {home.tls / "server.key"};
    return 444;
  }}
  server {{
    listen {settings.https_port} ssl;
    server_name {hosts};
    ssl_certificate {home.tls / "server.crt"};
    ssl_certificate_key {home.tls / "server.key"};
    ssl_protocols TLSv1.2 TLSv1.3;
    ssl_session_cache shared:tls:2m;
    client_max_body_size {_LARGEST_ELSEWHERE_MB}m;
    proxy_http_version 1.1;
    proxy_set_header Connection "";
    proxy_set_header Host $http_host;
    proxy_set_header X-Forwarded-For $proxy_add_x_forwarded_for;
    proxy_set_header X-Forwarded-Proto https;
    proxy_read_timeout 75s;
    proxy_connect_timeout 5s;
    error_page 413 = @large;
    error_page 502 503 504 = @away;
    location @away {{ internal; default_type application/json; add_header Retry-After 3 always; return 503 '{away}'; }}
    location @large {{
      internal; default_type application/json;
      return 413 '{{"error": {{"code": "too_large", "message": "That is too large. Nothing was stored.", "field": ""}}}}';
    }}
    location = /api/v1/sign-in {{ limit_req zone=signing_in burst=20 nodelay; proxy_pass http://web; }}
    location ~ ^/api/v1/(import$|work/[^/]+/(recordings|parts/photos|steps/[^/]+/photos)$|trials/[^/]+/photos$|stores/[^/]+/import$) {{
      client_max_body_size {_LARGEST_BODY_MB}m; proxy_pass http://web;
    }}
    location /api/ {{ proxy_pass http://web; }}
    location / {{ error_page 413 = @large; error_page 502 503 504 = @away_page; proxy_pass http://web; }}
    location @away_page {{
      internal; default_type text/html; add_header Refresh 3 always; add_header Cache-Control no-store always;
      return 503 '{page}';
    }}
  }}
}}
"""


def _write_page(home: Home) -> None:
    folder = home.nginx / "www"
    if home.settings.own_certificate:
        return
    (folder / "house.crt").write_text((home.tls / "house.crt").read_text())
    there = address(home)
    program = "import sys, segno; segno.make(sys.argv[1]).save(sys.argv[2], scale=6, border=2)"
    run([PYTHON, "-c", program, there, folder / "address.svg"], what="Drawing the code", mend="Is .venv complete?")
    mark = certificates.fingerprint(home)
    (folder / "index.html").write_text(_PAGE.format(there=html.escape(there), mark=html.escape(mark)), encoding="utf-8")


_PAGE = """<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">
<title>Amber Pinion: this phone</title>
<style>body{{font:18px/1.5 sans-serif;max-width:34rem;margin:2rem auto;padding:0 1rem;color:#1d1b18;background:#f6f3ee}}
a.go{{display:inline-block;background:#1d1b18;color:#fff;padding:.8rem 1.2rem;text-decoration:none}}
h1{{font-size:1.5rem}}li{{margin:.4rem 0}}code{{font-size:.8em;word-break:break-all}}</style></head>
<body><h1>Bring this phone to the workshop</h1>
<p>Camera, sensors and work without a connection need a secure address. The workshop vouches for itself, with a certificate of the house.
Install it once on each phone, only on phones of the workshop.</p>
<ol><li><a class="go" href="/house.crt" download>Get the certificate</a></li>
<li>In the phone's settings search for “certificate” and install the downloaded file as a CA certificate. Some phones show it as a
downloaded profile, and want it switched on under certificate trust afterwards.</li>
<li>Compare the SHA-256 fingerprint with the one on the server's screen:<br><code>{mark}</code></li>
<li><a class="go" href="{there}">Open the workshop</a><br>
<img src="/address.svg" alt="The workshop's address as a code" width="210"></li></ol>
<p>The certificate can vouch for the workshop's own addresses only. Remove it from a phone that leaves the workshop.</p></body></html>
"""
