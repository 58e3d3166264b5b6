import { QueryClient } from "@tanstack/react-query";
import { expect, test } from "vitest";
import { keys } from "./keys";
import { houseChanged, readingsChanged } from "./stale";

/** A client that holds something under each of these keys, and which of them are to be asked for again. */
function holding(known: readonly (readonly unknown[])[]) {
  const queries = new QueryClient();
  known.forEach((key) => queries.setQueryData(key, "held"));
  return { queries, stale: () => known.filter((key) => queries.getQueryState(key)?.isInvalidated) };
}

test("a reading of a circuit is heard by its sheet, its suspects, its verdict and its job, and by no other", () => {
  const mine = [keys.sheet("c1"), keys.diagnosis("c1"), keys.circuit("c1"), keys.job("j1")];
  const { queries, stale } = holding([...mine, keys.sheet("c2"), keys.job("j2"), keys.plan("j1")]);
  readingsChanged(queries, "c1", "j1");
  expect(stale()).toEqual(mine);
});

test("a reading of the house is heard by every circuit of it", () => {
  const heard = [keys.job("j1"), keys.circuit("c1"), keys.circuit("c2"), keys.sheet("c2"), keys.work("j1")];
  const { queries, stale } = holding([...heard, keys.job("j2"), keys.plan("j1")]);
  houseChanged(queries, "j1");
  expect(stale()).toEqual(heard);
});
