"""Settings of the Zephyrant server, from the environment.

ZEPHYRANT_DATA   folder of the database and the secret key (default: the user's folder for data)
ZEPHYRANT_HOSTS  host names served, separated by commas (default: this machine only)
ZEPHYRANT_HTTPS  "off" where no TLS stands before the server (the demo, development, tests)
ZEPHYRANT_DEMO   "on" for the demo desk with its one analyst
ZEPHYRANT_PROXIES   how many proxies stand before the server and are trusted to say who asks
                    (default: 1 with HTTPS, 0 without)
ZEPHYRANT_IDLE      minutes after which a session that is not used ends (default: 480)
ZEPHYRANT_LOG       "json" for an access log of JSON lines, "off" for none (default: plain lines)
ZEPHYRANT_METRICS   "on" for Prometheus metrics at /metrics, which the proxy must not let out
"""

import os
import secrets
from datetime import timedelta
from pathlib import Path

from csp.constants import NONE, SELF
from platformdirs import user_data_path

#: The checkout, where the application runs from one.
BASE_DIR = Path(__file__).resolve().parents[2]
DATA_DIR = Path(os.environ.get("ZEPHYRANT_DATA") or user_data_path("zephyrant", appauthor=False))
HTTPS = os.environ.get("ZEPHYRANT_HTTPS", "on") != "off"
DEMO = os.environ.get("ZEPHYRANT_DEMO", "off") == "on"
PROXIES = int(os.environ.get("ZEPHYRANT_PROXIES", "1" if HTTPS else "0"))
IDLE = timedelta(minutes=int(os.environ.get("ZEPHYRANT_IDLE", "480")))
LOG_AS = os.environ.get("ZEPHYRANT_LOG", "lines")
METRICS = os.environ.get("ZEPHYRANT_METRICS", "off") == "on"
# What is written is for the user the server runs as alone: database, key, uploads, backups.
os.umask(0o077)


def _secret_key() -> str:
    """The key from the environment, else one made once and kept beside the database."""
    if key := os.environ.get("ZEPHYRANT_SECRET_KEY"):
        return key
    kept = DATA_DIR / "secret-key"
    try:
        if not kept.exists():
            DATA_DIR.mkdir(parents=True, exist_ok=True)
            kept.touch(mode=0o600, exist_ok=False)
            kept.write_text(secrets.token_urlsafe(64))
        return kept.read_text()
    except FileExistsError:
        return kept.read_text()
    except OSError:
        # Commands that keep nothing (`solve`) run where nothing can be written.
        return secrets.token_urlsafe(64)


SECRET_KEY = _secret_key()
DEBUG = False
ALLOWED_HOSTS = os.environ.get("ZEPHYRANT_HOSTS", "localhost,127.0.0.1").split(",")

INSTALLED_APPS = [
    "django.contrib.admin",
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.messages",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "axes",
    "csp",
    "ninja",
    "zephyrant.desk",
]

MIDDLEWARE = [
    "zephyrant.desk.doorman.Doorman",
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "csp.middleware.CSPMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "zephyrant.desk.doorman.StillUsed",
    "zephyrant.desk.readers.Readers",
    "django.contrib.messages.middleware.MessageMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "axes.middleware.AxesMiddleware",
]

AUTHENTICATION_BACKENDS = [
    "axes.backends.AxesStandaloneBackend",
    "django.contrib.auth.backends.ModelBackend",
]
# Five wrong passwords for one name from one address close that door for a quarter of an hour.
AXES_FAILURE_LIMIT = 5
AXES_COOLOFF_TIME = timedelta(minutes=15)
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
AXES_LOCKOUT_CALLABLE = "zephyrant.desk.throttle.too_many_attempts"
AXES_CLIENT_IP_CALLABLE = "zephyrant.desk.throttle.address"
AXES_RESET_ON_SUCCESS = True
AXES_VERBOSE = False

ROOT_URLCONF = "zephyrant.site.urls"
WSGI_APPLICATION = "zephyrant.site.wsgi.application"

TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
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
    "default": {
        "ENGINE": "zephyrant.desk.in_turn",
        "NAME": DATA_DIR / "zephyrant.sqlite3",
        "OPTIONS": {
            "transaction_mode": "IMMEDIATE",
            "timeout": 8,
            "init_command": "PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL;",
        },
        # In memory where not set; browser tests share a file with the server they drive.
        "TEST": {"NAME": os.environ.get("ZEPHYRANT_TEST_DATABASE")},
    }
}
#: Processes for heavy questions, of each process that serves.
HEAVY_PROCESSES = 1
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

PASSWORD_HASHERS = [
    "zephyrant.desk.hashing.OneAtATime",
    "zephyrant.desk.hashing.OlderOneAtATime",
]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": f"django.contrib.auth.password_validation.{name}"}
    for name in (
        "UserAttributeSimilarityValidator",
        "MinimumLengthValidator",
        "CommonPasswordValidator",
        "NumericPasswordValidator",
    )
]

LANGUAGE_CODE = "en-gb"
TIME_ZONE = "UTC"
USE_I18N = False
USE_TZ = True

STATIC_URL = "/static/"
# In the checkout as in what is installed: the front end and the administration, collected once.
STATIC_ROOT = Path(__file__).resolve().parent / "static"
_BUILT = BASE_DIR / "web" / "dist"
STATICFILES_DIRS = [_BUILT] if _BUILT.exists() else []
STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.FileSystemStorage"},
    "staticfiles": {"BACKEND": "whitenoise.storage.CompressedStaticFilesStorage"},
}


def immutable_file(path: str, url: str) -> bool:
    """Whether a static file carries a hash of its content in its name, as the front end's do."""
    return "/static/assets/" in url


WHITENOISE_IMMUTABLE_FILE_TEST = immutable_file

#: A loan document is far smaller; the core's own limit is one million characters.
DATA_UPLOAD_MAX_MEMORY_SIZE = 1_000_000

CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [SELF],
        "object-src": [NONE],
        "base-uri": [NONE],
        "frame-ancestors": [NONE],
        "form-action": [SELF],
    }
}
X_FRAME_OPTIONS = "DENY"
SECURE_REFERRER_POLICY = "same-origin"
SESSION_COOKIE_AGE = int(IDLE.total_seconds())
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = SECURE_SSL_REDIRECT = HTTPS
if HTTPS:
    SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
    SECURE_HSTS_SECONDS = 31_536_000
    SECURE_HSTS_INCLUDE_SUBDOMAINS = True
    SECURE_HSTS_PRELOAD = True

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "handlers": {"console": {"class": "logging.StreamHandler"}},
    "root": {"handlers": ["console"], "level": "WARNING"},
    # One line a request, by `Doorman`; Django's own would tell refusals once more.
    "loggers": {
        "zephyrant.access": {"level": "WARNING" if DEMO or LOG_AS == "off" else "INFO"},
        "django.request": {"level": "ERROR"},
        "django.security.DisallowedHost": {"level": "CRITICAL"},
    },
}

if METRICS:
    INSTALLED_APPS.append("django_prometheus")
    MIDDLEWARE.insert(1, "django_prometheus.middleware.PrometheusBeforeMiddleware")
    MIDDLEWARE.append("django_prometheus.middleware.PrometheusAfterMiddleware")
