"""The server's key and what comes of it: made once, private, other keys for other uses; what a signature holds for."""

import json
import tempfile
import unittest
from pathlib import Path

from cryptography.fernet import Fernet
from hypothesis import given, settings
from hypothesis import strategies as st

from lumbek.ops.signing import ForgedError, check_signature, signed
from lumbek.services.key_file import KeyFile
from lumbek.services.sealing import Sealer


class Keys(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(folder.cleanup)
        cls.folder = Path(folder.name)
        cls.mine, cls.other = str(cls.folder / "mine.key"), str(cls.folder / "other.key")
        KeyFile(cls.mine).key()
        KeyFile(cls.other).key()

    def test_it_is_made_once_in_a_folder_that_may_not_be_there_and_is_its_owners_alone(self) -> None:
        path = self.folder / "deep" / "down" / "lumbek.key"
        key = KeyFile(str(path))
        self.assertFalse(key.is_there)
        first = key.key()
        self.assertTrue(key.is_there)
        self.assertEqual(KeyFile(str(path)).key(), first)
        self.assertEqual(path.stat().st_mode & 0o077, 0)
        self.assertEqual([each.name for each in path.parent.iterdir()], [path.name])
        # What seals is this very key: files of before serve on.
        self.assertEqual(Fernet(first).decrypt(Fernet(first).encrypt(b"x")), b"x")
        self.assertEqual(Sealer(str(path)).unseal(Sealer(str(path)).seal("secret")), "secret")

    def test_each_use_has_a_key_of_its_own_and_each_server_others(self) -> None:
        mine, other = KeyFile(self.mine), KeyFile(self.other)
        keys = {mine.derived("a"), mine.derived("b"), other.derived("a"), other.derived("b"), mine.key()}
        self.assertEqual(len(keys), 5)
        self.assertEqual({len(each) for each in keys} - {44}, {32})
        self.assertEqual(mine.derived("a"), KeyFile(self.mine).derived("a"))

    @given(st.binary(max_size=200))
    def test_a_signature_holds_for_what_was_signed(self, content: bytes) -> None:
        signature, key = signed(self.mine, content)
        check_signature(self.mine, content, signature, "")
        check_signature(self.other, content, signature, key)
        check_signature(str(self.folder / "none.key"), content, signature, key.upper())
        self.assertFalse((self.folder / "none.key").exists())
        for here, trusted in ((self.other, ""), (self.other, signed(self.other, b"")[1]), (self.other, "zz")):
            with self.assertRaisesRegex(ForgedError, f"another server, whose key is {key}"):
                check_signature(here, content, signature, trusted)

    @settings(max_examples=60)
    @given(st.binary(min_size=1, max_size=60), st.data())
    def test_and_for_nothing_else(self, content: bytes, data: st.DataObject) -> None:
        signature, _ = signed(self.mine, content)
        at = data.draw(st.integers(0, len(content) - 1))
        changed = content[:at] + bytes([content[at] ^ data.draw(st.integers(1, 255))]) + content[at + 1 :]
        said = json.loads(signature)
        where = data.draw(st.integers(0, 127))
        flipped = "0" if said["signature"][where] != "0" else "1"
        wrong = said["signature"][:where] + flipped + said["signature"][where + 1 :]
        for what, how in (
            (changed, signature),
            (content + b"\0", signature),
            (content, json.dumps({**said, "signature": wrong})),
            (content, json.dumps({**said, "key": signed(self.other, b"")[1]})),
        ):
            with self.assertRaisesRegex(ForgedError, "does not hold"):
                check_signature(self.mine, what, how, "")

    def test_nothing_is_signed_like_something_else(self) -> None:
        said = json.loads(signed(self.mine, b"something")[0])
        with self.assertRaisesRegex(ForgedError, "does not hold"):
            check_signature(self.mine, b"", json.dumps(said), "")

    @given(st.text(max_size=40) | st.just("{}") | st.just('{"key": [], "signature": null}'))
    def test_what_is_no_signature_is_told_in_the_same_words(self, nonsense: str) -> None:
        with self.assertRaisesRegex(ForgedError, "does not hold"):
            check_signature(self.mine, b"x", nonsense, "")
