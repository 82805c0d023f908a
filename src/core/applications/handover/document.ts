import { clauseOf } from "../../assessment/rules/rules";
import { allCircuits } from "../../models/wiring/circuits";
import type { Check, Verdict } from "../../assessment/judge/judge";
import type { VerdictWord } from "../../assessment/judge/word";
import { NOT_CHECKED } from "../../assessment/rules/not-checked";
import { MAINS_SYSTEMS } from "../../reference/standards/mains";
import { causeName, readingLabel, symptomName } from "../fault-finding/words";
import { CAUTIONS, type CautionKey } from "../fault-finding/cautions";
import { READINGS, readingSpec, type Bench, type ReadingKey } from "../fault-finding/readings";
import { timeWords } from "../../document/schedule";
import { formatNeedsHas, formatQuantity, significant } from "../../units/format";
import type { Job } from "../../document/schema";
import { workingAsText } from "../../units/trace";
import { assess, type Assessment } from "../../assessment/verdicts/assess";
import { within } from "../../assessment/verdicts/lasts";
import { assessDay, type DayAssessment } from "../../assessment/verdicts/day";
import { heldAgainst, type Outcome, type ForecastSnapshot } from "../test-run/report/record";
import { adviceOf, cardSteps, cardWords, CARD_MODES, drained, type Card } from "./card";
import { dayOfFollowUps, everyWords, followUps } from "./follow-ups";
import { partRows, partsList, PARTS_HEADER } from "./parts-list";
import { heading, list, photosOf, table, text, type Block } from "./blocks";
import { runSheet } from "./commissioning";
import { inspectionProgress, inspectionSheet } from "./inspection";
import { inspectionBlocks } from "./inspection-section";
import { documentState, failedSafety, type DocumentState } from "./state";
import { say } from "../../messages/say";
import { fixedSpeed } from "../../document/unit-kinds";

export type { Block } from "./blocks";

export interface Section {
  key: SectionKey;
  title: string;
  blocks: Block[];
}

export const SECTIONS = {
  stops: "Stops",
  state: "What this document is",
  card: "Customer’s card",
  design: "Design",
  verdicts: "Verdicts with working",
  parts: "Parts list",
  settings: "Settings",
  measurements: "Measurements",
  inspection: "Inspection",
  followUps: "Follow-up checks",
  cautions: "Cautions",
  notChecked: "What is not checked",
  signed: "Signed",
} as const;
export type SectionKey = keyof typeof SECTIONS;
/** What cannot be left off a handover document. */
export const LOCKED: readonly SectionKey[] = ["stops", "state", "cautions", "notChecked"];

/** A handover document: what is handed over with a system. Every number in it is the assessment's. */
export interface HandoverDocument {
  name: string;
  /** Revision of the job and the day that it is of. */
  revision: number;
  date: string;
  sections: Section[];
}

export interface HandoverSource {
  job: Job;
  assessment: Assessment;
  day: Pick<DayAssessment, "verdicts" | "figures" | "words">;
  card: Card;
  runs: readonly MeasuredRun[];
}

/** A test run as a handover document tells it: what was promised while it ran, and what happened. */
export interface MeasuredRun {
  name: string;
  kind: string;
  startedMs: number;
  finishedMs: number | null;
  snapshots: readonly ForecastSnapshot[];
  outcome: Outcome | null;
}

/** Everything that a handover document of a system is made of, worked out a piece at a time: each step gives the share that is done. */
export function* packSteps(job: Job, runs: readonly MeasuredRun[] = []): Generator<number, HandoverSource> {
  const assessment = assess(job);
  const { verdicts, figures, words } = assessDay(job);
  yield 0.1;
  const cells = cardSteps(job);
  let cell = cells.next();
  for (; !cell.done; cell = cells.next()) yield 0.1 + 0.9 * cell.value;
  const oldestFirst = [...runs].sort((a, b) => a.startedMs - b.startedMs || (a.name < b.name ? -1 : 1));
  return { job, assessment, day: { verdicts, figures, words }, card: cell.value, runs: oldestFirst };
}

/** The same, all at once. */
export const handoverSource = (job: Job, runs: readonly MeasuredRun[] = []): HandoverSource =>
  drained(packSteps(job, runs));

const MODE_WORDS = { auto: "Cooling at the set point", low: "Cooling, low fan", fan: "Fan only" } as const;
const DAY_WORDS = { mild: "mild day", usual: "typical day", hot: "hot day", own: "design day" } as const;

function cardBlocks({ job, card, day }: HandoverSource): Block[] {
  const { document } = job.handover;
  const advice = adviceOf(job, card);
  const head = ["", ...card.days.map((one) => DAY_WORDS[one])];
  const right = card.days.map((_, index) => index + 1);
  const rows = (hours: Card["withSun"]) =>
    CARD_MODES.map((mode) => [MODE_WORDS[mode], ...card.days.map((one) => cardWords(hours[mode][one]!))]);
  const degrees = formatQuantity(card.setPointC, "temperature", job.notation, 3);
  return [
    text(say("handover.fullBatterySwitchedLeft", { from: timeWords(card.from), degrees })),
    ...(card.panels ? [heading("With sun on the panels"), ...table(head, rows(card.withSun), right)] : []),
    heading(card.panels ? "Without sun" : "On the battery alone"),
    ...table(head, rows(card.withoutSun), right),
    text(`As planned: ${day.words.lasts.long} Day after day: ${day.words.recovers.long}`),
    heading("Do"),
    ...list(advice.does),
    heading("Do not"),
    ...list(advice.nots),
    ...(document.advice.trim() ? [heading("From the installer"), text(document.advice.trim())] : []),
    heading("Where the switches are"),
    text(document.switches.trim() || say("handover.notWrittenDownYet")),
  ];
}

/** Levels of working beneath the one that decides: down to what was entered or assumed, for most. */
const WORKING_LEVELS = 2;

const pairOf = (job: Job, one: Check) => formatNeedsHas(one, job.notation);
const verdictsOf = ({ assessment, day }: HandoverSource): Verdict<VerdictWord>[] => [
  assessment.verdicts.starts,
  assessment.verdicts.carries,
  day.verdicts.lasts,
  day.verdicts.recovers,
];

/** Checks of all four verdicts that are a stop. */
const stopsOf = (source: HandoverSource): Check[] =>
  verdictsOf(source).flatMap(({ checks }) => checks.filter(({ word }) => word === "Stop"));

/** Stops of all four verdicts, by name with their reason, and the safety steps that failed in commissioning. */
function stopBlocks(source: HandoverSource): Block[] {
  const { job } = source;
  const failed = failedSafety(runSheet(source), job.handover.steps).map(({ key, title }) => {
    const reason = job.handover.steps.find(({ step }) => step === key)?.reason;
    return `Not passed: ${title}.${reason ? ` ${reason}` : ""}`;
  });
  const stops = stopsOf(source).map((one) => `${one.name}: ${one.remark} (${pairOf(job, one)})`);
  return stops.length + failed.length === 0
    ? []
    : [text(say("handover.doNotUseSystem")), ...list([...new Set([...failed, ...stops])], "stop")];
}

function stateOf(source: HandoverSource): DocumentState {
  const { steps } = source.job.handover;
  const wrong = inspectionProgress(inspectionSheet(source), steps).failed.length > 0;
  return documentState(runSheet(source), steps, wrong || stopsOf(source).length > 0);
}

/** What the document is, and what of the run sheet did not pass. */
function stateBlocks(source: HandoverSource): Block[] {
  const { job } = source;
  const state = stateOf(source);
  const failed = runSheet(source).filter(
    ({ key }) => job.handover.steps.find(({ step }) => step === key)?.passed === false,
  );
  return [
    heading(state),
    text(say(STATE_SENTENCES[state])),
    ...list([
      ...failed.map(({ title }) => `Not passed: ${title}`),
      ...inspectionProgress(inspectionSheet(source), job.handover.steps).failed.map(
        ({ title }) => `Not right at the inspection: ${title}`,
      ),
    ]),
  ];
}

const STATE_SENTENCES = {
  Design: "handover.isDesign",
  "Being fitted": "handover.isBeingFitted",
  Commissioned: "handover.isCommissioned",
  "Commissioned with faults": "handover.isCommissionedWithFaults",
} as const satisfies Record<DocumentState, string>;

function designBlocks({ job, assessment }: HandoverSource): Block[] {
  const { values } = assessment;
  const said = (value: number, dimension: Parameters<typeof formatQuantity>[1]) =>
    formatQuantity(value, dimension, job.notation);
  const rows = [
    ["Place", [job.brief.place, MAINS_SYSTEMS[job.brief.mains].label].filter(Boolean).join(", ")],
    [
      "Rules",
      `${assessment.wiring.rules.name}: ${assessment.wiring.rules.standards.ac}; ${assessment.wiring.rules.standards.dc}`,
    ],
    [
      "Battery",
      `${Math.round(values.bank.series.value * values.bank.parallel.value)} × ${said(values.bank.capacityAh.value, "charge")}, ${said(values.bank.blockVoltage.value * values.bank.series.value, "voltage")}`,
    ],
    ...(assessment.compartment
      ? [
          [
            "Inverter",
            `${Math.round(values.inverter.count.value)} × ${said(values.inverter.rating.value, "apparentPower")}`,
          ],
        ]
      : []),
    ...job.units.map((unit, i) => [
      unit.name,
      `${said(values.units[i]!.runningCurrent.value, "current")} running, ${said(values.units[i]!.coolingPower.value, "cooling")} of cooling`,
    ]),
    ...job.sources.panels.map((panel, i) => [
      panel.name,
      `${Math.round(values.sources.panels[i]!.count.value)} × ${said(values.sources.panels[i]!.power.value, "power")}`,
    ]),
  ];
  return [...table(["", ""], rows), { kind: "plan" }];
}

function verdictBlocks(source: HandoverSource): Block[] {
  const { job, assessment, day } = source;
  const figures = { ...assessment.figures, ...day.figures };
  return verdictsOf(source).flatMap((verdict): Block[] => {
    const { name, word, decides, checks } = verdict;
    const workings = [decides.demand.key, decides.limit.key]
      .filter((key, at, all) => all.indexOf(key) === at)
      .map((key) => workingAsText(figures, key, job.notation, WORKING_LEVELS));
    return [
      heading(
        `${name}: ${word}, ${word === "Choose a place" ? assessment.conditions.line : `${pairOf(job, decides)}, decided by ${within(decides.name)}`}`,
      ),
      ...table(
        ["", "check", "needs and has", "", "by"],
        checks.map((one) => [one.word, one.name, pairOf(job, one), one.remark, clauseOf(one, assessment.wiring.rules)]),
        [2],
      ),
      ...workings.filter(Boolean).map((text) => ({ kind: "working", text }) as const),
    ];
  });
}

function settingBlocks({ job, assessment, card }: HandoverSource): Block[] {
  const { values } = assessment;
  const bench: Bench = { job, assessment };
  const said = (value: number, dimension: Parameters<typeof formatQuantity>[1]) =>
    formatQuantity(value, dimension, job.notation);
  const expected = (reading: ReadingKey) => readingSpec(reading).expected(bench);
  const rows: string[][] = [];
  const put = (where: string, what: string, value: string | null) => value !== null && rows.push([where, what, value]);
  const monitor = expected("monitorSetting");
  put("Monitor", "Capacity", monitor === null ? null : said(monitor, "charge"));
  put("Monitor", "Alarm at", said(values.bank.reserve.value, "ratio"));
  if (assessment.compartment) {
    put("Inverter", "Low-voltage cut-off", said(values.inverter.cutOffVoltage.value, "voltage"));
    put("Inverter", "Cut-off delay", said(values.inverter.cutOffDelay.value, "duration"));
    put("Inverter", "Economy or search mode", "off");
  }
  const volts = expected("controllerVolts");
  put("Chargers", "Absorption, usual for the chemistry", volts === null ? null : said(volts, "voltage"));
  job.wiring.branches.forEach((branch, i) => {
    if (branch.role === "engine" || branch.role === "charger" || branch.role === "solar")
      put(branch.name, "Max current", said(values.wiring.branches[i]!.current.value, "current"));
  });
  // Of the battery's own protection where it can be set, and of every fuse and breaker with a number of its own.
  const protection = job.bank.chemistry === "agm" ? "Battery limits" : "BMS";
  put(protection, "Discharge, continuous, each battery", said(values.bank.continuousCurrent.value, "current"));
  put(protection, "Low-voltage stop", said(values.bank.stopVoltage.value, "voltage"));
  put(protection, "Charging ends at", said(values.bank.chargeToVoltage.value, "voltage"));
  if (job.bank.chemistry !== "agm")
    put(protection, "Charging below freezing", job.bank.frostBlock ? "blocked" : "not blocked: take care of it");
  if (assessment.compartment && job.inverter.neutralBond !== "unsaid")
    put("Inverter", `Neutral to ${assessment.wiring.rules.earth}`, BOND_WORDS[job.inverter.neutralBond]);
  if (job.inverter.combined) put("Inverter", "Supply limit", said(values.inverter.inletLimit.value, "current"));
  if (job.supplies.generatorAuto)
    put(
      "Generator",
      "Starts at, stops at",
      `${said(values.supplies.startAt.value, "ratio")}, ${said(values.supplies.stopAt.value, "ratio")}`,
    );
  for (const circuit of allCircuits(assessment.wiring, assessment.compartment !== null))
    for (const { part, values: own, mark } of circuit.parts)
      if (part.kind === "fuse" || part.kind === "breaker" || part.kind === "rcd")
        put(circuit.title, `${mark}, rating`, said(own.rating!.value, "current"));
  // The set point of the card: what was promised is what is set.
  job.units.forEach((unit) => {
    put(unit.name, "Set point as promised", formatQuantity(card.setPointC, "temperature", job.notation, 3));
    if (fixedSpeed(unit)) put(unit.name, "Rest before a restart", "5 min");
  });
  return [...table(["where", "what", "value"], rows, [2]), text(say("handover.makersOwnSettingsCome"), true)];
}

const BOND_WORDS = {
  relay: "bonded by its relay while it feeds",
  fixed: "fixed bond",
  none: "not bonded",
} as const;

const isReading = (key: string): key is ReadingKey => Object.hasOwn(READINGS, key);

const hoursWords = (hours: number | null) => (hours === null ? "over 48 h" : `${significant(hours, 2)} h`);
const percentWords = (share: number) => `${Math.round(100 * share)} %`;

/** Test runs: each forecast as it was given, and what came of it. */
function runBlocks(runs: readonly MeasuredRun[]): Block[] {
  return runs.flatMap(({ name, kind, startedMs, finishedMs, snapshots, outcome }): Block[] => {
    const held = heldAgainst(kind, snapshots, outcome);
    const end =
      finishedMs === null
        ? say("handover.stillUnderWay")
        : typeof outcome?.reserveH === "number"
          ? say("handover.reserveAfter", { reserveH: hoursWords(outcome.reserveH) })
          : say("handover.endedBeforeReserve", {
              value: typeof outcome?.endSoc === "number" ? `, with ${percentWords(outcome.endSoc)} left` : "",
            });
    const rows = snapshots.map(({ minutes, toReserve }) => {
      const own = held.find((one) => one.minutes === minutes);
      return [
        `${minutes} min`,
        `${hoursWords(toReserve.p10)} to ${hoursWords(toReserve.p90)}`,
        hoursWords(toReserve.p50),
        own ? hoursWords(own.left) : "",
        own ? `${own.error > 0 ? "+" : "−"}${percentWords(Math.abs(own.error))}` : "",
      ];
    });
    return [
      heading(`Run of ${new Date(startedMs).toISOString().slice(0, 10)}: ${name}`),
      text(end),
      ...table(["after", "to reserve, 8 of 10", "middle", "it was", "off by"], rows, [1, 2, 3, 4]),
    ];
  });
}

function measurementBlocks({ job, assessment, runs }: HandoverSource): Block[] {
  const bench: Bench = { job, assessment };
  const steps = runSheet(bench);
  const rows = job.handover.steps.flatMap((done) => {
    const step = steps.find(({ key }) => key === done.step);
    if (!step || done.passed === null) return [];
    const whole = done.fields.length === step.fields.length && done.fields.every((one) => one !== null);
    const said = (value: number) => (step.target ? formatQuantity(value, step.target.dimension, job.notation) : "");
    return [
      [
        step.title,
        step.target && whole ? said(step.value(done.fields as number[])) : "",
        step.target ? said(step.target.value) : "",
        done.passed ? "pass" : "not",
        [done.reason, done.by, done.at?.slice(0, 10)].filter(Boolean).join(", "),
      ],
    ];
  });
  const findings = job.handover.findings.flatMap(({ at, cause, note, before, after, by, symptoms }): Block[] => {
    const name = causeName(cause, job);
    const told = symptoms.map((key) => symptomName(key, job)).join("; ");
    const read = before.flatMap(({ reading, fields }) => {
      if (!isReading(reading)) return [];
      const spec = readingSpec(reading);
      const then = after.find((one) => one.reading === reading);
      const said = (value: number) =>
        spec.scale === "yes" ? (value > 0.5 ? "yes" : "no") : formatQuantity(value, spec.dimension, job.notation);
      return [[readingLabel(reading, job), said(spec.value(fields)), then ? said(spec.value(then.fields)) : ""]];
    });
    return [
      heading(`Found ${at.slice(0, 10)}: ${name}`),
      text([told, note, by].filter(Boolean).join(". ")),
      ...table(["reading", "before", "after"], read, [1, 2]),
    ];
  });
  const ran = runBlocks(runs);
  const photos = photosOf(steps, job.handover.steps);
  return rows.length + photos.length + findings.length + ran.length === 0
    ? [text(say("handover.nothingMeasuredYetRun"))]
    : [
        ...(rows.length + photos.length > 0
          ? [heading("Commissioning"), ...table(["step", "read", "expected", "", ""], rows, [1, 2]), ...photos]
          : []),
        ...ran,
        ...findings,
      ];
}

function followUpBlocks(source: HandoverSource, date: string): Block[] {
  const bench: Bench = source;
  const from = dayOfFollowUps(source.job, date);
  const rows = followUps(bench, from).map(({ title, what, first, every }) => [title, what, first, everyWords(every)]);
  return table(["check", "what", "first on", "then"], rows, [2]);
}

/** Cautions of a system: those of every system, and those of what it has. */
function cautionBlocks({ job, assessment }: HandoverSource): Block[] {
  const lithium = job.bank.chemistry !== "agm";
  const keys: CautionKey[] = [
    "estimate",
    "isolate",
    "bank",
    ...(job.units.some(fixedSpeed) ? (["capacitor"] as const) : []),
    "bypass",
    ...(assessment.compartment ? (["mains"] as const) : []),
    "refrigerant",
    ...(job.sources.panels.length > 0 ? (["roof"] as const) : []),
    "heat",
    "carbon",
    ...(job.units.some(({ condenser }) => condenser === "sea") || job.cabin.kind === "boat"
      ? (["afloat"] as const)
      : []),
    lithium ? "frost" : "hydrogen",
  ];
  return list(
    keys.map((key) => CAUTIONS[key]),
    "caution",
  );
}

const LINE = "................................................";

/** A place to sign where everything was measured and passed; else what has to come first. */
function signedBlocks(source: HandoverSource): Block[] {
  const { signedBy, signedOn } = source.job.handover.document;
  if (stateOf(source) !== "Commissioned") return [text(say("handover.notForSignature"))];
  const { open } = inspectionProgress(inspectionSheet(source), source.job.handover.steps);
  if (open > 0) return [text(say("handover.inspectionOpen", { open }))];
  return [
    ...table(
      ["", ""],
      [
        ["Installer", signedBy || LINE],
        ["Licensed person, licence", LINE],
        ["Instruments", LINE],
        ["Date", signedOn ?? LINE],
        ["Customer", LINE],
      ],
    ),
    text(say("handover.signedBuiltMeasuredLocal"), true),
  ];
}

/** The handover document of a system. Pure: the same source, revision and date give the same document. */
export function handoverOf(
  source: HandoverSource,
  { revision, date }: { revision: number; date: string },
): HandoverDocument {
  const { job, assessment } = source;
  const blocks: Record<SectionKey, () => Block[]> = {
    state: () => stateBlocks(source),
    stops: () => stopBlocks(source),
    card: () => cardBlocks(source),
    design: () => designBlocks(source),
    verdicts: () => verdictBlocks(source),
    parts: () =>
      table(
        PARTS_HEADER,
        partRows(partsList(job, assessment)).map((row) => row.map(String)),
        [2],
      ),
    settings: () => settingBlocks(source),
    measurements: () => measurementBlocks(source),
    inspection: () => inspectionBlocks(source),
    followUps: () => followUpBlocks(source, date),
    cautions: () => cautionBlocks(source),
    notChecked: () => [text(say("handover.notCheckedHere")), ...list([...NOT_CHECKED])],
    signed: () => signedBlocks(source),
  };
  const left = job.handover.document.leaveOut;
  const sections = (Object.keys(SECTIONS) as SectionKey[])
    .filter((key) => LOCKED.includes(key) || !left.includes(key))
    .map((key) => ({ key, title: SECTIONS[key], blocks: blocks[key]() }))
    .filter(({ blocks: own }) => own.length > 0);
  return { name: job.name, revision, date, sections };
}
