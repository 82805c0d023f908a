import { offsetAt } from "../../../units/clock";
import { timeZoneOfJob } from "../../../document/place";
import { has } from "../log/readings";
import type { Forecast } from "../inference/forecast";
import type { TestRun } from "../inference/test-run";
import { DIMENSIONS, type Particle } from "../inference/particle";
import { say } from "../../../messages/say";

/** A chance that is told in place of a number of hours. */
export interface Chance {
  /** Chances in ten. */
  inTen: number;
  /** Seconds from the first reading to the next day's sun, and its time of day. */
  untilS: number;
  at: string;
}

/** A reading or an answer that would narrow the forecast, and by how much of its range. */
export interface Help {
  what: string;
  /** Share of the range from the tenth to the ninetieth hundredth that would go, 0 to 1. */
  narrows: number;
}

export interface Prospect {
  chance: Chance | null;
  /** Null where the reserve is reached. */
  decides: string | null;
  help: Help | null;
}

/** Sun over the day's most that counts as sun on the panels. */
const SUNNY = 0.1;
const DARK = 0.02;
/** From this part of the time to the next day's sun on, the middle of a forecast hangs on that sun. */
const HANGS_ON_SUN = 0.8;
/** Chances that are worth telling as such: beyond them the hours say it. */
const LIKELY = { from: 0.05, to: 0.95 } as const;
/** Change of the draw that is worth a sentence. */
const CHANGES = 0.15;
/** Sun over the draw from which on it carries a part of it. */
const CARRIES = 0.25;
/** Least that a reading has to gain to be asked for. */
const LEAST_GAIN = 0.08;
const HORIZON_H = 48;

/** What a forecast hangs on in words, the chance of the next day's sun, and what would narrow it most. */
export function prospectOf(testRun: TestRun, forecast: Forecast): Prospect {
  return {
    chance: chanceOf(testRun, forecast),
    decides: decidesOf(testRun, forecast),
    help: helpOf(testRun, forecast),
  };
}

const timeAt = ({ site }: TestRun, seconds: number): string => {
  const ms = site.startMs + seconds * 1000;
  const local = new Date(ms + offsetAt(timeZoneOfJob(site.job), ms) * 1000);
  return local.toISOString().slice(11, 16);
};

/** The first step after the coming night at which the panels see the sun; null where no night comes or they never do. */
function nextSun({ site, log }: TestRun): number | null {
  const most = Math.max(0, ...site.solar);
  if (most < 10) return null;
  let dark = false;
  for (let i = log.steps; i < site.steps; i++) {
    if (site.solar[i]! < DARK * most) dark = true;
    else if (dark && site.solar[i]! > SUNNY * most) return i;
  }
  return null;
}

/** The chance of the next day's sun where the time to the reserve hangs on it: sun and draw nearly balance. */
function chanceOf(testRun: TestRun, { hoursToReserve: { p50 }, reserveHours }: Forecast): Chance | null {
  const { site, log } = testRun;
  const sun = site.panels ? nextSun(testRun) : null;
  if (sun === null) return null;
  const untilS = sun * site.stepS;
  const hours = (untilS - log.lastS) / 3600;
  if (p50 !== null && p50 < HANGS_ON_SUN * hours) return null;
  const lasting = reserveHours.filter((one) => one > hours).length / reserveHours.length;
  if (lasting < LIKELY.from || lasting > LIKELY.to) return null;
  return { inTen: Math.round(10 * lasting), untilS, at: timeAt(testRun, untilS) };
}

/** What the time to the reserve hangs on; null where it is reached. */
function decidesOf(testRun: TestRun, { hoursToReserve, means }: Forecast): string | null {
  if (hoursToReserve.p50 !== null && hoursToReserve.p50 <= 0) return null;
  const { site, log } = testRun;
  const amps = (watts: number) => Math.max(0, Math.round(watts / site.system.bank.nominalVoltage));
  const hour = Math.max(1, Math.round(3600 / site.stepS));
  const end = Math.min(means.draw.length, Math.round(((hoursToReserve.p50 ?? HORIZON_H) * 3600) / site.stepS));
  const netOver = (from: number, to: number) => {
    let sum = 0;
    for (let i = from; i < to; i++) sum += means.draw[i]! - means.solar[i]!;
    return sum / Math.max(1, to - from);
  };
  const carries = (i: number) => means.solar[i]! > CARRIES * means.draw[i]!;
  if (end > 0 && carries(0)) {
    let leaves = 0;
    while (leaves < end && carries(leaves)) leaves++;
    if (leaves < end) {
      const after = netOver(leaves, Math.min(means.draw.length, leaves + 2 * hour));
      return say("testRun.untilSunLeaves", {
        at: timeAt(testRun, (log.steps + leaves) * site.stepS),
        amps: amps(after),
      });
    }
    return say("testRun.sunCarries", { amps: amps(netOver(0, Math.max(1, end))) });
  }
  const now = netOver(0, Math.min(hour, means.draw.length));
  let most = { watts: -Infinity, at: 0 };
  for (let i = 0; i + hour <= end; i += hour) {
    const watts = netOver(i, i + hour);
    if (watts > most.watts) most = { watts, at: i + hour / 2 };
  }
  const last = end > 2 * hour ? netOver(end - hour, end) : now;
  if (most.watts > (1 + CHANGES) * now)
    return say("testRun.drawRises", {
      now: amps(now),
      most: amps(most.watts),
      at: timeAt(testRun, (log.steps + most.at) * site.stepS),
    });
  if (last < (1 - CHANGES) * now) return say("testRun.drawFalls", { now: amps(now), last: amps(last) });
  const average = { amps: amps(netOver(0, Math.max(1, end))) };
  return hoursToReserve.p50 === null ? say("testRun.drawStaysOn", average) : say("testRun.drawStays", average);
}

type Part = keyof Particle;

/** What could still be read or said, and the parameters of a particle that it would fix. */
function openQuestions({ site, readings }: TestRun): { what: string; parts: Part[] }[] {
  const { conditions } = site;
  const dayKnown = conditions.forecastHighC !== null || conditions.forecastLowC !== null;
  const questions: [asked: boolean, what: string, parts: Part[]][] = [
    [!has(readings, "outdoor_temp_c"), say("testRun.help.outdoor"), ["outdoor"]],
    [!dayKnown && has(readings, "outdoor_temp_c"), say("testRun.help.forecast"), ["outdoor"]],
    [!has(readings, "soc_pct") && conditions.startSoc === null, say("testRun.help.charge"), ["startSoc"]],
    [!has(readings, "cabin_temp_c"), say("testRun.help.cabin"), ["cabinC", "setShift"]],
    [site.panels && !has(readings, "solar_power_w"), say("testRun.help.solar"), ["solar"]],
    [conditions.people === null, say("testRun.help.people"), ["gains"]],
    [conditions.colour === null || conditions.shade === null, say("testRun.help.sun"), ["sun"]],
  ];
  return questions.filter(([asked]) => asked).map(([, what, parts]) => ({ what, parts }));
}

/** The reading or answer that explains most of the spread of the hours, by a straight line over the particles. */
function helpOf(testRun: TestRun, { reserveHours, population }: Forecast): Help | null {
  const { prior } = testRun;
  const particles = reserveHours.map((_, n) => prior.particle(population.z, n * DIMENSIONS));
  const hours = reserveHours.map((one) => Math.log(Math.max(0.05, Math.min(HORIZON_H, one))));
  const best = openQuestions(testRun)
    .map(({ what, parts }) => {
      const explained = parts.reduce(
        (sum, part) =>
          sum +
          correlation(
            particles.map((one) => one[part]),
            hours,
          ) **
            2,
        0,
      );
      return { what, narrows: 1 - Math.sqrt(1 - Math.min(0.95, explained)) };
    })
    .sort((a, b) => b.narrows - a.narrows)[0];
  return best && best.narrows > LEAST_GAIN ? best : null;
}

/** Pearson's correlation of two lines of equal length; 0 where one does not vary. */
function correlation(a: number[], b: number[]): number {
  const mean = (line: number[]) => line.reduce((sum, one) => sum + one, 0) / line.length;
  const [ma, mb] = [mean(a), mean(b)];
  let [ab, aa, bb] = [0, 0, 0];
  for (let i = 0; i < a.length; i++) {
    ab += (a[i]! - ma) * (b[i]! - mb);
    aa += (a[i]! - ma) ** 2;
    bb += (b[i]! - mb) ** 2;
  }
  return aa * bb > 0 ? ab / Math.sqrt(aa * bb) : 0;
}
