"""The process that works a plan out: ``python -m firkin.season.worker PLAN``."""

import sys

import django

if __name__ == "__main__":
    django.setup()
    from firkin.season.working import work

    work(int(sys.argv[1]))
