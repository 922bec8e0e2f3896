"""Clients that common generators make of the schema: they type-check, and they solve a loan."""

import json
import os
import shlex
import shutil
import subprocess
import sys
import tempfile
from pathlib import Path
from urllib.request import Request, urlopen

from django.conf import settings
from django.contrib.auth.models import User
from django.contrib.staticfiles.testing import StaticLiveServerTestCase

from zephyrant.desk import tokens
from zephyrant.desk.api.interface import examples

WEB = Path(settings.BASE_DIR) / "web"
SCHEMA = Path(settings.BASE_DIR) / "docs" / "openapi.json"
#: Kinds of files that the generator knows as such.
_OVERRIDES = (
    "content_type_overrides:\n  application/pdf: application/octet-stream\n"
    "  text/csv: application/octet-stream\n"
)
_IN_PYTHON = """
# mypy: disallow-untyped-calls, disallow-any-generics, disallow-any-unimported, strict-equality
# mypy: warn-return-any, warn-unused-ignores, no-implicit-reexport, disallow-untyped-defs
import sys
from desk_client import AuthenticatedClient
from desk_client.api.solving import solve
from desk_client.models import Answer, Loan

address, token, document = sys.argv[1:]
client = AuthenticatedClient(base_url=address, token=token)
import json
answer = solve.sync(client=client, body=Loan.from_dict(json.loads(document)))
assert isinstance(answer, Answer), answer
print(answer.value, answer.totals.interest if answer.totals else None)
"""
_IN_TYPESCRIPT = """
import createClient from "openapi-fetch";
import type { paths } from "./schema.js";

declare const process: { argv: string[] };
const [address, token, document] = process.argv.slice(2);
if (!address || !token || !document) throw new Error("three arguments are expected");
const client = createClient<paths>({
  baseUrl: address,
  headers: { Authorization: `Bearer ${token}` },
});
const { data, error } = await client.POST("/api/v1/solve", { body: JSON.parse(document) });
if (!data) throw new Error(JSON.stringify(error));
console.log(data.value, data.totals?.interest ?? null);
"""
_LOAN = {
    "zephyrant": "loan/1",
    "currency": "EUR",
    "principal": "10000",
    "rate": {"percent": "12"},
    "count": 12,
    "payment": "?",
}
#: 10,000 at 1 % a month over 12: 888.4879 by the annuity's formula; 12 of 888.49 less two cents.
_SOLVED = "888.49 661.86"


class Clients(StaticLiveServerTestCase):
    def setUp(self) -> None:
        self.folder = Path(tempfile.mkdtemp())
        self.addCleanup(shutil.rmtree, self.folder)
        user = User.objects.create_user("someone", password="a long sentence")
        _, self.key = tokens.make(user, "Generated clients", ["compute"], 1)

    def run_in(self, folder: Path, *command: str) -> str:
        """What a command prints; what it complains of fails."""
        environment = {**os.environ, "PATH": f"{Path(sys.executable).parent}:{os.environ['PATH']}"}
        ran = subprocess.run(
            command, cwd=folder, env=environment, capture_output=True, text=True, check=False
        )
        self.assertEqual(ran.returncode, 0, f"{command[:3]}: {ran.stdout}{ran.stderr}")
        return ran.stdout

    def arguments(self) -> tuple[str, ...]:
        return self.live_server_url, self.key, json.dumps(_LOAN)

    def test_the_examples_of_the_page(self) -> None:
        """938.82: the payment of the document in the contract."""
        shell, python, typescript = examples(self.live_server_url)
        os.environ["ZEPHYRANT_TOKEN"] = self.key
        self.addCleanup(os.environ.pop, "ZEPHYRANT_TOKEN")
        (self.folder / "ask.py").write_text(python.text)
        (self.folder / "ask.mjs").write_text(typescript.text)
        self.assertEqual(self.run_in(self.folder, sys.executable, "ask.py").strip(), "938.82")
        self.assertEqual(self.run_in(self.folder, "node", "ask.mjs").strip(), "938.82")
        # A shell's words are parsed by a shell; curl itself may not be there.
        joined = shell.text.replace("\\\n", " ").replace("$ZEPHYRANT_TOKEN", self.key)
        words = shlex.split(joined)
        self.assertEqual(words[:2], ["curl", f"{self.live_server_url}/api/v1/solve"])
        headers = dict(each.split(": ") for each in words[3:6:2])
        asked = Request(words[1], words[-1].encode(), headers)
        with urlopen(asked) as answer:
            self.assertEqual(json.load(answer)["value"], "938.82")

    def test_python(self) -> None:
        config = self.folder / "config.yml"
        config.write_text(_OVERRIDES)
        package = self.folder / "desk_client"
        said = self.run_in(
            self.folder,
            *("openapi-python-client", "generate", "--path", str(SCHEMA), "--config", str(config)),
            *("--output-path", str(package), "--meta", "none"),
        )
        # What it cannot send: a file as plain text.
        self.assertLessEqual(said.count("WARNING"), 1, said)
        (self.folder / "solving.py").write_text(_IN_PYTHON)
        # But for the generator's own `client.py`, which is as it is whatever the schema says.
        self.run_in(
            self.folder,
            *(sys.executable, "-m", "mypy", "--config-file=", "--follow-imports=silent"),
            *("-p", "desk_client.models", "-p", "desk_client.api", "-m", "solving"),
        )
        told = self.run_in(self.folder, sys.executable, "solving.py", *self.arguments())
        self.assertEqual(told.strip(), _SOLVED)

    def test_typescript(self) -> None:
        (self.folder / "node_modules").symlink_to(WEB / "node_modules")
        (self.folder / "package.json").write_text('{"type": "module"}')
        node = self.folder / "node_modules" / ".bin"
        self.run_in(self.folder, str(node / "openapi-typescript"), str(SCHEMA), "-o", "schema.ts")
        (self.folder / "solving.ts").write_text(_IN_TYPESCRIPT)
        self.run_in(
            self.folder,
            *(str(node / "tsc"), "--strict", "--target", "es2022", "--module", "nodenext"),
            *("--skipLibCheck", "solving.ts"),
        )
        told = self.run_in(self.folder, "node", "solving.js", *self.arguments())
        self.assertEqual(told.strip(), _SOLVED)
