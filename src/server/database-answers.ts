import { createConnection, type Connection } from "mysql2/promise";
import { connectionOf } from "./connection-of";

/*
 * Whether the database answers at all. It is asked by a connection of its own: one whose connections are all busy is slow, and
 * whoever waits for it is served in the end; one that is frozen, gone or refuses serves nobody, and a request must not hang
 * on it.
 */

/** Longest that it may take, ms: to connect and to answer. */
const LONGEST_MS = 900;
/** How long an answer is taken as it was, ms. */
const REMEMBERED_MS = 400;

interface Asking {
  url: string;
  connection: Promise<Connection> | null;
  last: { at: number; answer: Promise<boolean> } | null;
}
const held = globalThis as { chillbankAnswers?: Asking };

async function ask(asking: Asking): Promise<boolean> {
  const connection = (asking.connection ??= createConnection({
    ...connectionOf(asking.url),
    connectTimeout: LONGEST_MS,
  }));
  const answered = connection.then((one) => one.query({ sql: "SELECT 1", timeout: LONGEST_MS })).then(() => true);
  const late = new Promise<false>((resolve) => setTimeout(() => resolve(false), LONGEST_MS).unref());
  const answer = await Promise.race([answered, late]).catch(() => false);
  // What did not answer once is not asked again: its answer may come to the next question.
  if (!answer) drop(asking);
  return answer;
}

function drop(asking: Asking): void {
  const { connection } = asking;
  asking.connection = null;
  connection?.then((one) => one.destroy()).catch(() => undefined);
}

/** Whether the database of this server answers now, within a second; true where none is set, which is said elsewhere. */
export function databaseAnswers(): Promise<boolean> {
  const url = process.env.DATABASE_URL;
  if (!url) return Promise.resolve(true);
  if (held.chillbankAnswers && held.chillbankAnswers.url !== url) forgetAnswers();
  const asking = (held.chillbankAnswers ??= { url, connection: null, last: null });
  const { last } = asking;
  if (last && Date.now() - last.at < REMEMBERED_MS) return last.answer;
  const answer = ask(asking);
  asking.last = { at: Date.now(), answer };
  return answer;
}

/** Ends the connection; the next question opens one anew. */
export function forgetAnswers(): void {
  if (held.chillbankAnswers) drop(held.chillbankAnswers);
  delete held.chillbankAnswers;
}
