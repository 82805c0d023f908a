import type { WiringModel, WiringPart, Circuit } from "../../models/wiring/circuits";
import { NEC_STANDARD_RATINGS, smallConductorLimit } from "../../reference/standards/ac-cable";
import type { DeviceRule, RuleSet } from "../../reference/standards/rule-set";
import { ampacityTable } from "../../document/defaults";
import type { Job } from "../../document/schema";
import { FUSE_RATINGS } from "../../reference/conductors/fuse";
import type { System } from "../../models/system/system";

/*
 * Which fuse or breaker protects a part, wherever that device sits: the nearest before it on the way from the source. A
 * circuit without a breaker of its own is protected by the one of the run that feeds it; what lies behind a transfer switch
 * is fed by two sources, and the larger of their devices decides.
 */

const protects = ({ part }: WiringPart) => part.kind === "fuse" || part.kind === "breaker";
const largest = (list: (WiringPart | null | undefined)[]): WiringPart | null =>
  list.reduce<WiringPart | null>(
    (most, one) => (one && (!most || one.values.rating!.value > most.values.rating!.value) ? one : most),
    null,
  );

const shoreDevices = (wiring: WiringModel): WiringPart[] =>
  wiring.branches
    .filter(({ branch }) => branch!.role === "shore")
    .flatMap((circuit) => circuit.parts.findLast(protects) ?? []);

/** Devices before the part at `index` of the inverter's output run: one for each source that may feed it. */
function beforeOnMains(wiring: WiringModel, index: number): (WiringPart | null)[] {
  const { parts } = wiring.mains;
  const transfer = parts.findIndex(({ part }) => part.kind === "changeover");
  const own = parts.slice(0, index).findLastIndex(protects);
  const shared = transfer < 0 || index <= transfer || own > transfer;
  if (own >= 0 && shared) return [parts[own]!];
  return [own >= 0 ? parts[own]! : null, ...(index > transfer ? shoreDevices(wiring) : [])];
}

/** The device that protects the part at `index` of a run; null where there is none. */
export function guardOf(wiring: WiringModel, circuit: Circuit, index: number): WiringPart | null {
  const own = circuit.parts.slice(0, index).findLast(protects);
  const after = () => circuit.parts.slice(index).find(protects) ?? null;
  // Of a source that has no device before the part, the one behind it keeps the current down.
  const onMains = (upTo: number) => largest(beforeOnMains(wiring, upTo).map((one) => one ?? after()));
  if (circuit.key === "mains") return onMains(index);
  if (own) return own;
  if (circuit.branch?.role === "circuit") return onMains(wiring.mains.parts.length);
  if (circuit.far && circuit.branch?.role === "charger") return largest(shoreDevices(wiring)) ?? after();
  return after();
}

/** A of the largest device that a rule lets stand before a conductor of `ampacity` A and `areaMm2`. */
export function largestDevice(rule: DeviceRule, ampacity: number, areaMm2: number, ratings: readonly number[]): number {
  const next = ratings.find((rating) => rating >= ampacity - 1e-9) ?? ampacity;
  switch (rule) {
    case "never-above":
      return ampacity;
    case "next-size-up":
      return Math.min(next, smallConductorLimit(areaMm2));
    case "next-size-up-to-150":
      return Math.max(ampacity, Math.min(next, 1.5 * ampacity));
  }
}

/** A of the largest device that may stand before a conductor of a side of the job: the rule set's, and its table's. */
export function largestDeviceOn(
  { job, wiring: { rules } }: System,
  mains: boolean,
  { ampacity, areaMm2 }: { ampacity: number; areaMm2: number },
): number {
  if (mains) return largestDevice(rules.acDevice, ampacity, areaMm2, STANDARD_RATINGS);
  const most = largestDevice(dcDeviceOf(job, rules), ampacity, areaMm2, FUSE_RATINGS);
  return rules.dcSmallConductors ? Math.min(most, smallConductorLimit(areaMm2)) : most;
}

/** Where the DC side goes by the table of the AC side it has its rule of devices as well. */
export const dcDeviceOf = (job: Job, rules: RuleSet): DeviceRule =>
  ampacityTable(job) === "nec-310.16" ? rules.acDevice : rules.dcDevice;

/** Ratings that the next standard size is looked up in: NEC 240.6(A). */
export const STANDARD_RATINGS = NEC_STANDARD_RATINGS;
