/** The steps of a dotted path: `units.0.power` is units, 0, power. */
export const segmentsOf = (path: string): string[] => path.split(".");

/** The first step: which part of the document a value belongs to. */
export const groupOf = (path: string): string => segmentsOf(path)[0]!;

/** The last step: the field's own key. */
export const keyOf = (path: string): string => segmentsOf(path).at(-1)!;
