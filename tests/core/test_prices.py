"""A firm's prices in and out: what a spreadsheet writes is read, what can be read two ways is not guessed."""

import unittest
from decimal import Decimal

from hypothesis import given
from hypothesis import strategies as st

from lumbek.core.items.prices import PriceLine, PriceList
from lumbek.exchange.prices_csv import PricesError, read_prices, write_prices

_WORDS = (
    st.text("abcde =+-@'\"\n,;0123456789", min_size=1, max_size=20)
    .map(str.strip)
    .filter(lambda said: said and not said.startswith("'") and "\n" not in said)
)
_PRICES = st.decimals(0, 99_999, places=2)


class Prices(unittest.TestCase):
    @given(st.lists(st.tuples(_WORDS, _WORDS, _PRICES), max_size=6, unique_by=lambda each: each[0]))
    def test_out_and_in_again_is_the_same(self, lines: list[tuple[str, str, Decimal]]) -> None:
        said = PriceList(lines=tuple(PriceLine(code=code, name=name, price=price) for code, name, price in lines))
        self.assertEqual(read_prices(write_prices(said)), said)

    def amount(self, said: str) -> Decimal:
        return read_prices(f"Code;Description;Cost;From\n1;Socket;{said};Depot").lines[0].price

    def test_amounts_as_people_write_them(self) -> None:
        for said, amount in {
            "12.50": "12.5",
            "12,50": "12.5",
            "£ 1,250.00": "1250",
            "1.250,00 €": "1250",
            "1 250": "1250",
            "1250": "1250",
            "0.125": "0.125",
            "0,125": "0.125",
            "1.234.567,89": "1234567.89",
        }.items():
            if Decimal(amount) <= 1_000_000:
                self.assertEqual(self.amount(said), Decimal(amount), said)
        for said, why in {
            "1,250": "two ways",
            "1.250": "two ways",
            "twelve": "no amount",
            "": "no amount",
            "-1": "0 or more",
            "1.234.567,89": "1000000",
            "NaN": "price",
        }.items():
            with self.assertRaisesRegex(PricesError, "line 2: .*price") as told:
                self.amount(said)
            self.assertIn(why, str(told.exception), said)

    def test_all_of_a_file_or_none_and_why(self) -> None:
        for text, why in {
            "": "names no code and no name and no price",
            "code,name\n1,Socket": "names no price",
            "code,name,price\n1,Socket,2\n1,Plate,3": "1 is there twice",
            "code,name,price\n" + "x,,2\n" * 7: "line 2: name .*; and 2 more",
        }.items():
            with self.assertRaisesRegex(PricesError, why):
                read_prices(text)
        with self.assertRaisesRegex(PricesError, "holds 5000 prices"):
            read_prices("code,name,price\n" + "\n".join(f"{each},Part,1" for each in range(5001)))
        self.assertEqual(read_prices("\ufeffprice,code,name\n\n2,A1,Socket\n").lines[0].unit, "each")


if __name__ == "__main__":
    unittest.main()
