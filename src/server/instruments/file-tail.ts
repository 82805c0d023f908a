import { open, stat } from "node:fs/promises";
import { isAbsolute, relative, resolve } from "node:path";
import { parseRows } from "../../csv/log";
import { recognise, rowReader, type RowReader } from "../../core/applications/test-run/log/recognise";
import { say } from "../../core/messages/say";
import type { Reading } from "../../core/applications/test-run/log/readings";
import type { Instrument } from "./instrument";

const LOOK_MS = 500;
/** Most that is read at one look, bytes. */
const MOST_BYTES = 4 * 1024 * 1024;

/** Folder that log files are followed in: a page must not read any file of this machine. */
export function logFolder(): string {
  // No part of the application: without the comment the build follows every file of the project as if it were one.
  return resolve(/* turbopackIgnore: true */ process.env.CHILLBANK_LOGS ?? ".local/logs");
}

/** The file of a path inside the log folder, or null where it lies outside of it. */
export function fileInLogs(path: string, folder = logFolder()): string | null {
  const file = resolve(folder, path);
  const inside = relative(folder, file);
  return inside !== "" && !inside.startsWith("..") && !isAbsolute(inside) ? file : null;
}

/** Follows a CSV file that a logger goes on writing: its header once, then each line as it is whole. A file that shrinks is begun again. */
export function fileTailInstrument(file: string, timeZone: string): Instrument {
  let timer: NodeJS.Timeout | null = null;
  let at = 0;
  let rest = "";
  let header: string[] | null = null;
  let waiting: string[][] = [];
  let reader: RowReader | null = null;
  let separator = ",";
  let busy = false;
  let missed = 0;
  return {
    start(listener) {
      const look = async () => {
        if (busy) return;
        busy = true;
        try {
          const { size } = await stat(file);
          missed = 0;
          if (size < at) {
            at = 0;
            rest = "";
            header = null;
            waiting = [];
            reader = null;
          }
          if (size > at) {
            const handle = await open(file, "r");
            try {
              const buffer = Buffer.alloc(Math.min(MOST_BYTES, size - at));
              const { bytesRead } = await handle.read(buffer, 0, buffer.length, at);
              // A last line without its end is still being written; so may be its last character.
              const whole = buffer.subarray(0, bytesRead).lastIndexOf(10) + 1;
              at += whole;
              rest = buffer.subarray(0, whole).toString("utf8");
            } finally {
              await handle.close();
            }
            const parsed = parseRows(rest, header ? separator : undefined);
            let rows = parsed.rows;
            if (!header && rows.length > 0) {
              separator = parsed.separator;
              header = rows[0]!;
              rows = rows.slice(1);
            }
            waiting.push(...rows);
            // The columns are known by the header; the way the current counts by the first rows.
            if (header && !reader && waiting.length >= 1)
              reader = rowReader(recognise({ header, rows: waiting.slice(0, 400), separator }, timeZone).mapping);
            if (reader && waiting.length > 0) {
              const list: Reading[] = [];
              for (const cells of waiting) {
                const read = reader.read(cells);
                if (read.ok) list.push(read.reading);
              }
              waiting = [];
              if (list.length > 0) await listener.readings(list);
            }
          }
        } catch {
          // A logger that turns its files over is away for a moment.
          if (++missed > 20) {
            if (timer) clearInterval(timer);
            timer = null;
            listener.ended(say("server.instrument.fileUnreadable"));
          }
        } finally {
          busy = false;
        }
      };
      timer = setInterval(() => void look(), LOOK_MS);
      void look();
    },
    stop() {
      if (timer) clearInterval(timer);
      timer = null;
    },
  };
}
