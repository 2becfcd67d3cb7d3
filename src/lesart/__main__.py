"""``python -m lesart`` is the same as the command ``lesart``."""

from lesart.cli.main import main

raise SystemExit(main())
