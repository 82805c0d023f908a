/* Lasts and Recovers by the coupled run: what they ask, what they say, and what stands beside them. */
import { noticesShown } from "../../../../tests/notices";
import { describe, expect, it } from "vitest";
import { HOUR, q, jobOf } from "../../../../tests/jobs";
import { isoOf } from "../../units/clock";
import { CSV_COLUMNS, recordAsCsv, totalsOf } from "../../simulation/day/export";
import { fromCells } from "../../simulation/day/flows";
import { PAIRS } from "../run-time-map/axes";
import { comparePair, runTimeMap } from "../run-time-map/run-time-map";
import { minutesBetween, parseTimeOfDay, timeWords } from "../../document/schedule";
import { recordOf } from "../../simulation/day/record";
import { simulate } from "../../simulation/day/simulate";
import { emptyBranch, emptyPanel, emptySpan, type PlanSpan, type Job } from "../../document/schema";
import { resolveJob } from "../../document/resolve";
import { gravestAt } from "../judge/judge";
import { stringChecks } from "../../models/charging/strings";
import { assess } from "./assess";
import { assessDay } from "./day";
import { sunrisesOf } from "../use/sunrises";

const cool = (from: number, minutes: number, setPointC = 24): PlanSpan => ({
  ...(emptySpan("unit", "u", from, minutes) as Extract<PlanSpan, { kind: "unit" }>),
  setPointC: q(setPointC),
});
interface Parts {
  amount?: number;
  panels?: number;
  from?: number;
  minutes?: number;
  stance?: Job["brief"]["stance"];
  kind?: Job["weather"]["kind"];
}
/** A system of a night's cooling with a battery and panels of some size, at Faro in July. */
function night({
  amount = 200,
  panels = 0,
  from = 1260,
  minutes = 480,
  stance = "expected",
  kind = "usual",
}: Parts = {}): Job {
  const job = jobOf({
    brief: { stance, month: 7 },
    unit: { runningCurrent: q(4) },
    bank: { capacityAh: q(amount) },
  });
  return {
    ...job,
    place: { listed: "seville", timeZone: null },
    weather: { ...job.weather, kind },
    plan: {
      start: null,
      days: 7,
      week: [],
      patterns: [{ id: "d", name: "Night", spans: minutes ? [cool(from, minutes)] : [] }],
    },
    sources: { panels: panels ? [{ ...emptyPanel("p"), power: q(panels) }] : [], controllers: [], obstacles: [] },
  };
}

describe("lasts", () => {
  it("asks for the main use of the plan", () => {
    expect(assessDay(night({ minutes: 450 })).verdicts.lasts.decides.need).toBe(450 * 60);
  });
  it("says when the reserve comes, and how far from the end", () => {
    const { words, verdicts } = assessDay(night({ amount: 100, minutes: 660 }));
    expect(verdicts.lasts.word).toBe("Fails");
    expect(words.lasts.long).toMatch(
      /^The battery reaches its 20 % reserve at \d\d:\d\d( on day 2)? if left on: .+ after switching on at 21:00\. That is .+ short of the 11 h wanted\.$/,
    );
  });
  it("says so where the reserve does not come", () => {
    const { words, verdicts } = assessDay(night({ amount: 1500, panels: 1500 }));
    expect(verdicts.lasts.word).toBe("Holds");
    expect(words.lasts.long).toBe("Left on, the battery is still above its 20 % reserve after 3 days.");
  });
  it("follows a run for longer than the hours wanted, so that its length does not decide", () => {
    const job = night({ amount: 1500, panels: 1500 });
    const week: Job = { ...job, brief: { ...job.brief, hoursWanted: q(7 * 24 * HOUR) } };
    const { verdicts, words } = assessDay(week, { range: false });
    expect(verdicts.lasts).toMatchObject({ word: "Holds", decides: { has: 9 * 24 * HOUR, hasMore: true } });
    expect(words.lasts.long).toBe("Left on, the battery is still above its 20 % reserve after 9 days.");
  });
  it("names a cut-off that comes before the reserve", () => {
    const job = night({ amount: 100 });
    const thin: Job = { ...job, inverter: { ...job.inverter, cutOffVoltage: q(12.9) } };
    expect(assessDay(thin).verdicts.lasts.decides.name).toBe("Inverter low-voltage cut-off");
  });
  it.each<[Job["brief"]["stance"], number]>([
    ["expected", 8 * HOUR],
    ["never-resting", 8 * HOUR],
    ["storage", 72 * HOUR],
  ])("by the stance %s asks for %i s", (stance, need) => {
    expect(assessDay(night({ stance })).verdicts.lasts.decides.need).toBe(need);
  });
  it("is shorter for a compressor that never rests", () => {
    const has = (stance: Job["brief"]["stance"]) => assessDay(night({ stance })).verdicts.lasts.decides.has;
    expect(has("never-resting")).toBeLessThan(has("expected"));
  });
  it("carries its range: a hot day is shorter than a mild one, the usual between", () => {
    const { range, verdicts } = assessDay(night({ amount: 200 }));
    expect(range!.lasts.hot.seconds).toBeLessThan(verdicts.lasts.decides.has);
    expect(range!.lasts.mild.seconds).toBeGreaterThan(verdicts.lasts.decides.has);
  });
  it("holds where nothing is cooled, and says that", () => {
    const { verdicts, words } = assessDay(night({ minutes: 0 }));
    expect(verdicts.lasts.word).toBe("Holds");
    expect(words.lasts.long).toBe("The plan of the day has no cooling.");
  });
  it("holds for any number of days of storage where nothing is cooled", () => {
    const job = night({ minutes: 0, stance: "storage" });
    const long: Job = { ...job, plan: { ...job.plan, storageDays: q(14) } };
    expect(assessDay(long, { range: false }).verdicts.lasts).toMatchObject({
      word: "Holds",
      decides: { hasMore: true },
    });
  });
});

describe("recovers", () => {
  it("fails without anything that charges, and says what is missing", () => {
    const { verdicts, words, missing, figures } = assessDay(night({ amount: 400 }));
    expect(verdicts.recovers).toMatchObject({ word: "Fails", decides: { name: "Energy a day", has: 0 } });
    expect(verdicts.recovers.decides.need).toBeCloseTo(missing!, 9);
    expect(words.recovers.long).toMatch(/reaches its 20 % reserve on the \d(st|nd|rd|th) night\. .+ a day is missing/);
    // What is missing is what is drawn: nothing else comes in.
    expect(missing! / figures["day.out"]!.value).toBeGreaterThan(0.8);
  });
  it("holds with sun enough, and says by when it is full", () => {
    const { verdicts, words, trend, missing } = assessDay(night({ amount: 400, panels: 1600 }));
    expect(verdicts.recovers.word).toBe("Holds");
    expect(words.recovers.long).toMatch(
      /^The battery is full again by 1\d:\d0 on most days; its lowest charge at sunrise is \d\d %\.$/,
    );
    expect(trend.fullAt! / HOUR).toBeGreaterThan(8);
    expect(missing).toBe(0);
  });
  it("sinks day after day until the night it names", () => {
    const { trend, words, figures } = assessDay(night({ amount: 600, panels: 400 }));
    const charges = trend.sunrises.map(({ share }) => share);
    expect(charges[1]!).toBeLessThan(charges[0]!);
    const before = charges.filter((_, i) => trend.sunrises[i]!.at < trend.reserveAt!).length;
    expect(words.recovers.long).toMatch(
      new RegExp(`on the ${Math.floor(trend.reserveAt! / 86_400) + 1}(st|nd|rd|th) night`),
    );
    expect(before).toBeGreaterThanOrEqual(1);
    expect(figures["day.in"]!.value).toBeLessThan(figures["day.out"]!.value);
  });
  it("has a sunrise for each day", () => {
    const simulated = simulate(night(), { days: 5, minuteOfDay: 720 });
    const sunrises = sunrisesOf(simulated);
    const record = recordOf(simulated);
    expect(sunrises).toHaveLength(5);
    for (const { at } of sunrises) expect(isoOf(record.clock, at).slice(11, 13)).toBe("07");
  });
  it("has its sunrises at six in polar night", () => {
    const job: Job = {
      ...night(),
      place: { listed: null, timeZone: "Europe/Oslo", latitude: q(71), longitude: q(25) },
      plan: { ...night().plan, start: "2026-12-15" },
    };
    expect(sunrisesOf(simulate(job, { days: 3, minuteOfDay: 720 }))).toHaveLength(3);
  });
  it("more panels never leave less at sunrise", () => {
    const charge = (panels: number) => {
      const { sunrises } = assessDay(night({ amount: 400, panels }), { range: false }).trend;
      return sunrises.reduce((sum, { share }) => sum + share, 0) / sunrises.length;
    };
    const levels = [200, 400, 800, 1600].map(charge);
    for (let i = 1; i < levels.length; i++) expect(levels[i]!).toBeGreaterThanOrEqual(levels[i - 1]! - 0.001);
  });
});

describe("beside the verdicts", () => {
  it("the average day adds up to the day's figures", () => {
    const { average, figures } = assessDay(night({ panels: 600 }));
    const sum = (list: number[]) => list.reduce((a, b) => a + b);
    const into = sum(average.solar) + sum(average.engine) + sum(average.shore) + sum(average.generator);
    const out = sum(average.units) + sum(average.loads) + sum(average.losses);
    expect(into / figures["day.in"]!.value).toBeCloseTo(1, 2);
    expect(out / figures["day.out"]!.value).toBeCloseTo(1, 2);
  });
  it("ageing is the charge that went through the battery over what it lives for", () => {
    const job = night({ amount: 200, panels: 800 });
    const { figures } = assessDay({
      ...job,
      plan: { ...job.plan, cycleLife: q(1000), bankCost: q(2000) },
    });
    expect(figures["day.cost"]!.value).toBeCloseTo((figures["day.cycles"]!.value / 1000) * 2000, 9);
    expect(figures["day.cycles"]!.value).toBeGreaterThan(0.05);
  });
  it("the old rule counts amp-hours at 12 V", () => {
    const job = night({ amount: 200, panels: 300 });
    expect(assessDay(job).oldRule).toEqual({ panels: 300, wanted: 200 });
    const twice = { ...job, bank: { ...job.bank, blockVoltage: q(25.6) } };
    expect(assessDay(twice).oldRule.wanted).toBeCloseTo(400, 6);
  });
  it("at every step what comes in is what goes out", () => {
    const record = recordOf(simulate(night({ panels: 600 }), { days: 1, minuteOfDay: 720 }));
    // The cells' side is what closes it: watts out of them, less their loss, are the terminals' volts times amps.
    for (let k = 0; k < record.steps; k += 53) {
      const terminals = record.bankVolts[k]! * record.bankCurrent[k]!;
      const cells = fromCells(record, k);
      expect(Math.abs(cells - terminals)).toBeLessThan(20 + 0.08 * Math.abs(terminals));
    }
  });
  it("the same document gives the same answer, whatever ran before", () => {
    const job = night({ panels: 500, kind: "generated" });
    const first = assessDay(job);
    assessDay(night({ amount: 900, kind: "hot" }));
    expect(assessDay(job).verdicts).toEqual(first.verdicts);
  });
});

describe("pairs in the same cabin", () => {
  const base = night({ amount: 1500, panels: 300, from: 900, minutes: 900 });
  const first = (key: (typeof PAIRS)[number]["key"]) => comparePair(base, key);
  it("26 °C asks less of the unit than 22 °C", () => {
    const [cold, warm] = first("set");
    expect(warm.totals.units).toBeLessThan(0.9 * cold.totals.units);
    expect(warm.lasts).toBeGreaterThan(cold.lasts);
  });
  it("an awning asks less than none", () => {
    const [awning, none] = first("awning");
    expect(awning.totals.units).toBeLessThan(none.totals.units);
  });
  it("a large unit runs less of the time than a small one", () => {
    const [small, large] = first("size");
    expect(large.totals.secondsCompressor).toBeLessThan(small.totals.secondsCompressor);
  });
  it("low fan is no colder than automatic", () => {
    const [low, auto] = first("fan");
    expect(low.totals.degreeHoursMissed).toBeGreaterThanOrEqual(auto.totals.degreeHoursMissed - 0.2);
  });
  it("a fan that stops between runs saves", () => {
    const [stops, goes] = first("between");
    expect(stops.totals.units).toBeLessThan(goes.totals.units);
  });
  it("more panels last no shorter", () => {
    const [as, more] = first("panels");
    expect(more.lasts).toBeGreaterThanOrEqual(as.lasts);
  });
  it("leaves the document alone, a plan that was only assumed too", () => {
    const job = { ...base, plan: { ...base.plan, patterns: [] } };
    const before = JSON.stringify(job);
    for (const { key } of PAIRS) comparePair(job, key);
    expect(JSON.stringify(job)).toBe(before);
  });
});

describe("run-time map", () => {
  it("hours fall with the day's heat and rise with the set point; progress is told", async () => {
    const told: number[] = [];
    const map = (await runTimeMap(night({ amount: 150 }), (share) => told.push(share) > 0))!;
    expect(told[told.length - 1]).toBe(1);
    const cell = (o: number, s: number) => map.seconds[o]![s]!;
    const [hot, high] = [map.outdoorC.length - 1, map.setPointC.length - 1];
    expect(cell(hot, 4)).toBeLessThan(cell(0, 4));
    expect(cell(hot, high)).toBeGreaterThan(cell(hot, 0));
  });
  it("stops where it is told to", async () => {
    let calls = 0;
    expect(await runTimeMap(night(), () => ++calls < 2)).toBeNull();
    expect(calls).toBe(2);
  });
});

describe("strings and controllers", () => {
  const listed = (panel: Partial<ReturnType<typeof emptyPanel>>, maxVoltage = 100, current = 40): Job => ({
    ...jobOf({ bank: { chargeToVoltage: q(14.2) } }),
    place: { listed: "faro", timeZone: null },
    sources: {
      panels: [{ ...emptyPanel("p"), power: q(400), ...panel }],
      controllers: [{ id: "c", name: "C", stringFuses: "unsaid", maxVoltage: q(maxVoltage), current: q(current) }],
      obstacles: [],
    },
  });
  const check = (...as: Parameters<typeof listed>) => {
    const job = listed(...as);
    return stringChecks(job, resolveJob(job), 14.2)[0]!;
  };
  it("a cold morning lifts a string past what its controller bears", () => {
    const { coldVoltage, maxVoltage } = check({ openVoltage: q(49), series: q(2), count: q(2) });
    expect(coldVoltage).toBeGreaterThan(98);
    expect(coldVoltage).toBeGreaterThan(maxVoltage);
  });
  const judged = (about: RegExp, panel: Parameters<typeof listed>[0]) =>
    assess(listed(panel)).verdicts.carries.checks.find(({ by, name }) => by === "solar-strings" && about.test(name))
      ?.word;
  it("one 36-cell panel charges a 12 V battery, none of half its volts does", () => {
    expect(judged(/volts of the strings/, { openVoltage: q(23), series: q(1) })).toBe("Holds");
    expect(judged(/volts of the strings/, { openVoltage: q(12), series: q(1) })).toBe("Fails");
  });
  // Seven tenths and two hundredths of its open volts against 14.2 V to charge to and one more for the tracker.
  it.each([
    ["below it gives nothing", 1, 21, false],
    ["above it charges", 1, 21.2, true],
    ["below it in series with another charges", 2, 21, true],
  ])("a string %s, in Carries and in the run", (_, series, openVoltage, charges) => {
    const panel = { openVoltage: q(openVoltage), series: q(series), count: q(series) };
    expect(judged(/volts of the strings/, panel)).toBe(charges ? "Holds" : "Fails");
    const { run } = simulate(listed(panel), { days: 1, minuteOfDay: 0 });
    expect(run.totals.solarUsed + run.totals.solarLost > 0).toBe(charges);
    // Where no controller is listed the panels are taken to suit.
    const bare = listed(panel);
    const suits = simulate({ ...bare, sources: { ...bare.sources, controllers: [] } }, { days: 1, minuteOfDay: 0 }).run;
    expect(suits.totals.solarUsed + suits.totals.solarLost).toBeGreaterThan(0);
  });
  it("three panels do not make strings of two, and the odd one gives nothing", () => {
    expect(judged(/whole strings/, { series: q(2), count: q(3) })).toBe("Fails");
    const given = (count: number) => {
      const { totals } = simulate(listed({ openVoltage: q(24), series: q(2), count: q(count), power: q(100) }), {
        days: 1,
        minuteOfDay: 0,
      }).run;
      return totals.solarUsed + totals.solarLost;
    };
    expect(given(3)).toBeCloseTo(given(2), 6);
  });
  it("each controller has the gravest word of its own checks beside it", () => {
    const job = listed({ openVoltage: q(12), series: q(1) });
    const { at } = check({ openVoltage: q(12), series: q(1) });
    expect(gravestAt(assess(job).verdicts.carries.checks, at)?.word).toBe("Fails");
  });
  // The panels of the first group stay; a second group of other volts lies beside them on one controller, or on its own.
  it.each([
    ["alike", 2, 1, 1],
    ["a third lower: what the voltage of the lower leaves of the higher", 3, 0.8, 0.85],
    ["a quarter of the volts: the low one gives nothing", 8, 0.75, 0.95],
  ])("two groups of strings, the second %s", (_, longer, least, most) => {
    const job = (own: boolean) => {
      const made = listed({ openVoltage: q(23), series: q(2), count: q(2), power: q(100) }, 250, 200);
      const { sources } = made;
      const other = { ...emptyPanel("p2"), openVoltage: q(23), power: q(100), series: q(longer), count: q(longer) };
      const beside = { ...sources.controllers[0]!, id: "c2" };
      return {
        ...made,
        sources: {
          ...sources,
          panels: [...sources.panels, own ? { ...other, controllerId: "c2" } : other],
          controllers: own ? [...sources.controllers, beside] : sources.controllers,
        },
      };
    };
    const given = (own: boolean) => {
      const { totals } = simulate(job(own), { days: 1, minuteOfDay: 0, noOverload: true }).run;
      return totals.solarUsed + totals.solarLost;
    };
    const share = given(false) / given(true);
    expect(share).toBeGreaterThanOrEqual(least - 1e-9);
    expect(share).toBeLessThanOrEqual(most + 1e-9);
    // The table beside the controller says the same share.
    const { passes } = stringChecks(job(false), resolveJob(job(false)), 14.2)[0]!;
    expect(passes).toBeCloseTo(share, 6);
  });
  it("shade on the roof takes from the run what it takes from the table", () => {
    const given = (shaded: number) => {
      const panel = { openVoltage: q(23), series: q(3), count: q(3), shaded: q(shaded) };
      const { totals } = simulate(listed(panel, 150, 200), { days: 1, minuteOfDay: 0 }).run;
      return [totals.solarUsed + totals.solarLost, check(panel).passes] as const;
    };
    const [[clear, all], [shaded, passes]] = [given(0), given(0.1)];
    expect(all).toBe(1);
    expect(passes).toBeCloseTo(shaded / clear, 6);
    expect(passes).toBeCloseTo(0.8, 6);
  });
  it("names the amps that would be cut off", () => {
    const { current, limit } = check({ count: q(3) });
    expect(current).toBeCloseTo(1200 / 14.2, 6);
    expect(limit).toBe(40);
  });
});

describe("times of a plan", () => {
  it.each<[string, number | null]>([
    ["22:30", 1350],
    ["2230", 1350],
    ["7.30", 450],
    ["7", 420],
    ["10 pm", 1320],
    ["12am", 0],
    ["24:00", 0],
    ["25:00", null],
    ["13 pm", null],
    ["noon", null],
    ["", null],
  ])("%j is minute %s", (text, minutes) => {
    expect(parseTimeOfDay(text)).toBe(minutes);
  });
  it.each([
    [1320, 360, 480],
    [360, 1320, 960],
    [600, 600, 1440],
    [0, 1, 1],
  ])("from minute %i to %i is %i minutes", (from, to, minutes) => {
    expect(minutesBetween(from, to)).toBe(minutes);
  });
  it("are written as they are read", () => {
    for (const minute of [0, 61, 1439]) expect(parseTimeOfDay(timeWords(minute))).toBe(minute);
    expect(timeWords(1500)).toBe("01:00");
  });
});

describe("the record as a file", () => {
  const record = recordOf(simulate(night({ panels: 300 }), { days: 2, minuteOfDay: 720 }));
  const lines = recordAsCsv(record, 1).trimEnd().split("\r\n");
  it("has its columns, and a line a minute with its time", () => {
    expect(lines[0]).toBe(CSV_COLUMNS.join(","));
    expect(lines).toHaveLength(1441);
    expect(lines[1]).toMatch(/^2026-07-15T12:00\+02:00,/);
    for (const line of lines) expect(line.split(",")).toHaveLength(CSV_COLUMNS.length);
  });
  it("leaves a set point empty where nothing is asked to cool", () => {
    const column = CSV_COLUMNS.indexOf("set_point_degC");
    expect(lines[1]!.split(",")[column]).toBe("");
    expect(lines[600]!.split(",")[column]).toBe("24");
  });
  it("totals balance to 0.1 %", () => {
    const t = totalsOf(record);
    const into = t.solar_J! + t.engine_J! + t.shore_J! + t.generator_J! + t.from_store_J!;
    const out = t.units_J! + t.loads_J! + t.losses_J!;
    expect(Math.abs(into / out - 1)).toBeLessThan(0.001);
  });
});

it("a system that fails to start is still judged on lasting: the two questions are apart", () => {
  const job = night({ amount: 300 });
  const weak = { ...job, inverter: { ...job.inverter, rating: q(500) } };
  expect(assess(weak).verdicts.starts.word).toBe("Fails");
  expect(assessDay(weak).verdicts.lasts.decides.has).toBeGreaterThan(2 * HOUR);
});

describe("remarks and cautions of sources and day", () => {
  const texts = (job: Job, stage: string) =>
    noticesShown(job)
      .filter((notice) => notice.stage === stage)
      .map(({ text }) => text)
      .join("\n");
  const engine = (parts: Partial<ReturnType<typeof emptyBranch>> = {}): Job => {
    const job = night();
    return {
      ...job,
      wiring: { ...job.wiring, branches: [{ ...emptyBranch("engine", "e"), current: q(60), ...parts }] },
    };
  };
  it.each<[string, Job, string, RegExp]>([
    [
      "a charging circuit beyond what the hot alternator has",
      engine(),
      "charging",
      /When hot, the alternator has 54 A to spare/,
    ],
    [
      "an isolator that lets a lithium battery take all",
      engine({ coupling: "isolator" }),
      "charging",
      /Through an isolator/,
    ],
    ["charging on the ignition", engine({ control: "ignition" }), "charging", /running engine, not by the ignition/],
    [
      "a single duct",
      { ...night(), units: [{ ...night().units[0]!, condenser: "single-duct" }] },
      "unit",
      /single duct/,
    ],
    ["roof work", night(), "charging", /Roof work: fall/],
    ["carbon monoxide", night(), "charging", /carbon monoxide/],
    ["living things on board", night(), "day", /supervision and an alarm/],
  ])("speaks of %s", (_, job, stage, expected) => {
    expect(texts(job, stage)).toMatch(expected);
  });
  it("is silent about a converter within what the alternator has", () => {
    expect(texts(engine({ current: q(30) }), "charging")).not.toMatch(/alternator has/);
  });
  it("speaks of sea-cocks on boats only", () => {
    const boat = { ...night(), cabin: { ...night().cabin, kind: "boat" as const } };
    expect(texts(boat, "charging")).toMatch(/sea-cocks/);
    expect(texts(night(), "charging")).not.toMatch(/sea-cocks/);
  });
});
