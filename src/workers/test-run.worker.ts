/// <reference lib="webworker" />
import { expose } from "comlink";
import { call, json, send } from "@/contract/client";
import { importedRows, openedImport } from "@/contract/test-runs";
import Papa from "papaparse";
import type { Job } from "@/core/document/schema";
import type { Found } from "@/core/applications/test-run/inference/calibrate";
import { appliedOf, type Applied } from "@/core/applications/test-run/report/applied";
import { EFFORTS } from "@/core/applications/test-run/inference/test-run";
import type { Reach } from "@/core/applications/test-run/inference/reach";
import type { RunConditions } from "@/core/applications/test-run/site/conditions";
import type { Quantiles } from "@/core/applications/test-run/inference/quantiles";
import { joinReadings, packReadings, unpackReadings } from "@/core/applications/test-run/log/packed";
import { rowReader, type Mapping, type Understood } from "@/core/applications/test-run/log/recognise";
import { notYetIn, fromList, type Reading, type Readings } from "@/core/applications/test-run/log/readings";
import type { ForecastSnapshot } from "@/core/applications/test-run/report/record";
import {
  forecastSnapshots,
  viewOf,
  whatIfsWritten,
  reachWritten,
  type Session,
  type ViewAnswer,
} from "@/core/applications/test-run/report/view";
import { badText, headerRow, LARGEST_LOG, parseRows, readLog, refuse, separatorOf, type LogRead } from "@/csv/log";
import { say } from "@/core/messages/say";

let raw: Readings = fromList([]);
let session: Session | null = null;

/** What a dropped file was understood to be, before anything of it is kept. */
export type Preview =
  | { ok: false; message: string }
  | {
      ok: true;
      kind: LogRead["kind"];
      headerLine: string;
      header: string[];
      understood: Understood | null;
      /** The first readings as they would be kept. */
      first: Reading[];
      refused: LogRead["refused"];
    };

/** A forecast that is asked for: by which effort, and whether it begins anew or from the last one. */
export interface ViewQuestion {
  job: Job;
  conditions: RunConditions;
  effort: keyof typeof EFFORTS;
  fresh: boolean;
}

export interface Imported {
  rows: number;
  refused: LogRead["refused"];
}

/** Rows to a piece, and bytes of the original to a piece. */
const PIECE_ROWS = 50_000;
const PIECE_BYTES = 4 * 1024 * 1024;
const HEAD_BYTES = 256 * 1024;

/** Sends one piece of an import. */
const sendPiece = (address: string, piece: BodyInit): Promise<Response> =>
  send(address, { method: "PUT", body: piece, headers: { "content-type": "application/octet-stream" } });

const worker = {
  /** Fetches a test run's log and holds it. */
  async open(testRunId: string): Promise<number> {
    const response = await send(`/api/test-runs/${testRunId}/log`);
    const read = unpackReadings(new Uint8Array(await response.arrayBuffer()));
    if (!read) throw new Error(say("interface.logBroken"));
    raw = read;
    session = null;
    return raw.timeMs.length;
  },
  /** Adds readings that came since; what was written here comes by the live stream once more. */
  add(list: Reading[]): void {
    raw = joinReadings([raw, fromList(notYetIn(raw, list))]);
  },
  /** The stage's view of the log; from where the last one was. Null where a newer question came meanwhile. */
  view({ job, conditions, effort, fresh }: ViewQuestion, onProgress: (done: number) => void): ViewAnswer | null {
    const from = !fresh && session ? session.population : null;
    const made = viewOf(job, raw, { conditions, ...EFFORTS[effort], from, progress: (done) => void onProgress(done) });
    if (!made) return null;
    session = made.session;
    return made.answer;
  },
  /** Times to the reserve under what-ifs, of the last view's log and particles. */
  whatIf: (texts: string[], timeZone: string): Quantiles[] => (session ? whatIfsWritten(session, texts, timeZone) : []),
  /** What to set to last until a time of day, of the last view; null where there is none, or the time is none. */
  reach: (until: string, timeZone: string): Reach | null => (session ? reachWritten(session, until, timeZone) : null),
  /** What the job would be with some findings of the last view in it; null where there is no view. */
  applied: (job: Job, taken: Found[], toReserve: Quantiles): Applied | null =>
    session ? appliedOf(job, session, taken, toReserve) : null,
  snapshots: (job: Job, conditions: RunConditions): ForecastSnapshot[] => forecastSnapshots(job, raw, { conditions }),

  /** Reads the beginning of a file and says what it is. */
  async preview(file: File, timeZone: string, mapping?: Mapping): Promise<Preview> {
    if (file.size > LARGEST_LOG)
      return { ok: false, message: say("input.file.largeBytes", { most: LARGEST_LOG / 1e6 }) };
    const text = await file.slice(0, HEAD_BYTES).text();
    const bad = badText(text);
    if (bad) return { ok: false, message: bad };
    // A cut in the middle of a line is no fault of the file.
    const cut = file.size > HEAD_BYTES ? text.slice(0, text.lastIndexOf("\n") + 1) : text;
    const read = readLog(cut, timeZone, mapping);
    if (!read.ok) return read;
    const { kind, readings, understood, refused } = read.log;
    const lines = cut.replace(/^\ufeff/, "").split(/\r?\n/);
    const parsed = parseRows(lines.slice(0, 60).join("\n"));
    const at = headerRow(parsed.rows);
    return {
      ok: true,
      kind,
      headerLine: kind === "table" ? (parsed.rows[at] ?? []).join("\t") : (lines[0] ?? "").slice(0, 200),
      header: parsed.rows[at] ?? [],
      understood,
      first: Array.from({ length: Math.min(12, readings.timeMs.length) }, (_, i) => ({
        timeMs: readings.timeMs[i]!,
        values: Object.fromEntries(
          Object.entries(readings.values).flatMap(([column, line]) =>
            Number.isNaN(line[i]!) ? [] : [[column, line[i]!] as const],
          ),
        ),
      })),
      refused,
    };
  },

  /** Reads a whole file by a mapping and sends it in pieces; nothing of it counts until the last is there. */
  async importFile(
    testRunId: string,
    file: File,
    timeZone: string,
    mapping: Mapping | null,
    onProgress: (share: number) => boolean | Promise<boolean>,
  ): Promise<Imported | null> {
    const base = `/api/test-runs/${testRunId}/imports`;
    const { id } = await call(openedImport, base, json("POST", { fileName: file.name || "log.csv" }));
    const place = `${base}/${id}`;
    let pieces = 0;
    let rows = 0;
    const refused: LogRead["refused"] = { count: 0, first: [] };
    try {
      const keep = async (list: Reading[]) => {
        if (list.length === 0) return;
        await sendPiece(`${place}/readings/${pieces++}`, packReadings(fromList(list)));
        rows += list.length;
      };
      if (!mapping) {
        const read = readLog(await file.text(), timeZone);
        if (!read.ok) throw new Error(read.message);
        const { readings } = read.log;
        Object.assign(refused, read.log.refused);
        await sendPiece(`${place}/readings/${pieces++}`, packReadings(readings));
        rows = readings.timeMs.length;
      } else {
        const reader = rowReader(mapping);
        const separator = separatorOf(await file.slice(0, HEAD_BYTES).text());
        let header = -1;
        let line = 0;
        let head: string[][] = [];
        const list: Reading[] = [];
        let stopped = false;
        await new Promise<void>((resolve, reject) => {
          Papa.parse<string[]>(file, {
            skipEmptyLines: "greedy",
            delimiter: separator,
            chunkSize: 2 * 1024 * 1024,
            chunk: ({ data, meta }, parser) => {
              parser.pause();
              void (async () => {
                try {
                  let body = data;
                  if (header < 0) {
                    head = [...head, ...data];
                    header = headerRow(head);
                    line = header + 1;
                    body = head.slice(header + 1);
                  }
                  for (const cells of body) {
                    line++;
                    const read = reader.read(cells);
                    if (read.ok) list.push(read.reading);
                    else refuse(refused, line, read.message);
                  }
                  while (list.length >= PIECE_ROWS) await keep(list.splice(0, PIECE_ROWS));
                  if (!(await onProgress((0.85 * meta.cursor) / Math.max(1, file.size)))) {
                    stopped = true;
                    parser.abort();
                    resolve();
                  } else parser.resume();
                } catch (error) {
                  parser.abort();
                  reject(error as Error);
                }
              })();
            },
            complete: () => resolve(),
            error: (error) => reject(new Error(error.message)),
          });
        });
        if (stopped) {
          await send(place, { method: "DELETE" });
          return null;
        }
        await keep(list);
      }
      if (rows === 0)
        throw new Error(say("input.file.noReading", { why: refused.first[0]?.message ?? "the file is empty" }));
      const parts = Math.max(1, Math.ceil(file.size / PIECE_BYTES));
      for (let i = 0; i < parts; i++) {
        await sendPiece(`${place}/file/${i}`, file.slice(i * PIECE_BYTES, (i + 1) * PIECE_BYTES));
        if (!(await onProgress(0.85 + (0.15 * (i + 1)) / parts))) {
          await send(place, { method: "DELETE" });
          return null;
        }
      }
      await call(importedRows, place, json("POST", { readings: pieces, file: parts, rows }));
      return { rows, refused };
    } catch (error) {
      await send(place, { method: "DELETE" }).catch(() => null);
      throw error;
    }
  },
};

export type TestRunWorker = typeof worker;
expose(worker);
