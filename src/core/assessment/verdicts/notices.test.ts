import { describe, expect, it } from "vitest";
import { demoJob, q, jobOf } from "../../../../tests/jobs";
import { emptyBranch, type Job } from "../../document/schema";
import { noticesShown } from "../../../../tests/notices";

const noticesOf = noticesShown;
const says = (job: Job, words: RegExp) => noticesOf(job).some(({ text }) => words.test(text));

/** A system, the change that asks for a remark, and what the remark says; without the change it must not be said. */
const REMARKS: [what: string, words: RegExp, change: (job: Job) => void][] = [
  ["a modified sine", /Modified-sine output/, (job) => (job.inverter.waveform = "modified")],
  [
    "a lithium battery in frost",
    /must not be charged/,
    (job) => Object.assign(job.bank, { chemistry: "lfp", temperatureC: q(-5) }),
  ],
  ["a charge that stops early", /the battery begins at/, (job) => (job.bank.startSoc = q(0.8))],
  [
    "batteries taken to share equally",
    /assumed to share the current equally/,
    (job) => {
      job.bank.parallel = q(3);
      job.wiring.links.layout = "busbars";
    },
  ],
  [
    "batteries whose leads differ",
    /the one with the longest leads/,
    (job) => {
      job.bank.parallel = q(2);
      job.wiring.links = {
        layout: "own-leads",
        fuses: "each",
        areaMm2: q(10),
        paths: [{ length: q(0.2) }, { length: q(3) }],
      };
    },
  ],
  [
    "wiring that measures far over its parts",
    /Look for a bad joint/,
    (job) => (job.wiring.measured = { current: q(100), bankVoltage: q(13), inverterVoltage: q(10) }),
  ],
  [
    "an unlearned soft starter",
    /has not learned/,
    (job) => Object.assign(job.units[0]!, { startAid: "soft-starter", learned: false }),
  ],
  [
    "locked-rotor amps that were measured with a start aid fitted",
    /taken as those without the start aid/,
    (job) => Object.assign(job.units[0]!, { startAid: "soft-starter", lockedRotorCurrent: q(30, "measured") }),
  ],
  ["a single duct", /single duct blows cabin air out/, (job) => (job.units[0]!.condenser = "single-duct")],
  [
    "cooling water that leaves hot",
    /fouled condenser/,
    (job) => Object.assign(job.units[0]!, { condenser: "sea", waterLeavingC: q(48, "measured") }),
  ],
  [
    "engine charging switched by the ignition",
    /drains the starter battery/,
    (job) => (job.wiring.branches = [{ ...emptyBranch("engine", "e"), control: "ignition" }]),
  ],
  [
    "an isolator through which a low battery draws more than the alternator has",
    /Through an isolator/,
    (job) => (job.wiring.branches = [{ ...emptyBranch("engine", "e"), coupling: "isolator" }]),
  ],
  [
    "DC loads on a battery of 24 V without their branch",
    /add the branch that feeds them/,
    (job) => {
      job.bank.blockVoltage = q(25.6);
      job.brief.loads = [{ id: "f", name: "Fridge", side: "dc", leg: "L1", atStart: false, power: q(50) }];
    },
  ],
  ["capacitors that spark at 48 V", /pre-charge/, (job) => (job.bank.blockVoltage = q(51.2))],
  ["batteries in series", /balance them when new/, (job) => (job.bank.series = q(2))],
  ["a boat", /ignition-protected parts/, (job) => (job.cabin.kind = "boat")],
  ["a value outside the usual range", /is outside the usual/, (job) => (job.brief.setPointC = q(10))],
  [
    "a current that no unit draws",
    /Running current 60 A is outside the usual/,
    (job) => (job.units[0]!.runningCurrent = q(60)),
  ],
];

/** A system of which none of the remarks is true. */
function plain(): Job {
  const job = jobOf({ unit: { runningCurrent: q(5), lockedRotorCurrent: q(20) } });
  job.inverter.neutralBond = "relay";
  job.bank.startSoc = q(1);
  return job;
}

describe("a remark", () => {
  it.each(REMARKS)("is made on %s, and only there", (_, words, change) => {
    expect(says(plain(), words)).toBe(false);
    const job = plain();
    change(job);
    expect(says(job, words)).toBe(true);
  });
});

describe("the usual range", () => {
  it("is no guide to what a battery of more volts or amp-hours makes larger", () => {
    const job = plain();
    Object.assign(job.bank, { capacityAh: q(4000), series: q(30), continuousCurrent: q(3000), peakCurrent: q(6000) });
    expect(says(job, /is outside the usual/)).toBe(false);
  });
});

describe("the cautions", () => {
  const cautions = (job: Job) => noticesOf(job).filter(({ kind }) => kind === "caution");
  it.each(["1-folio", "2-marionette", "3-shearwater", "4-skep", "5-lora", "6-levain"])(
    "of %s stand on every stage on which somebody can be hurt",
    (file) => {
      const stages = new Set(cautions(demoJob(file)).map(({ stage }) => stage));
      for (const stage of ["brief", "unit", "start", "wiring", "bank", "charging", "day"] as const)
        expect(stages, stage).toContain(stage);
    },
  );
  it("name what kills: mains, capacitors, the battery's short circuit, carbon monoxide, heat", () => {
    const all = cautions(plain())
      .map(({ text }) => text)
      .join(" ");
    for (const word of [/isolate/i, /lethal charge/, /thousands of amps/, /carbon monoxide/, /people/])
      expect(all).toMatch(word);
  });
  it("speak of hydrogen beside lead-acid, and of no hydrogen beside lithium", () => {
    const lead = plain();
    lead.bank.chemistry = "agm";
    expect(cautions(lead).some(({ text }) => /hydrogen/.test(text))).toBe(true);
    expect(cautions(plain()).some(({ text }) => /hydrogen/.test(text))).toBe(false);
  });
  it("name the device of the region: RCD or GFCI", () => {
    const american = jobOf({ mains: "120V60Hz" });
    expect(cautions(american).some(({ text }) => /GFCI/.test(text))).toBe(true);
    expect(cautions(plain()).some(({ text }) => /RCD/.test(text))).toBe(true);
    expect(cautions(plain()).some(({ text }) => /GFCI/.test(text))).toBe(false);
  });
});
