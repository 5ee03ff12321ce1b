"""Settings. AMBER_MODE says how the application runs: demo (loopback, made-up data), test, or serve (the default, and strict)."""

from __future__ import annotations

import os
from pathlib import Path

import dj_database_url
from csp.constants import NONE, SELF

from config.strictness import proxy_count, refuse_weak_settings

ROOT = Path(__file__).resolve().parents[2]
MODE = os.environ.get("AMBER_MODE", "serve")
RELAXED = MODE in ("demo", "test")

SECRET_KEY = os.environ.get("AMBER_SECRET_KEY", "")
SECRET_KEY_FALLBACKS = [key for key in os.environ.get("AMBER_OLD_SECRET_KEYS", "").split(",") if key]
ALLOWED_HOSTS = [host for host in os.environ.get("AMBER_ALLOWED_HOSTS", "").split(",") if host]
DATABASE_URL = os.environ.get("DATABASE_URL", "")
if MODE == "serve":
    refuse_weak_settings(secret_keys=[SECRET_KEY, *SECRET_KEY_FALLBACKS], allowed_hosts=ALLOWED_HOSTS, database_url=DATABASE_URL)
DEBUG = False

INSTALLED_APPS = [
    "whitenoise.runserver_nostatic",
    "django.contrib.admin",
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.messages",
    "django.contrib.staticfiles",
    "csp",
    "ninja",
    "procrastinate.contrib.django",
    "django.contrib.postgres",
    "records",
    "accounts",
    "compute",
    "stores",
    "vehicles",
    "jobs",
    "work",
    "hand_over",
    "floor",
    "setup_bench",
    "ratio_desk",
    "driveline_desk",
    "noise_finder",
    "parts_wall",
    "diff_bench",
    "build_sheet",
    "whole_workshop",
    "demo_world",
    "config",
]
MIDDLEWARE = [
    "config.gate.Gate",
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "csp.middleware.CSPMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "config.reading.Reading",
    "config.whose.Whose",
    "django.contrib.messages.middleware.MessageMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
]
ROOT_URLCONF = "config.urls"
WSGI_APPLICATION = "config.wsgi.application"
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "DIRS": [],
        "APP_DIRS": True,
        "OPTIONS": {
            "context_processors": [
                "django.template.context_processors.request",
                "django.contrib.auth.context_processors.auth",
                "django.contrib.messages.context_processors.messages",
            ]
        },
    }
]
DATABASES = {
    "default": dj_database_url.parse(DATABASE_URL or "postgres://amber@127.0.0.1:54329/amber", conn_max_age=60, conn_health_checks=True)
}
POOLED = os.environ.get("AMBER_POOLED", "") == "1"
"""A pooler stands before the database and hands a connection out for one transaction: nothing may be left on it."""
STANDBY_URL = os.environ.get("AMBER_STANDBY_URL", "")
if STANDBY_URL:
    DATABASES["standby"] = dj_database_url.parse(STANDBY_URL, conn_max_age=60, conn_health_checks=True)
    DATABASE_ROUTERS = ["shared.standby.Router"]
    MIDDLEWARE.insert(MIDDLEWARE.index("config.whose.Whose") + 1, "shared.standby.ReadsThere")
LISTS_OF_ORGANISATION = [r"/api/v1/floor(/today)?", r"/api/v1/vehicles"]
"""What somebody who looks after several workshops may see of all of them at once."""
STANDBY_READS = [r"/api/v1/floor(/today|/plan)?", r"/api/v1/vehicles(/[^/]+)?"]
"""What may be read from a standby: long lists and histories, which nobody has just typed."""
for database in DATABASES.values():
    # prepared where that is asked for (shared/gathering.py), never by how often one comes: psycopg would prepare none at None
    database.setdefault("OPTIONS", {})["prepare_threshold"] = None if POOLED else 1_000_000
    database["DISABLE_SERVER_SIDE_CURSORS"] = POOLED
    if not POOLED:  # what is prepared asks for one key, whichever that is: it is planned once for a connection
        database["OPTIONS"]["options"] = f"{database['OPTIONS'].get('options', '')} -c plan_cache_mode=force_generic_plan".strip()
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
TEST_RUNNER = "config.test_runner.CountingRunner"

AUTH_USER_MODEL = "accounts.User"
PASSWORD_HASHERS = ["test_support.hashing.QuickArgon2" if MODE == "test" else "django.contrib.auth.hashers.Argon2PasswordHasher"]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.UserAttributeSimilarityValidator"},
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator", "OPTIONS": {"min_length": 10}},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]
LANGUAGE_CODE = "en-gb"
TIME_ZONE = os.environ.get("AMBER_TIME_ZONE", "UTC")
USE_I18N = False
USE_TZ = True

WEB_BUILD = Path(os.environ.get("AMBER_WEB_BUILD", ROOT / "web" / "dist"))
STATIC_URL = "/static/"
STATIC_ROOT = ROOT / "server" / "staticfiles"
WHITENOISE_USE_FINDERS = True
WHITENOISE_INDEX_FILE = False
WHITENOISE_ROOT = WEB_BUILD if WEB_BUILD.is_dir() else None


def WHITENOISE_IMMUTABLE_FILE_TEST(path: str, url: str) -> bool:  # the setting's own name
    """The build puts a hash into every name below /assets/."""
    return url.startswith("/assets/")


CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [NONE],
        "script-src": [SELF],
        "style-src": [SELF],
        "img-src": [SELF, "data:", "blob:"],  # a picture that waits on the phone is shown from memory
        "font-src": [SELF],
        "connect-src": [SELF],
        "manifest-src": [SELF],
        "frame-src": [SELF],
        "frame-ancestors": [SELF],
        "form-action": [SELF],
        "base-uri": [NONE],
    }
}
X_FRAME_OPTIONS = "SAMEORIGIN"  # the build sheet is shown inside the application's own page
SECURE_REFERRER_POLICY = "same-origin"
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
SESSION_COOKIE_AGE = 14 * 24 * 3600
CSRF_COOKIE_SAMESITE = "Lax"
TRUSTED_PROXIES = proxy_count(os.environ.get("AMBER_PROXIES", os.environ.get("AMBER_BEHIND_PROXY", "0")))
if not RELAXED:
    SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = True
    SECURE_SSL_REDIRECT = True
    # a workshop with a certificate of the house has none: a phone without that certificate must still get to the page that hands it out
    SECURE_HSTS_SECONDS = int(os.environ.get("AMBER_HSTS_SECONDS", str(365 * 24 * 3600)))
    CSRF_TRUSTED_ORIGINS = [f"https://{host.lstrip('.')}" for host in ALLOWED_HOSTS]
    if TRUSTED_PROXIES > 0:
        SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")

DATA_UPLOAD_MAX_MEMORY_SIZE = 1024 * 1024
LARGEST_IMPORT_BYTES = 10 * 1024 * 1024
LARGEST_RECORDING_BYTES = 50 * 1024 * 1024
LARGEST_LIST_BYTES = 2 * 1024 * 1024
LARGEST_PHOTO_BYTES = 3 * 1024 * 1024
LARGEST_CAMERA_BYTES = 12 * 1024 * 1024
UPLOADS = [  # where files are taken, and how large; everywhere else a body has at most DATA_UPLOAD_MAX_MEMORY_SIZE
    (r"/api/v1/import", 6 * LARGEST_IMPORT_BYTES),  # somewhat too large still gets its sentence with its name
    (r"/api/v1/work/[^/]+/recordings", 2 * LARGEST_RECORDING_BYTES),
    (r"/api/v1/stores/[^/]+/import", 6 * LARGEST_LIST_BYTES),
    (r"/api/v1/trials/[^/]+/photos", 6 * LARGEST_PHOTO_BYTES),
    (r"/api/v1/work/[^/]+/parts/photos", 2 * LARGEST_CAMERA_BYTES),
]
FORM_AROUND_A_FILE = 64 * 1024
COMPUTE_RATE = os.environ.get("AMBER_COMPUTE_RATE", "600/m")

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "handlers": {"console": {"class": "logging.StreamHandler"}},
    "root": {"handlers": ["console"], "level": "WARNING"},
    "loggers": {
        "weasyprint": {"level": "ERROR"},  # it warns of every property that only screens understand
        "django.request": {"level": "ERROR"},  # a 404 or 422 is an answer, not an incident
        "django.security.csrf": {"level": "ERROR"},
    },
}
