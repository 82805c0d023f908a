/** Whether two inputs are the same: one value, or lists and plain records of the same values. */
function same(one: unknown, other: unknown): boolean {
  if (Object.is(one, other)) return true;
  if (typeof one !== "object" || typeof other !== "object" || one === null || other === null) return false;
  const keys = Object.keys(one) as (keyof typeof one)[];
  return keys.length === Object.keys(other).length && keys.every((key) => Object.is(one[key], other[key]));
}

/**
 * What was made for one system, with what it was made from. Of another system that differs from it in a value, all that is
 * made from the same is taken over. What makes it must be a function of its inputs alone.
 */
export class Kept {
  private readonly made = new Map<string, { inputs: object; result: unknown }>();

  /** What `make` gives for the inputs, or gave for the same of the first system under this key. */
  take<I extends object, R>(key: string, inputs: I, make: (inputs: I) => R): R {
    const first = this.made.get(key);
    if (first && sameInputs(first.inputs, inputs)) return first.result as R;
    const result = make(inputs);
    if (!first) this.made.set(key, { inputs, result });
    return result;
  }
}

function sameInputs(one: object, other: object): boolean {
  for (const key in other)
    if (!same((one as Record<string, unknown>)[key], (other as Record<string, unknown>)[key])) return false;
  return true;
}
