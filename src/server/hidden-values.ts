/*
 * A driver's error carries the statement that failed with the values in it: a customer's document, a session's token. Pages,
 * libraries and tools print errors as they come, so the values are taken out where the driver hands the error over.
 */

/** A fault as mysql2 makes it. */
interface DriverError extends Error {
  code?: string;
  sql?: string;
  sqlMessage?: string;
}
type Done = (error: DriverError | null, ...rest: unknown[]) => void;
type Ask = (what: unknown, values?: unknown, done?: unknown) => unknown;

/** A connection of the driver, with what asks it. */
export interface Asked {
  query: Ask;
  execute: Ask;
}

const LONGEST_WORDS = 300;

/** A database's words without the values in them: from the first quote to the last, since a value may hold one. */
export const wordsOfFault = (text: string): string => text.replace(/'.*'/s, "'…'").slice(0, LONGEST_WORDS);

/** Takes what was entered out of an error: its statement, and the values in its words and in the first line of its stack. */
export function hideValuesOf(error: DriverError): void {
  delete error.sql;
  if (error.sqlMessage === undefined) return;
  const told = error.sqlMessage;
  const words = wordsOfFault(told);
  error.sqlMessage = words;
  error.message = error.message.replaceAll(told, words);
  if (error.stack !== undefined) error.stack = error.stack.replaceAll(told, words);
}

/** Has every error of a connection come without values. */
export function hideValues(connection: Asked): void {
  for (const way of ["query", "execute"] as const) {
    const ask = connection[way].bind(connection) as Ask;
    connection[way] = (...asked: unknown[]) => {
      const [what, values, done] = asked as [unknown, unknown, unknown];
      const last = typeof done === "function" ? done : typeof values === "function" ? values : null;
      if (last === null) {
        // Read as a stream: the command tells its fault as an event, to whoever came first.
        const command = ask(what, values) as { once?: (event: "error", told: (error: DriverError) => void) => void };
        command.once?.("error", hideValuesOf);
        return command;
      }
      const answered: Done = (error, ...rest) => {
        if (error) hideValuesOf(error);
        (last as Done)(error, ...rest);
      };
      return done === last ? ask(what, values, answered) : ask(what, answered);
    };
  }
}
