/* Two runs over one another: from switching on, with what differs in words. */
import { describe, expect, it } from "vitest";
import { METRIC } from "../../../units/dimension";
import { testRunVan } from "../../../../../tests/jobs";
import { fromList, type Reading } from "../log/readings";
import { compareRuns } from "./compare-runs";
import { viewOf } from "./view";

const names = { a: "Monday", b: "Tuesday" };

/** A run of cycles of 20 min after a base of some minutes: A while on, minutes on, minutes of base. */
function run(amps: number, onMin: number, baseMin = 5) {
  const list: Reading[] = Array.from({ length: 181 + baseMin }, (_, minute) => {
    const since = minute - baseMin;
    const on = since >= 0 && (since < 30 || (since - 30) % 20 < onMin);
    return {
      timeMs: Date.UTC(2026, 6, 14, 20) + minute * 60_000,
      values: { battery_current_a: on ? -amps : -6, battery_voltage_v: 12.9, outdoor_temp_c: 28, cabin_temp_c: 23 },
    };
  });
  const { answer } = viewOf(testRunVan(), fromList(list), { particles: 20 })!;
  if (!answer.ok) throw new Error(answer.message);
  return answer.view;
}

describe("two runs", () => {
  it("that are alike say so, whatever stood before they were switched on", () => {
    const { words, commonH } = compareRuns(run(60, 10), run(60, 10, 25), names, METRIC);
    expect(words).toHaveLength(1);
    expect(words[0]).toMatch(/^Over the 3 h that both have/);
    expect(commonH).toBeCloseTo(3, 1);
  });
  it("of which one draws more say which, and by how much", () => {
    const { words, figures } = compareRuns(run(60, 10), run(75, 10), names, METRIC);
    expect(words.join(" ")).toMatch(/With the compressor on, Tuesday drew (2[0-9]|3[0-1]) % more than Monday\./);
    const [a, b] = [figures[0]!.a!, figures[0]!.b!];
    expect(b / a).toBeGreaterThan(1.15);
  });
  it("of which one rests less say so by its duty cycle", () => {
    const { words } = compareRuns(run(60, 14), run(60, 8), names, METRIC);
    expect(words.join(" ")).toMatch(/The compressor of Monday ran \d+ % longer than that of Tuesday\./);
  });
  it("lie over one another from switching on", () => {
    const { a, b } = compareRuns(run(60, 10, 5), run(60, 10, 45), names, METRIC);
    expect(b.amps[0]!).toBeCloseTo(a.amps[0]!, 0);
  });
});
