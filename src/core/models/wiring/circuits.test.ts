import { describe, expect, it } from "vitest";
import { q, jobOf } from "../../../../tests/jobs";
import { AMERICAN, METRIC, type UnitPreferences } from "../../units/dimension";
import { parseQuantity } from "../../units/parse";
import { emptyBranch, emptyPart, readJob, type Branch, type Part, type Job } from "../../document/schema";
import { assess } from "../../assessment/verdicts/assess";
import { gravestFirst } from "../../assessment/judge/judge";
import type { RuleId } from "../../assessment/judge/rule-ids";
import { summaryOf } from "../../assessment/verdicts/summary";
import { singleLineDiagram, DIAGRAM_CELL, linesBelow } from "../../applications/diagram/single-line-diagram";

const carries = (job: Job) => assess(job).verdicts.carries;
/** The check that a system is put together as a rule asks. */
const ruleOf = (job: Job, by: RuleId) =>
  carries(job)
    .checks.filter((check) => check.form === "there" && check.by === by)
    .sort(gravestFirst)[0];
const withBranch = (role: Branch["role"], change: Partial<Branch> = {}, job = jobOf()): Job => ({
  ...job,
  wiring: { ...job.wiring, branches: [{ ...emptyBranch(role, role), ...change }] },
});
const changeover = (job: Job): Job => ({
  ...job,
  wiring: { ...job.wiring, mains: [emptyPart("changeover", "co"), ...job.wiring.mains] },
});

describe("structure rules, each broken and repaired", () => {
  const bank24 = { bank: { blockVoltage: q(25.6) } };
  it.each<[string, RuleId, Job, Job, "Stop" | "Fails"]>([
    [
      "charger on its own inverter's output",
      "charging-loop",
      withBranch("charger", { fedFrom: "inverter" }),
      withBranch("charger"),
      "Stop",
    ],
    ["inverter and shore able to meet", "sources-apart", withBranch("shore"), changeover(withBranch("shore")), "Stop"],
    [
      "an inlet without residual current protection (RCD or GFCI)",
      "residual",
      changeover(withBranch("shore", { parts: [emptyPart("breaker", "b")] })),
      changeover(withBranch("shore")),
      "Stop",
    ],
    [
      "an inlet without a breaker",
      "circuit-breaker",
      changeover(withBranch("shore", { parts: [emptyPart("rcd", "r")] })),
      changeover(withBranch("shore")),
      "Stop",
    ],
    [
      "no residual current protection (RCD or GFCI) on the inverter's output",
      "residual",
      { ...jobOf(), wiring: { ...jobOf().wiring, mains: [] } },
      jobOf(),
      "Stop",
    ],
    [
      "a thin cable behind the inverter without a breaker",
      "output-breaker",
      {
        ...jobOf({ inverter: { rating: q(8000) } }),
        wiring: {
          ...jobOf().wiring,
          mains: [emptyPart("rcd", "r"), { ...emptyPart("cable", "c"), areaMm2: q(2.5) } as Part],
        },
      },
      {
        ...jobOf({ inverter: { rating: q(3000) } }),
        wiring: {
          ...jobOf().wiring,
          mains: [emptyPart("rcd", "r"), { ...emptyPart("cable", "c"), areaMm2: q(2.5) } as Part],
        },
      },
      "Stop",
    ],
    [
      "isolator on ignition",
      "engine-control",
      withBranch("engine", { control: "ignition" }),
      withBranch("engine", { control: "engine-running" }),
      "Fails",
    ],
    [
      "12 V loads on a 24 V battery without a converter",
      "converter-rating",
      withBranch("loads", {}, jobOf(bank24)),
      withBranch("loads", { converter: true }, jobOf(bank24)),
      "Fails",
    ],
    [
      "lithium charging without a block against frost",
      "frost",
      withBranch("solar", {}, jobOf({ bank: { frostBlock: false } })),
      withBranch("solar"),
      "Stop",
    ],
  ])("%s", (_, key, broken, mended, word) => {
    expect(ruleOf(broken, key)).toMatchObject({ margin: 0, word });
    expect(ruleOf(broken, key)!.remark).toMatch(/\.$/);
    expect(ruleOf(broken, key)!.fix).toMatch(/\.$/);
    expect(carries(broken).word).toBe(word);
    expect(ruleOf(mended, key)).toMatchObject({ margin: 1, word: "Holds" });
  });
  it("12 V loads on a 12 V battery ask for no converter; lead-acid for no frost block", () => {
    expect(ruleOf(withBranch("loads"), "converter-rating")).toBeUndefined();
    expect(
      ruleOf(withBranch("solar", {}, jobOf({ bank: { chemistry: "agm", frostBlock: false } })), "frost"),
    ).toBeUndefined();
  });
});

describe("protection at every source", () => {
  it.each(["solar", "engine", "charger", "loads"] as const)("a %s run without a fuse is a stop", (role) => {
    const { word, decides } = carries(withBranch(role, { parts: [emptyPart("cable", "c")] }));
    expect([word, decides.name]).toEqual(["Stop", expect.stringMatching(/^no fuse at the battery/)]);
  });
  it("engine charging fused at one end only is a stop at the other", () => {
    const cable: Part = { ...(emptyPart("cable", "c") as Part & { kind: "cable" }), length: q(4), areaMm2: q(25) };
    const fuse: Part = { ...(emptyPart("fuse", "f") as Part & { kind: "fuse" }), rating: q(60) };
    const isolator = (parts: Part[]) => carries(withBranch("engine", { coupling: "isolator", parts, far: [] }));
    const one = isolator([fuse, cable]);
    expect([one.word, one.decides.name]).toEqual(["Stop", expect.stringMatching(/no fuse at the engine's end/)]);
    expect(one.decides.remark).toContain("two sources");
    expect(isolator([fuse, cable, { ...fuse, id: "g" }]).word).not.toBe("Stop");
    // Through a converter each side has its own source and its own fuse.
    const converter = carries(withBranch("engine", { parts: [fuse, cable], far: [cable] }));
    expect([converter.word, converter.decides.name]).toEqual([
      "Stop",
      expect.stringMatching(/no fuse at the starter battery/),
    ]);
  });
  it("a battery fuse more than 1.83 m along the cable is a stop, within it a caution, at the post nothing", () => {
    const far = (metres: number) => {
      const job = jobOf();
      const before: Part = {
        ...(emptyPart("cable", "b") as Part & { kind: "cable" }),
        length: q(metres),
        areaMm2: q(120),
      };
      return carries({ ...job, wiring: { ...job.wiring, main: [before, ...job.wiring.main] } }).checks.find(
        ({ by }) => by === "fuse-at-source",
      );
    };
    expect(far(2)!.word).toBe("Stop");
    expect(far(1)!.word).toBe("Tight");
    expect(far(0.15)).toBeUndefined();
  });
});

describe("parts under their current", () => {
  it("a resettable breaker near its rating is too hot where a fuse is not", () => {
    const job = (fuseKind: "breaker" | "class-t") =>
      jobOf({
        fuse: { fuseKind, rating: q(100) },
        unit: { dcRunningCurrent: q(92, "measured") },
        cable: { areaMm2: q(95) },
      });
    const hot = (kind: "breaker" | "class-t") => carries(job(kind)).checks.find(({ by }) => by === "breaker-heat");
    expect(hot("breaker")!.word).toBe("Fails");
    expect(hot("class-t")).toBeUndefined();
  });
  it("a lug 30 K over its cable is to be acted on, one that would pass 70 °C at the running current is a stop", () => {
    const job = jobOf({ unit: { dcRunningCurrent: q(120, "measured") } });
    const at = (lugC: number, hotCurrent: number) =>
      carries({
        ...job,
        wiring: {
          ...job.wiring,
          measured: { cableC: q(35), lugC: q(lugC), airC: q(30), hotCurrent: q(hotCurrent) },
        },
      }).checks.filter(({ by }) => by === "joint-heat");
    expect(at(45, 120).map(({ word }) => word)).toEqual(["Holds", "Holds"]);
    expect(at(66, 120)[0]!.word).toBe("Fails");
    expect(at(60, 60)[1]!.word).toBe("Stop");
  });
  it("vents too small make the compartment hot, take the inverter's rating and name the vent that would do", () => {
    const vented = (ventArea: number) =>
      assess(jobOf({ inverter: { ventArea: q(ventArea), rating: q(2000) }, unit: { runningCurrent: q(7) } }));
    const [tight, wide] = [vented(0.002), vented(0.2)];
    expect(tight.values.inverter.compartmentC.value).toBeGreaterThan(wide.values.inverter.compartmentC.value + 10);
    const has = (one: typeof tight) => one.verdicts.carries.checks.find(({ by }) => by === "inverter-continuous")!.has;
    expect(has(tight)).toBeLessThan(has(wide));
    const ventsAsked = ({ notices }: typeof tight) =>
      notices.find(({ key }) => key === "notices.compartmentReachesVentsEach")?.values.opening;
    expect(ventsAsked(tight)).toMatchObject({ dimension: "opening" });
    expect(ventsAsked(wide)).toBeUndefined();
  });
  it("an ampacity of the cable's own takes the table's place", () => {
    const has = carries(jobOf({ cable: { areaMm2: q(35), ampacity: q(123) } })).checks.find(
      ({ by }) => by === "dc-ampacity",
    )!.has;
    expect(has).toBe(123);
  });
});

describe("the same system in metric and in American notation", () => {
  const typed = (notation: UnitPreferences, texts: Record<"area" | "length" | "outdoor" | "link", string>): Job => {
    const read = (text: string, dimension: "area" | "length" | "temperature") => {
      const parsed = parseQuantity(text, dimension, notation);
      if (!parsed.ok) throw new Error(parsed.message);
      return q(parsed.value);
    };
    const job = jobOf({
      mains: "120V60Hz",
      unit: { runningCurrent: q(12), lockedRotorCurrent: q(60) },
      outdoorC: read(texts.outdoor, "temperature").value,
      bank: { parallel: q(2), capacityAh: q(280) },
      cable: { areaMm2: read(texts.area, "area"), length: read(texts.length, "length") },
    });
    job.wiring.links = { layout: "own-leads", fuses: "unsaid", paths: [{ length: read(texts.link, "length") }, {}] };
    return { ...job, notation };
  };
  it("gives the same verdicts, figure for figure", () => {
    const american = typed(AMERICAN, { area: "2/0", length: "5 ft", outdoor: "95 F", link: "14 in" });
    const metric = typed(METRIC, { area: "67.43 mm2", length: "1.524 m", outdoor: "35 C", link: "35.56 cm" });
    const [a, b] = [summaryOf(american), summaryOf(metric)];
    for (const name of ["starts", "carries", "lasts", "recovers"] as const) {
      expect(a[name].word).toBe(b[name].word);
      expect(a[name].decides).toBe(b[name].decides);
      expect(Math.abs(a[name].has - b[name].has)).toBeLessThanOrEqual(0.0001 * Math.abs(b[name].has));
      expect(Math.abs(a[name].need - b[name].need)).toBeLessThanOrEqual(0.0001 * Math.abs(b[name].need));
    }
  });
});

describe("a unit's own circuit", () => {
  const two = (): Job => {
    const job = jobOf({ unit: { runningCurrent: q(6) }, inverter: { rating: q(5000) } });
    job.units.push({ ...job.units[0]!, id: "second", name: "Rear", runningCurrent: q(9) });
    const circuit = (unitId: string, amps: number): Branch => {
      const branch = { ...emptyBranch("circuit", `c-${unitId}`), unitId, name: `Circuit ${unitId}` };
      return {
        ...branch,
        parts: branch.parts.map((part) => (part.kind === "breaker" ? { ...part, rating: q(amps) } : part)),
      };
    };
    job.wiring.branches = [circuit("unit-1", 10), circuit("second", 6)];
    return job;
  };
  it("carries that unit's current alone, and its breaker is judged by it", () => {
    const { currents, verdicts, figures } = assess(two());
    expect(currents["wiring.branches.0.parts"]).toBeCloseTo(figures["unit.0.apparent"]!.value / 230, 9);
    expect(currents["wiring.branches.1.parts"]).toBeCloseTo(figures["unit.1.apparent"]!.value / 230, 9);
    const size = (i: number) =>
      verdicts.carries.checks.find(({ topic, part }) => topic === "size" && part === `wiring.branches.${i}.parts.0`)!;
    expect([size(0).margin > 1, size(1).margin > 1]).toEqual([true, false]);
  });
  it("is drawn with its unit at the end, which is then no longer on the common run", () => {
    const job = two();
    const { items } = singleLineDiagram(job, assess(job));
    expect(items.filter(({ path }) => path === "units.1").map(({ key }) => key)).toEqual(["wiring.branches.1.unit"]);
    expect(items.some(({ title }) => title === "board")).toBe(true);
  });
  it("without a breaker there or before it is a stop", () => {
    const job = two();
    job.wiring.mains = job.wiring.mains.filter(({ kind }) => kind !== "breaker");
    job.wiring.branches[0]!.parts = [emptyPart("cable", "c")];
    expect(ruleOf(job, "circuit-breaker")).toMatchObject({ margin: 0, word: "Stop" });
  });
});

describe("the one-line plan", () => {
  /** Forty parts: a long main run, the mains side and three branches. */
  const large = (): Job => {
    const job = jobOf({ bank: { parallel: q(2) } });
    const many = (kinds: Parameters<typeof emptyPart>[0][], count: number, stem: string): Part[] =>
      Array.from({ length: count }, (_, i) => ({
        ...emptyPart(kinds[i % kinds.length]!, `${stem}${i}`),
        name: i % 3 ? "" : `Starboard locker ${i}`,
      }));
    job.wiring.main = many(["fuse", "isolator", "shunt", "cable", "busbar", "joints"], 14, "m");
    job.wiring.mains = many(["rcd", "changeover", "breaker", "cable"], 8, "a");
    job.wiring.branches = (["solar", "engine", "shore"] as const).map((role) => ({
      ...emptyBranch(role, role),
      parts: many(role === "shore" ? ["rcd", "breaker", "cable"] : ["fuse", "cable"], 6, role),
    }));
    return job;
  };
  it("draws forty parts without one over another", () => {
    const job = large();
    const diagram = singleLineDiagram(job, assess(job));
    expect(
      diagram.items.filter(({ path }) => /^wiring\.(main|mains|branches\.\d+\.parts)\.\d+$/.test(path)),
    ).toHaveLength(40);
    const boxes = diagram.items.map(({ x, y, ...item }) => ({
      left: x - DIAGRAM_CELL.width / 2,
      right: x + DIAGRAM_CELL.width / 2,
      top: y - 19,
      bottom: y + 20 + 14 * linesBelow(item),
    }));
    const overlaps = boxes.flatMap((a, i) =>
      boxes
        .slice(i + 1)
        .filter(
          (b) =>
            a.left < b.right - 0.01 && a.right > b.left + 0.01 && a.top < b.bottom - 0.01 && a.bottom > b.top + 0.01,
        ),
    );
    expect(overlaps).toEqual([]);
    for (const { left, right, bottom } of boxes) {
      expect(left).toBeGreaterThanOrEqual(0);
      expect(right).toBeLessThanOrEqual(diagram.width);
      expect(bottom).toBeLessThanOrEqual(diagram.height);
    }
  });
  it("keeps every line of text to its cell, and every heading off the rows", () => {
    const job = large();
    const diagram = singleLineDiagram(job, assess(job));
    for (const { titleLines, lines } of diagram.items) {
      for (const line of titleLines) expect(line.length).toBeLessThanOrEqual(16);
      for (const line of lines) expect(line.length).toBeLessThanOrEqual(18);
    }
    for (const { y } of diagram.headings)
      expect(diagram.items.some((item) => y > item.y - 19 && y - 12 < item.y + 20 + 14 * linesBelow(item))).toBe(false);
  });
  it("writes a long name whole, over several lines", () => {
    const job = jobOf({});
    job.units[0]!.name = "Rear bedroom roof unit of the owner";
    const unit = singleLineDiagram(job, assess(job)).items.find(({ symbol }) => symbol === "unit")!;
    expect(unit.titleLines).toEqual(["Rear bedroom", "roof unit of the", "owner"]);
  });
  it("marks the failing part in place, by name", () => {
    const job = jobOf({ cable: { areaMm2: q(10), length: q(6) } });
    const item = singleLineDiagram(job, assess(job)).items.find(({ path }) => path === "wiring.main.3")!;
    expect(item.word).toMatch(/Fails|Stop/);
    expect(item.fault).toMatch(/W1/);
  });
});

describe("documents of version 1", () => {
  const old = {
    format: "chillbank-rig",
    version: 1,
    name: "Old",
    notation: { temperature: "C", cable: "mm2", length: "m" },
    brief: { wording: "", place: "", month: null, mains: "230V50Hz", stance: "expected", aboard: [], loads: [] },
    units: [{ id: "u", name: "Unit", kind: "fixed", cure: "none", learned: true, fanBetween: true }],
    bank: { chemistry: "lfp", build: "batteries" },
    inverter: { type: "high-frequency", waveform: "sine", startOrder: "in-turn" },
    path: {
      fuseKind: "class-t",
      insulation: "90",
      route: "engine",
      cableAreaMm2: q(35),
      cableLength: q(2.5),
      fuseRating: q(150),
      switchResistance: q(0.0004),
      contacts: q(10),
      dropLimit: q(0.04),
    },
  };
  it("become runs of parts with the same values", () => {
    const read = readJob(old);
    expect(read).toMatchObject({ ok: true });
    if (!read.ok) return;
    expect(read.job.wiring.main).toMatchObject([
      { kind: "fuse", fuseKind: "class-t", rating: q(150) },
      { kind: "isolator", resistance: q(0.0004) },
      { kind: "cable", route: "engine", areaMm2: q(35), length: q(2.5) },
      { kind: "joints", contacts: q(10) },
    ]);
    expect(read.job.wiring.dropLimit).toEqual(q(0.04));
    expect(read.job.notation.currency).toBe("EUR");
  });
  it("without a fuse have none, and an unknown key is named", () => {
    const bare = readJob({ ...old, path: { ...old.path, fuseKind: "none" } });
    expect(bare.ok && bare.job.wiring.main.some(({ kind }) => kind === "fuse")).toBe(false);
    const wrong = readJob({ ...old, path: { ...old.path, colour: "red" } });
    expect(wrong).toMatchObject({ ok: false, faults: [{ path: "wiring", message: expect.stringMatching(/colour/) }] });
  });
});
