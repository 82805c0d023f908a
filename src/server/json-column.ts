/** JSON columns come back parsed or as text, by the driver's reading of the column type. */
export const parsed = (value: unknown): unknown => (typeof value === "string" ? JSON.parse(value) : value);
