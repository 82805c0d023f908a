import { expect, it, vi } from "vitest";
import { Refusal } from "../refusal";
import { keeper } from "./keeper";

const reading = (timeMs: number) => ({ timeMs, values: { battery_current_a: -1 } });

it("keeps what came while the database was away, once and in order", async () => {
  let away = 3;
  const stored: number[] = [];
  const keep = keeper(
    async (list) => {
      await Promise.resolve();
      if (away-- > 0) throw new Error("connect ECONNREFUSED");
      stored.push(...list.map(({ timeMs }) => timeMs));
    },
    vi.fn(),
    1,
  );
  keep.take([reading(1), reading(2)]);
  keep.take([reading(3)]);
  await keep.settled();
  expect(stored).toEqual([1, 2, 3]);
});
it("ends at a refusal, with its reason, and tries no more", async () => {
  const refused = vi.fn();
  const store = vi.fn(() => Promise.reject(new Refusal(409, "The test run is finished.")));
  const keep = keeper(store, refused, 1);
  keep.take([reading(1)]);
  await keep.settled();
  expect(refused).toHaveBeenCalledWith("The test run is finished.");
  keep.take([reading(2)]);
  expect(store).toHaveBeenCalledTimes(1);
});
