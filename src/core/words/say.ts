import { IntlMessageFormat } from "intl-messageformat";
import { MESSAGES, type MessageKey } from "./messages";

/** Names of the values that a message takes, read from its text: what follows a brace, unless it is the text of a branch. */
type Names<Text extends string> = Text extends `${string}{${infer Rest}` ? NameOf<Rest> | Names<Rest> : never;
type NameOf<Rest extends string> = Rest extends `${infer Inside}}${string}`
  ? Word<Inside extends `${infer Name},${string}` ? Name : Inside>
  : never;
type Word<Text extends string> = Text extends "" | `#${string}` | `{${string}` | `${string} ${string}` ? never : Text;

type Values<Key extends MessageKey> = Record<Names<(typeof MESSAGES)[Key]>, string | number>;
type ValuesOf<Key extends MessageKey> = [Names<(typeof MESSAGES)[Key]>] extends [never] ? [] : [values: Values<Key>];

const formats = new Map<MessageKey, IntlMessageFormat>();

/** A sentence of the catalogue with its values put in: ICU MessageFormat, in English. Throws where a value is missing. */
export function say<Key extends MessageKey>(key: Key, ...[values]: ValuesOf<Key>): string {
  let format = formats.get(key);
  if (!format) formats.set(key, (format = new IntlMessageFormat(MESSAGES[key], "en", undefined, { ignoreTag: true })));
  return (format.format(values) as string).replace(/\s+/g, " ").trim();
}
