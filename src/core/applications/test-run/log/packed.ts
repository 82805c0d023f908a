import { COLUMNS, emptyReadings, type Readings } from "./readings";

/*
 * A log as bytes, for chunks in the database and for the way to the browser: little-endian, a 32-bit count of readings, a
 * 32-bit length of the notes' JSON (UTF-8), times as 64-bit floats, each column as 32-bit floats, then the notes. A number
 * of amps or volts to seven digits loses nothing that an instrument shows.
 */

const HEAD = 8;

export function packReadings({ timeMs, values, notes }: Readings): Uint8Array<ArrayBuffer> {
  const count = timeMs.length;
  const text = new TextEncoder().encode(JSON.stringify(notes));
  const bytes = new Uint8Array(HEAD + count * 8 + COLUMNS.length * count * 4 + text.length);
  const view = new DataView(bytes.buffer);
  view.setUint32(0, count, true);
  view.setUint32(4, text.length, true);
  let at = HEAD;
  for (let i = 0; i < count; i++, at += 8) view.setFloat64(at, timeMs[i]!, true);
  for (const column of COLUMNS) {
    const line = values[column];
    for (let i = 0; i < count; i++, at += 4) view.setFloat32(at, line[i]!, true);
  }
  bytes.set(text, at);
  return bytes;
}

/** The log in some bytes, or null where they are not one: lengths that do not add up, notes that do not parse. */
export function unpackReadings(bytes: Uint8Array): Readings | null {
  if (bytes.length < HEAD) return null;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const count = view.getUint32(0, true);
  const length = view.getUint32(4, true);
  if (bytes.length !== HEAD + count * 8 + COLUMNS.length * count * 4 + length) return null;
  const readings = emptyReadings(count);
  const { timeMs } = readings;
  let at = HEAD;
  for (let i = 0; i < count; i++, at += 8) timeMs[i] = view.getFloat64(at, true);
  for (const column of COLUMNS) {
    const line = readings.values[column];
    for (let i = 0; i < count; i++, at += 4) line[i] = view.getFloat32(at, true);
  }
  try {
    const notes: unknown = JSON.parse(new TextDecoder().decode(bytes.subarray(at)));
    if (!Array.isArray(notes)) return null;
    for (const note of notes as unknown[]) {
      const { at: where, text } = (note ?? {}) as { at?: unknown; text?: unknown };
      if (typeof where !== "number" || !Number.isInteger(where) || where < 0 || where >= count) return null;
      if (typeof text !== "string" || text.length > 500) return null;
      readings.notes.push({ at: where, text });
    }
  } catch {
    return null;
  }
  return readings;
}

/** Logs one after the other, as one. */
export function joinReadings(parts: readonly Readings[]): Readings {
  const count = parts.reduce((sum, { timeMs }) => sum + timeMs.length, 0);
  const out = emptyReadings(count);
  let at = 0;
  for (const one of parts) {
    out.timeMs.set(one.timeMs, at);
    for (const column of COLUMNS) out.values[column].set(one.values[column], at);
    for (const note of one.notes) out.notes.push({ at: note.at + at, text: note.text });
    at += one.timeMs.length;
  }
  return out;
}
