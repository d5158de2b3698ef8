"""Settings. One way to run, three modes: the environment says which (FIRKIN_MODE)."""

import os

from csp.constants import NONE, SELF

from firkin.site.folder import DATABASE, OWNER_ONLY_FILE, OWNER_ONLY_FOLDER, data_folder, secret_key

MODE = os.environ.get("FIRKIN_MODE", "test")
DEMO = MODE == "demo"
HTTPS = os.environ.get("FIRKIN_HTTPS") == "1"

#: Everything Firkin writes lies in this one folder.
DATA = data_folder(MODE)

_TESTS_ALONE = "a key for tests only, long enough to pass the deployment checks: 0123456789"
SECRET_KEY = _TESTS_ALONE if MODE == "test" else secret_key(DATA)
DEBUG = False
ALLOWED_HOSTS = [
    "localhost",
    "127.0.0.1",
    "[::1]",
    *filter(None, os.environ.get("FIRKIN_HOSTS", "").split(",")),
]
CSRF_TRUSTED_ORIGINS = [f"https://{host}" for host in ALLOWED_HOSTS] if HTTPS else []

INSTALLED_APPS = [
    "firkin.accounts",
    "firkin.ui",
    "firkin.shelf",
    "firkin.formulas",
    "firkin.batches",
    "firkin.use",
    "firkin.season",
    "firkin.practice",
    "firkin.search",
    "firkin.reckoner",
    "firkin.guide",
    "firkin.exchange",
    "firkin.site",
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.messages",
    "django.contrib.staticfiles",
    "django.forms",
    "django_htmx",
    "django_otp",
    "django_otp.plugins.otp_totp",
    "django_otp.plugins.otp_static",
    "django_otp_webauthn",
    "axes",
]

MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "csp.middleware.CSPMiddleware",
    "firkin.site.middleware.head_without_body",
    "firkin.site.middleware.nothing_of_the_machine",
    "django.middleware.gzip.GZipMiddleware",
    "firkin.site.middleware.not_too_much",
    "firkin.accounts.presses.told_where_to_go_on",
    "firkin.ui.drawn_alone.drawing_alone",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    *(["firkin.accounts.middleware.demo_sign_in"] if DEMO else []),
    "django_otp.middleware.OTPMiddleware",
    "firkin.site.middleware.kept_by_nobody",
    "firkin.accounts.middleware.sign_in_leaves_the_page",
    "django.contrib.auth.middleware.LoginRequiredMiddleware",
    "firkin.accounts.second_step.second_step_first",
    "firkin.accounts.middleware.workshop_of_the_user",
    "firkin.shelf.middleware.own_materials_once",
    "django.contrib.messages.middleware.MessageMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "django_htmx.middleware.HtmxMiddleware",
    "axes.middleware.AxesMiddleware",
    "firkin.accounts.middleware.OnlookersWriteNothing",
    "firkin.site.middleware.OnePressAtATime",  # the last, so that every other check came before
]

ROOT_URLCONF = "firkin.site.urls"
WSGI_APPLICATION = None

TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "APP_DIRS": True,
        "OPTIONS": {
            "context_processors": [
                "django.template.context_processors.request",
                "django.contrib.auth.context_processors.auth",
                "django.contrib.messages.context_processors.messages",
            ],
            "builtins": ["firkin.ui.templatetags.ui"],
        },
    }
]
FORM_RENDERER = "django.forms.renderers.TemplatesSetting"

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": DATA / DATABASE,
        "OPTIONS": {
            "transaction_mode": "IMMEDIATE",
            "timeout": 20,
            "init_command": "PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL; PRAGMA foreign_keys=ON;",
        },
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

AUTH_USER_MODEL = "accounts.User"
AUTHENTICATION_BACKENDS = [
    "axes.backends.AxesStandaloneBackend",
    "django.contrib.auth.backends.ModelBackend",
    "django_otp_webauthn.backends.WebAuthnBackend",
]
OTP_WEBAUTHN_RP_NAME = "Firkin"
OTP_WEBAUTHN_RP_ID_CALLABLE = "firkin.accounts.second_step.host_of"
OTP_WEBAUTHN_HELPER_CLASS = "firkin.accounts.passkeys.Helper"
#: Which origins are allowed is the request’s own (accounts/passkeys.py), and no list.
SILENCED_SYSTEM_CHECKS = ["otp_webauthn.E030"]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator", "OPTIONS": {"min_length": 12}},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]
LOGIN_URL = "accounts:sign_in"
LOGIN_REDIRECT_URL = "bench"
LOGOUT_REDIRECT_URL = "accounts:sign_in"
AXES_FAILURE_LIMIT = 6
AXES_COOLOFF_TIME = 0.25  # hours
#: Of one address, whatever names are tried; of one account from anywhere accounts/views counts more of them.
AXES_LOCKOUT_PARAMETERS = ["ip_address"]
AXES_RESET_COOL_OFF_ON_FAILURE_DURING_LOCKOUT = False
AXES_LOCKOUT_TEMPLATE = "accounts/locked_out.html"
AXES_VERBOSE = False

LANGUAGE_CODE = "en-gb"
TIME_ZONE = "UTC"
USE_TZ = True

STATIC_URL = "static/"
STATIC_ROOT = DATA / "static"
STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.FileSystemStorage"},
    "staticfiles": {
        "BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"
        if MODE == "test"
        else "whitenoise.storage.CompressedManifestStaticFilesStorage"
    },
}
if MODE == "test":  # slow on purpose elsewhere
    PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
WHITENOISE_USE_FINDERS = MODE == "test"
WHITENOISE_AUTOREFRESH = MODE == "test"

CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [NONE],
        "script-src": [SELF],
        "style-src": [SELF],
        "img-src": [SELF],
        "font-src": [SELF],
        "connect-src": [SELF],
        "worker-src": [SELF],
        "manifest-src": [SELF],
        "form-action": [SELF],
        "base-uri": [NONE],
        "frame-ancestors": [NONE],
    }
}
X_FRAME_OPTIONS = "DENY"
SECURE_REFERRER_POLICY = "same-origin"
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_AGE = 60 * 60 * 24 * 30
SESSION_COOKIE_NAME = "firkin-demo" if DEMO else "firkin"
CSRF_FAILURE_VIEW = "firkin.site.views.csrf_failed"
FILE_UPLOAD_PERMISSIONS, FILE_UPLOAD_DIRECTORY_PERMISSIONS = OWNER_ONLY_FILE, OWNER_ONLY_FOLDER
#: Bytes of one request: a photo of 15 MB and its form.
MOST_UPLOAD = 16 * 1024 * 1024
#: Files are brought in by a process of their own; a test's database is seen by no other process.
BRING_IN_HERE = MODE == "test"
#: A season is planned by a process of its own; the tests plan it in theirs.
PLAN_HERE = MODE == "test"
DATA_UPLOAD_MAX_MEMORY_SIZE = 1_000_000
DATA_UPLOAD_MAX_NUMBER_FIELDS = 2000
if HTTPS:
    SECURE_SSL_REDIRECT = True
    SECURE_HSTS_SECONDS = 60 * 60 * 24 * 365
    #: Browsers' own list is asked for by who serves alone: there is hardly a way back from it.
    SECURE_HSTS_INCLUDE_SUBDOMAINS = SECURE_HSTS_PRELOAD = os.environ.get("FIRKIN_PRELOAD") == "1"
    SESSION_COOKIE_SECURE = True
    CSRF_COOKIE_SECURE = True

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "formatters": {"dated": {"format": "%(asctime)s %(levelname)s %(name)s: %(message)s"}},
    "handlers": {
        "console": {"class": "logging.StreamHandler"},
        "file": {
            "class": "logging.NullHandler" if MODE == "test" else "logging.handlers.RotatingFileHandler",
            **({} if MODE == "test" else {"filename": DATA / "firkin.log", "maxBytes": 1_000_000, "backupCount": 3}),
            "formatter": "dated",
        },
    },
    "loggers": {"waitress.queue": {"level": "ERROR"}},  # it warns of every request that waits for a moment
    "root": {"handlers": ["console", "file"], "level": "WARNING"},
}
