/* Of the runtime, the core uses this alone; it is in every browser and in Node. */
declare function structuredClone<T>(value: T): T;
