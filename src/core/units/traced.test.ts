import { describe, expect, it, vi } from "vitest";
import { constant, given, of, traced, traceOf } from "./trace";
import type { ResolvedQuantity } from "./known";

const volts: ResolvedQuantity = {
  path: "bank.blockVoltage",
  label: "Voltage",
  dimension: "voltage",
  value: 12.8,
  origin: "plate",
  why: "",
  entered: true,
};
const current = traced({
  key: "current",
  name: "Current",
  dimension: "current",
  value: 100,
  relation: "I = I_1",
  terms: () => [constant("I_1", "Clamped", 100, "current", "by a clamp")],
});
const power = traced({
  key: "power",
  name: "Power",
  dimension: "power",
  value: 1280,
  relation: "P = V × I",
  terms: () => [given("V", volts), of("I", current)],
});

describe("a traced value", () => {
  it("makes its terms only when they are asked for", () => {
    const terms = vi.fn(() => []);
    const one = traced({ key: "one", name: "One", dimension: "count", value: 1, relation: "n = 1", terms });
    expect(one.value).toBe(1);
    expect(terms).not.toHaveBeenCalled();
    expect(one.terms).toEqual([]);
    expect(terms).toHaveBeenCalledOnce();
  });
  it("has no terms and is a definition where nothing else is said", () => {
    const one = traced({ key: "one", name: "One", dimension: "count", value: 1, relation: "n = 1" });
    expect([one.terms, one.source]).toEqual([[], "definition"]);
  });
  it("stands by its key in JSON", () => {
    expect(JSON.parse(JSON.stringify({ demand: power }))).toEqual({ demand: "power" });
  });
  it("crosses to a worker with its numbers and without its terms", () => {
    expect(structuredClone(power)).toMatchObject({ key: "power", value: 1280, dimension: "power" });
  });
});

describe("the trace of some values", () => {
  it("holds them and all that they come from, each once", () => {
    const twice = traced({
      key: "twice",
      name: "Twice",
      dimension: "power",
      value: 2560,
      relation: "P_2 = P + P",
      terms: () => [of("P", power), of("P", power)],
    });
    expect(Object.keys(traceOf([twice, null, undefined, power])).sort()).toEqual(["current", "power", "twice"]);
  });
  it("names by key what a term is the result of, and by path what was entered", () => {
    const { terms } = traceOf([power])["power"]!;
    expect(terms).toEqual([
      { symbol: "V", name: "Voltage", value: 12.8, dimension: "voltage", origin: "plate", path: volts.path, why: "" },
      { symbol: "I", name: "Current", value: 100, dimension: "current", figure: "current" },
    ]);
  });
  it("is plain data", () => {
    const trace = traceOf([power]);
    expect(JSON.parse(JSON.stringify(trace))).toEqual(structuredClone(trace));
  });
  it("of nothing is empty", () => {
    expect(traceOf([])).toEqual({});
  });
});
