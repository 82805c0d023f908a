import { describe, expect, it } from "vitest";
import { openStream } from "./streams";

describe("live streams", () => {
  const one = { personId: "one", workshopId: "w" };
  it("are limited for one person, and open again as others close, each once", () => {
    const open = Array.from({ length: 12 }, () => openStream(one));
    expect(() => openStream(one)).toThrow(/12 live test runs/);
    open[0]!();
    open[0]!();
    open.push(openStream(one));
    expect(() => openStream(one)).toThrow(/12 live test runs/);
    open.forEach((close) => close());
    openStream(one)();
  });
  it("are limited for a workshop, and leave another's alone", () => {
    const open = Array.from({ length: 120 }, (_, i) => openStream({ personId: `p${i}`, workshopId: "full" }));
    expect(() => openStream({ personId: "another", workshopId: "full" })).toThrow(/120 live test runs/);
    openStream({ personId: "another", workshopId: "w" })();
    open.forEach((close) => close());
  });
});
