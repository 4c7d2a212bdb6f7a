"""tools/attack, when everything is built: runs the attacks of the modules beside this one."""
import sys

import common
import files, strangers, kills, links, windows  # noqa: F401, E401: each registers its attacks

sys.exit(common.run([a for a in sys.argv[1:] if not a.startswith("-")], "--short" in sys.argv))
