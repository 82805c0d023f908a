import { isUtf8 } from "node:buffer";
import { setImmediate as breathe } from "node:timers/promises";
import { JSONParser } from "@streamparser/json";

/** Bytes that are parsed before others are answered: a few milliseconds' worth. */
const PIECE_BYTES = 64 * 1024;

/**
 * The elements of a JSON array in some bytes (UTF-8), each as soon as it is complete, so that a long one keeps nobody
 * waiting. Throws a SyntaxError where the bytes are no JSON, or not an array.
 */
export async function* rowsOfJson(bytes: Uint8Array): AsyncGenerator<unknown> {
  // The parser puts a mark where a character is none; what was changed is refused instead.
  if (!isUtf8(bytes)) throw new SyntaxError("not UTF-8");
  const parser = new JSONParser({ paths: ["$.*"], keepStack: false });
  const rows: unknown[] = [];
  let fault: Error | null = null;
  parser.onValue = ({ value, key }) => {
    if (typeof key === "number") rows.push(value);
    else fault ??= new SyntaxError("not an array");
  };
  parser.onError = (error) => (fault ??= error);
  for (let from = 0; from < bytes.length; from += PIECE_BYTES) {
    parser.write(bytes.subarray(from, from + PIECE_BYTES));
    if (fault) throw new SyntaxError((fault as Error).message);
    yield* rows.splice(0);
    await breathe();
  }
  // What has no element has been no array, or an empty one: a bracket tells.
  if (!parser.isEnded || !startsAsArray(bytes)) throw new SyntaxError("not a whole array");
}

const startsAsArray = (bytes: Uint8Array): boolean => /^\s*\[/.test(new TextDecoder().decode(bytes.subarray(0, 64)));
