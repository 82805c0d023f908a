import { IntlMessageFormat } from "intl-messageformat";
import { MESSAGES, type MessageKey } from "./messages";

/** Names of the values that a message takes, read from its text: what follows a brace, unless it is the text of a branch. */
type Names<Text extends string> = Text extends `${string}{${infer Rest}` ? NameOf<Rest> | Names<Rest> : never;
type NameOf<Rest extends string> = Rest extends `${infer Inside}}${string}`
  ? Word<Inside extends `${infer Name},${string}` ? Name : Inside>
  : never;
type Word<Text extends string> = Text extends "" | `#${string}` | `{${string}` | `${string} ${string}` ? never : Text;

/** Names of the values that a message of the catalogue takes. */
export type NamesOf<Key extends MessageKey> = Names<(typeof MESSAGES)[Key]>;
type Values<Key extends MessageKey> = Record<Names<(typeof MESSAGES)[Key]>, string | number>;
type ValuesOf<Key extends MessageKey> = [Names<(typeof MESSAGES)[Key]>] extends [never] ? [] : [values: Values<Key>];

/** Messages read once: a text that takes no value as it is, else its format. */
const read = new Map<MessageKey, IntlMessageFormat | string>();
const SPACES = /\s\s|\n|^\s|\s$/;
const inOneLine = (text: string) => (SPACES.test(text) ? text.replace(/\s+/g, " ").trim() : text);

function readMessage(key: MessageKey): IntlMessageFormat | string {
  const text: string = MESSAGES[key];
  const message = text.includes("{")
    ? new IntlMessageFormat(text, "en", undefined, { ignoreTag: true })
    : inOneLine(text);
  read.set(key, message);
  return message;
}

/** A sentence whose key and values are data: what makes them types them (`Notice`). */
export const sayAny = (key: MessageKey, values: Record<string, string | number>): string =>
  (say as (key: MessageKey, values?: Record<string, string | number>) => string)(key, values);

/** A sentence of the catalogue with its values put in: ICU MessageFormat, in English. Throws where a value is missing. */
export function say<Key extends MessageKey>(key: Key, ...[values]: ValuesOf<Key>): string {
  const message = read.get(key) ?? readMessage(key);
  return typeof message === "string" ? message : inOneLine(message.format(values) as string);
}
