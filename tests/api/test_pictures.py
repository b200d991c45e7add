"""Pictures of trees: kept once, shown at what they were taken at, in backups, taken away."""

import errno
import io
import os
import tempfile
import time
import unittest
import zipfile
from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta
from pathlib import Path
from unittest import mock
from uuid import UUID

from PIL import Image
from sqlalchemy import create_engine

from june_shade.core.errors import InputError
from june_shade.plans import backup, pictures
from june_shade.plans.work import transaction
from june_shade.store.picture_files import Folder
from june_shade.store.picture_tables import TreePicture
from june_shade.store.session import psycopg_url
from tests.api.test_trees import RegisterTest
from tests.formats.test_picture import taken
from tests.support import DAY, PICTURES, fresh_database, new_id, tree_body

FOLDER = Folder(PICTURES)


class PictureTest(RegisterTest):
    def setUp(self):
        super().setUp()
        self.tree, self.other = self.made("P-1"), self.made("P-2")

    def made(self, tag: str) -> str:
        tree = new_id()
        body = tree_body(self.site_id, self.plant, tag=tag, planted_on=(DAY - timedelta(days=20)).isoformat())
        self.assertEqual(self.client.put(f"/api/trees/{tree}", json=body).status_code, 200)
        return tree

    def put(self, picture: str = "", data: bytes = b"", **changed):
        sent = {"tree_id": self.tree} | changed
        files = {"file": ("IMG_1.jpg", data or taken())}
        return self.client.put(f"/api/pictures/{picture or new_id()}", data=sent, files=files)

    def note(self) -> str:
        entry = new_id()
        body = {
            "tree_id": self.tree, "kind": "note", "note": "bark rubbed", "happened_at": f"{DAY}T05:50:00-06:00",
            "device_id": "d",
        }  # fmt: skip
        self.assertEqual(self.client.put(f"/api/log/{entry}", json=body).status_code, 201)
        return entry

    def of_tree(self) -> list[dict]:
        return self.client.get(f"/api/trees/{self.tree}/pictures").json()

    def live(self) -> set[str]:
        return {row["sha256"] for row in self.rows() if row["removed_at"] is None}

    def rows(self) -> list[dict]:
        with transaction(self.client.app.state.sessions) as session:
            return [
                {name: getattr(row, name) for name in ("sha256", "removed_at")} for row in session.query(TreePicture)
            ]


class Kept(PictureTest):
    def test_sent_twice_it_is_one_and_another_under_its_id_is_refused(self):
        picture = new_id()
        first, again = self.put(picture), self.put(picture)
        self.assertEqual((first.status_code, again.json()), (200, first.json()))
        self.assertEqual(len(self.of_tree()), 1)
        for changed in ({"data": taken((60, 20))}, {"tree_id": self.other}):
            refused = self.put(picture, **changed)
            self.assertEqual((refused.status_code, refused.json()["field"]), (409, "id"), changed)
        self.assertEqual(self.of_tree(), [first.json()])

    def test_its_file_is_upright_and_small_and_asked_for_once(self):
        shown = self.put(data=taken((3000, 2000), orientation=6)).json()
        path = f"/api/pictures/{shown['id']}/file"
        for query, size in (("", (1067, 1600)), ("?small=true", (214, 320))):
            answer = self.client.get(path + query)
            self.assertEqual((answer.status_code, answer.headers["content-type"]), (200, "image/jpeg"))
            self.assertIn("nosniff", answer.headers["x-content-type-options"])
            self.assertEqual(Image.open(io.BytesIO(answer.content)).size, size)
            again = self.client.get(path + query, headers={"If-None-Match": answer.headers["etag"]})
            self.assertEqual((again.status_code, again.content), (304, b""))

    def test_its_day_is_as_was_said_else_as_the_camera_has_it_else_today(self):
        first, yesterday = DAY - timedelta(days=20), (DAY - timedelta(days=1)).isoformat()
        of_camera = f"{yesterday.replace('-', ':')} 10:00:00"
        self.assertEqual(self.put(day=first.isoformat()).json()["day"], first.isoformat())
        self.assertEqual(self.put(data=taken(day=of_camera)).json()["day"], yesterday)
        for day in ("2019:01:01 00:00:00", "2031:01:01 00:00:00"):  # a clock that was never set
            self.assertEqual(self.put(data=taken(day=day)).json()["day"], DAY.isoformat())
        for wrong in (first - timedelta(days=1), DAY + timedelta(days=1)):
            refused = self.put(day=wrong.isoformat())
            self.assertEqual((refused.status_code, refused.json()["field"]), (422, "day"))
        days = [row["day"] for row in self.of_tree()]
        self.assertEqual((days, len(days)), (sorted(days, reverse=True), 4))

    def test_what_is_no_picture_or_of_nothing_is_refused_and_nothing_is_kept(self):
        before = set(FOLDER.older(-1))
        for data, changed, want in (
            (b"<svg xmlns='http://www.w3.org/2000/svg'><script/></svg>", {}, (422, "file")),
            (b"\0" * 21_000_000, {}, (413, "file")),
            (taken(), {"tree_id": new_id()}, (404, "tree_id")),
            (taken(), {"person_id": new_id()}, (422, "person_id")),
            (taken(), {"occasion": "note"}, (422, "entry_id")),
            (taken(), {"entry_id": new_id()}, (422, "entry_id")),
            (taken(), {"occasion": "birthday"}, (422, "occasion")),
        ):
            refused = self.put(data=data, **changed)
            self.assertEqual((refused.status_code, refused.json()["field"]), want, refused.text)
            self.assertNotIn("split it", refused.text)
        self.assertEqual((self.of_tree(), set(FOLDER.older(-1))), ([], before))

    def test_one_that_comes_twice_at_a_time_is_one(self):
        picture = new_id()
        with ThreadPoolExecutor(4) as pool:
            answers = list(pool.map(lambda _: self.put(picture), range(4)))
        self.assertEqual({answer.status_code for answer in answers}, {200})
        self.assertEqual(len(self.of_tree()), 1)

    def test_no_room_for_it_is_said_and_nothing_is_kept(self):
        full = OSError(errno.ENOSPC, "No space left on device")
        with mock.patch("june_shade.store.picture_files.os.fsync", side_effect=full):
            refused = self.put(data=taken((81, 20)))
        self.assertEqual((refused.status_code, refused.json()["code"]), (507, "disk_full"))
        self.assertEqual((self.of_tree(), list(PICTURES.glob("*/*.part"))), ([], []))

    def test_it_stands_in_the_book_at_what_it_was_taken_at_whichever_came_first(self):
        late, entry = new_id(), self.note()
        first = self.put(occasion="note", entry_id=entry).json()["id"]
        end = new_id()
        before = self.put(late, occasion="ended", entry_id=end)
        self.assertEqual(before.status_code, 200, "the picture of an end came before the end")
        self.client.put(f"/api/tree-ends/{end}", json={"tree_id": self.tree, "kind": "dead", "cause": "drought"})
        planted = self.put(occasion="planted", entry_id=self.tree).json()["id"]
        rows = self.client.get("/api/book", params={"tree_id": self.tree}).json()["rows"]
        shown = {row["kind"]: row["pictures"] for row in rows}
        self.assertEqual((shown["note"], shown["ended"], shown["planted"]), ([first], [late], [planted]))
        self.assertEqual(len(self.of_tree()), 3, "a tree that ended keeps its pictures")


class Gone(PictureTest):
    def test_taken_away_it_is_not_shown_and_its_file_goes_once_nothing_needs_it(self):
        one, two = self.put().json()["id"], self.put(tree_id=self.other).json()["id"]
        (name,) = self.live()
        sessions = self.client.app.state.sessions

        def sweep() -> list[str]:
            for file in PICTURES.glob("*/*.jpg"):
                os.utime(file, (time.time() - 3 * 86_400,) * 2)
            with transaction(sessions) as session:
                return [gone for gone in pictures.sweep(session, FOLDER) if gone == name]

        for _ in range(2):
            self.assertEqual(self.client.delete(f"/api/pictures/{one}").status_code, 204)
        self.assertEqual((self.client.get(f"/api/pictures/{one}/file").status_code, self.of_tree()), (404, []))
        self.assertEqual(self.client.delete(f"/api/pictures/{new_id()}").status_code, 404)
        self.assertEqual(sweep(), [], "the other tree shows the same file")
        self.client.delete(f"/api/pictures/{two}")
        self.assertEqual(sweep(), [], "it was taken away only now")
        with transaction(sessions) as session:
            for row in session.query(TreePicture):
                row.removed_at -= timedelta(days=2)
        again = self.put()  # somebody brings it again: the file is new, whatever the rows say
        with transaction(sessions) as session:
            self.assertNotIn(name, pictures.sweep(session, FOLDER))
        self.client.delete(f"/api/pictures/{again.json()['id']}")
        with transaction(sessions) as session:
            for row in session.query(TreePicture):
                row.removed_at -= timedelta(days=2)
        self.assertEqual(sweep(), [name])
        self.assertIsNone(FOLDER.get(name))

    def test_files_that_nothing_here_speaks_of_stay_and_halves_of_files_go(self):
        strange = FOLDER.put(taken((71, 20)))
        half = PICTURES / strange[:2] / "begun.part"
        half.write_bytes(b"half")
        for file in (half, *PICTURES.glob("*/*.jpg")):
            os.utime(file, (time.time() - 3 * 86_400,) * 2)
        with transaction(self.client.app.state.sessions) as session:
            pictures.sweep(session, FOLDER)
        self.assertIsNotNone(FOLDER.get(strange), "it may be another database's")
        self.assertFalse(half.exists())
        FOLDER.remove(strange)

    def test_a_file_that_is_missing_is_said_and_the_list_still_shows_it(self):
        shown = self.put(data=taken((33, 21))).json()
        for name in self.live():
            FOLDER.remove(name)
        missing = self.client.get(f"/api/pictures/{shown['id']}/file")
        self.assertEqual((missing.status_code, missing.json()["field"]), (404, "file"))
        self.assertEqual([row["id"] for row in self.of_tree()], [shown["id"]])


class InBackups(PictureTest):
    def setUp(self):
        super().setUp()
        self.data = {self.put(data=taken((n, 20))).json()["id"] for n in (40, 50)}
        gone = self.put(data=taken((60, 20))).json()["id"]
        self.client.delete(f"/api/pictures/{gone}")
        out = io.BytesIO()
        backup.write(backup.engine_of(self.client.app.state.sessions), out, FOLDER)
        self.zip = out.getvalue()
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))

    def restored(self, data: bytes):
        engine = create_engine(psycopg_url(fresh_database()))
        self.addCleanup(engine.dispose)
        return backup.restore(engine, io.BytesIO(data), Folder(self.folder))

    def test_pictures_come_back_with_their_trees(self):
        found = self.restored(self.zip)
        self.assertEqual(found.rows["tree_picture"], 3)
        there = Folder(self.folder)
        self.assertEqual(set(there.older(-1)), self.live(), "what was taken away is not in it")
        for name in self.live():
            self.assertEqual(there.get(name), FOLDER.get(name))

    def test_a_picture_that_was_changed_or_leads_elsewhere_is_refused(self):
        for change in ("other", "path"):
            out = io.BytesIO()
            with zipfile.ZipFile(io.BytesIO(self.zip)) as old, zipfile.ZipFile(out, "w") as new:
                for name in old.namelist():
                    data = old.read(name)
                    if name.startswith("pictures/"):
                        data, name = (data + b"x", name) if change == "other" else (data, "pictures/../../evil.jpg")
                    new.writestr(name, data)
            with self.assertRaisesRegex(InputError, "not what it was"):
                self.restored(out.getvalue())
            self.assertEqual(list(self.folder.parent.glob("evil*")), [])


class Ids(PictureTest):
    def test_an_id_is_a_uuid(self):
        self.assertIn(self.put("none").status_code, (404, 405, 422))
        self.assertEqual(UUID(self.put().json()["id"]).version, 4)


if __name__ == "__main__":
    unittest.main()
