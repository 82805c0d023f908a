import { describe, expect, it } from "vitest";
import { sourceSchema } from "./test-runs";

describe("the address of an instrument", () => {
  const taken = (url: string) => sourceSchema.safeParse({ kind: "signal-k", url }).success;
  it.each(["ws://192.168.1.5:3000/signalk/v1/stream?subscribe=all", "wss://boat.example/x", "ws://[fe80::1]:3000/"])(
    "%s is one",
    (url) => expect(taken(url)).toBe(true),
  );
  it.each([
    ["another scheme", "http://192.168.1.5/"],
    ["a scheme within", "javascript:ws://x"],
    ["no host", "ws://"],
    ["a port that is none", "ws://boat:99999/"],
    ["a name and a password", "ws://me:secret@boat/"],
    ["a line's end", "ws://boat/\r\nX: 1"],
    ["a tab", "ws://bo\tat/"],
    ["a slash in disguise", "ws:\\\\boat/"],
    ["no address", "boat"],
  ])("%s is refused", (_, url) => expect(taken(url)).toBe(false));
});
