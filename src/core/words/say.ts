import { IntlMessageFormat } from "intl-messageformat";
import { MESSAGES, type MessageKey } from "./messages";

const formats = new Map<MessageKey, IntlMessageFormat>();

/** A sentence of the catalogue with its values put in: ICU MessageFormat, in English. Throws where a value is missing. */
export function say(key: MessageKey, values: Record<string, string | number> = {}): string {
  let format = formats.get(key);
  if (!format) formats.set(key, (format = new IntlMessageFormat(MESSAGES[key], "en")));
  return (format.format(values) as string).replace(/\s+/g, " ").trim();
}
