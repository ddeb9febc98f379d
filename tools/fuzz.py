"""Ask every operation of the served app what its document allows and what it does not. Run: ``make fuzz MINUTES=20``."""

from __future__ import annotations

import subprocess
import sys
import tempfile
from pathlib import Path

from browser import DemoServer

CHECKS = "not_a_server_error,status_code_conformance,content_type_conformance,response_schema_conformance"


def main(minutes: float, seed: str) -> int:
    """Run for so long against a demo of its own; returns the exit code."""
    with tempfile.TemporaryDirectory() as folder:
        server = DemoServer(Path(folder) / "fuzz.db")
        address = server.start()
        command = [
            str(Path(sys.executable).with_name("schemathesis")), "run", f"{address}/api/openapi.json", "--url", address,
            "--checks", CHECKS, "--max-time", str(int(minutes * 60)), "--seed", seed, "--mode", "all",
            "--request-timeout", "120",
            # What was found once would be asked again and again.
            "--generation-database", "none",
        ]  # fmt: skip
        try:
            return subprocess.run(command, cwd=folder, check=False).returncode
        finally:
            server.stop()


if __name__ == "__main__":
    sys.exit(main(float(sys.argv[1]), sys.argv[2]))
