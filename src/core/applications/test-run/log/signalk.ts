import type { Column, Reading } from "./readings";

/*
 * Signal K (the open marine data format, specification 1.7): delta messages as JSON, one a line in a log or one a message
 * of a stream. SI units: kelvin, volts, amperes, ratios. The path names are the specification's, from memory.
 */

type Taken = { column: Column; of(value: number): number };

function columnOf(path: string, bank: string | null): Taken | null {
  const battery = /^electrical\.batteries\.([^.]+)\.(voltage|current|capacity\.stateOfCharge)$/.exec(path);
  if (battery) {
    if (bank !== null && battery[1] !== bank) return null;
    if (battery[2] === "voltage") return { column: "battery_voltage_v", of: (v) => v };
    // Positive is into the battery, as in the log.
    if (battery[2] === "current") return { column: "battery_current_a", of: (v) => v };
    return { column: "soc_pct", of: (v) => v * 100 };
  }
  if (/^electrical\.solar\.[^.]+\.panelPower$/.test(path)) return { column: "solar_power_w", of: (v) => v };
  if (/^electrical\.inverters\.[^.]+\.ac\.(realPower|power)$/.test(path)) return { column: "ac_power_w", of: (v) => v };
  if (path === "environment.outside.temperature") return { column: "outdoor_temp_c", of: (v) => v - 273.15 };
  if (/^environment\.inside(\.[^.]+)?\.temperature$/.test(path))
    return { column: "cabin_temp_c", of: (v) => v - 273.15 };
  return null;
}

/** Readings in one delta: one for each update that says something of a system. Null where it is no delta. */
export function readDelta(message: unknown, bank: string | null = null, receivedMs = NaN): Reading[] | null {
  if (typeof message !== "object" || message === null) return null;
  const { updates } = message as { updates?: unknown };
  if (!Array.isArray(updates)) return null;
  const out: Reading[] = [];
  for (const update of updates as unknown[]) {
    if (typeof update !== "object" || update === null) continue;
    const { timestamp, values } = update as { timestamp?: unknown; values?: unknown };
    if (!Array.isArray(values)) continue;
    const timeMs = typeof timestamp === "string" ? Date.parse(timestamp) : receivedMs;
    if (!Number.isFinite(timeMs)) continue;
    const read: Reading["values"] = {};
    for (const entry of values as unknown[]) {
      if (typeof entry !== "object" || entry === null) continue;
      const { path, value } = entry as { path?: unknown; value?: unknown };
      if (typeof path !== "string" || typeof value !== "number" || !Number.isFinite(value)) continue;
      const taken = columnOf(path, bank);
      if (taken) read[taken.column] = taken.of(value);
    }
    if (Object.keys(read).length > 0) out.push({ timeMs, values: read });
  }
  return out;
}

/** Longest that values of different messages are taken as one reading, ms. */
const TOGETHER_MS = 1500;

/**
 * Joins the readings of deltas, which carry a value or two each, into whole ones: what came within a second and a half
 * belongs to one moment, and slow values (charge, temperatures) ride with the next current.
 */
export function joinDeltas(parts: readonly Reading[]): Reading[] {
  const out: Reading[] = [];
  let open: Reading | null = null;
  for (const one of [...parts].sort((a, b) => a.timeMs - b.timeMs)) {
    const again: boolean = open !== null && Object.keys(one.values).some((column) => column in open!.values);
    if (open && one.timeMs - open.timeMs <= TOGETHER_MS && !again) Object.assign(open.values, one.values);
    else {
      const waiting: Reading["values"] = open && open.values.battery_current_a === undefined ? { ...open.values } : {};
      if (open && open.values.battery_current_a !== undefined) out.push(open);
      open = { timeMs: one.timeMs, values: { ...waiting, ...one.values } };
    }
  }
  if (open && open.values.battery_current_a !== undefined) out.push(open);
  return out;
}
