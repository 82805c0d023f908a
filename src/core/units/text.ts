/** The beginning of a text, at most `most` UTF-16 units of it; a character of two units is not cut in half. */
export function beginningOf(text: string, most: number): string {
  if (text.length <= most) return text;
  const cut = text.slice(0, most);
  return /[\uD800-\uDBFF]$/.test(cut) ? cut.slice(0, -1) : cut;
}
