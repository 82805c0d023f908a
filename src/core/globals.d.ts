/* Of the runtime, the core uses this alone; it is in every browser and in Node. */
declare function structuredClone<T>(value: T): T;

/** UTF-8 both ways: in every runtime the core goes into, though not in the language's own library. */
declare class TextEncoder {
  encode(text: string): Uint8Array<ArrayBuffer>;
}
declare class TextDecoder {
  decode(bytes: Uint8Array): string;
}
