"""Backups over HTTP and from the command line: out of one program, into another, and nowhere else."""

import contextlib
import io
import json
import os
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path
from unittest import mock

from june_shade.launch import backups
from june_shade.store.session import UnavailableError
from tests.api.test_trees import RegisterTest
from tests.support import client, fresh_database, new_id, tree_body, water_body


class Backups(RegisterTest):
    def setUp(self):
        super().setUp()
        self.tree = new_id()
        self.client.put(f"/api/trees/{self.tree}", json=tree_body(self.site_id, self.plant))
        self.client.put(f"/api/log/{new_id()}", json=water_body(self.tree, 31.25))

    def test_the_page_tells_the_same_in_the_new_program(self):
        data = self.client.get("/api/backup")
        self.assertEqual(data.headers["content-type"], "application/zip")
        self.assertRegex(data.headers["content-disposition"], r"june-shade-\d{4}-\d\d-\d\d\.zip")
        paths = (
            "/api/sites",
            "/api/trees",
            f"/api/trees/{self.tree}/water",
            f"/api/trees/{self.tree}/log",
            "/api/today",
        )
        with client() as other:
            answer = other.post("/api/restore", files={"file": ("b.zip", data.content)})
            self.assertEqual(answer.status_code, 200, answer.text)
            self.assertEqual((answer.json()["trees"], answer.json()["entries"]), (1, 1))
            for path in paths:
                here, there = self.client.get(path).json(), other.get(path).json()
                self.assertEqual(there, here, path)

    def test_one_that_fails_leaves_no_half_copy_behind(self):
        with tempfile.TemporaryDirectory() as folder, mock.patch.object(tempfile, "tempdir", folder):
            with mock.patch("june_shade.plans.backup.write", side_effect=OSError("no room")):
                self.assertEqual(self.client.get("/api/backup").status_code, 500)
            self.assertEqual(list(Path(folder).iterdir()), [])

    def test_data_that_is_there_is_never_replaced(self):
        data = self.client.get("/api/backup").content
        answer = self.client.post("/api/restore", files={"file": ("b.zip", data)})
        self.assertEqual(answer.status_code, 409, answer.text)

    def test_what_is_no_backup_is_said(self):
        with client() as other:
            for data in (b"", b"hello", self.client.get("/api/backup").content[:-300]):
                answer = other.post("/api/restore", files={"file": ("b.zip", data)})
                self.assertEqual((answer.status_code, answer.json()["field"]), (422, "file"), answer.text)
            self.assertEqual(other.get("/api/sites").json(), [])


class CommandLine(unittest.TestCase):
    def june(self, url: str, *words: str) -> subprocess.CompletedProcess:
        env = {**os.environ, "DATABASE_URL": url, "JUNE_DATA": f"{self.folder}/data"}
        command = [sys.executable, "-m", "june_shade.launch", *words]
        return subprocess.run(command, env=env, cwd=self.folder, capture_output=True, text=True, timeout=120)

    def here(self, url: str, act, name: str) -> tuple[int, str]:
        """The same in this process: its code, and what it told where something was wrong."""
        env = {"DATABASE_URL": url, "JUNE_DATA": f"{self.folder}/data"}
        with (
            mock.patch.dict(os.environ, env),
            contextlib.redirect_stdout(io.StringIO()),
            contextlib.redirect_stderr(io.StringIO()) as told,
        ):
            return act(f"{self.folder}/{name}"), told.getvalue()

    def test_out_and_in_again(self):
        with tempfile.TemporaryDirectory() as self.folder:
            old, new = fresh_database("demo"), fresh_database()
            made = self.june(old, "backup", "trees.zip")
            self.assertEqual(made.returncode, 0, made.stderr)
            self.assertEqual([p.name for p in Path(self.folder).glob("trees*")], ["trees.zip"])
            done = self.june(new, "restore", "trees.zip")
            self.assertEqual(done.returncode, 0, done.stderr)
            self.assertEqual(self.june(new, "backup").returncode, 2)
            code, told = self.here(new, backups.bring_back, "trees.zip")
            self.assertEqual(code, 1)
            self.assertIn("empty program", told)
            self.assertEqual(self.here(new, backups.bring_back, "none.zip")[0], 1)
            self.assertEqual(self.here(new, backups.save, "again.zip")[0], 0)
            tables = [self.manifest(f"{self.folder}/{name}.zip")["tables"] for name in ("trees", "again")]
            self.assertEqual(*tables)

    def test_a_database_that_goes_away_is_said_in_a_sentence_and_leaves_no_part(self):
        gone = UnavailableError("SELECT 1", {}, Exception("server closed the connection"))
        with tempfile.TemporaryDirectory() as folder, mock.patch.object(backups, "reached") as reached:
            reached.return_value.__enter__.return_value = "postgresql+psycopg://nowhere"
            with (
                mock.patch("june_shade.plans.backup.write", side_effect=gone),
                contextlib.redirect_stderr(io.StringIO()) as told,
            ):
                self.assertEqual(backups.save(f"{folder}/trees.zip"), 1)
            self.assertEqual(told.getvalue(), "No backup was made: the database stopped answering\n")
            self.assertEqual(list(Path(folder).iterdir()), [])

    def manifest(self, path: str) -> dict:
        import zipfile

        with zipfile.ZipFile(path) as file:
            return json.loads(file.read("manifest.json"))


if __name__ == "__main__":
    unittest.main()
