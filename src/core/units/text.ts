/** The beginning of a text, at most `most` UTF-16 units of it; a character of two units is not cut in half. */
export function beginningOf(text: string, most: number): string {
  if (text.length <= most) return text;
  const cut = text.slice(0, most);
  return /[\uD800-\uDBFF]$/.test(cut) ? cut.slice(0, -1) : cut;
}

const cut = (text: string, most: number): string =>
  text.length > most ? `${beginningOf(text, most - 1).trimEnd()}…` : text;

/** A text in lines of at most `most` letters, parted between its words. Only what is longer than `rows` of them is cut. */
export function wrapText(text: string, most: number, rows: number): string[] {
  const lines: string[] = [];
  for (const word of text.split(/\s+/)) {
    const last = lines.at(-1);
    if (last !== undefined && (lines.length === rows || last.length + 1 + word.length <= most))
      lines[lines.length - 1] = `${last} ${word}`;
    else lines.push(word);
  }
  return lines.map((line) => cut(line, most));
}
