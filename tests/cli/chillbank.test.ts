import { spawnSync } from "node:child_process";
import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { emptyRig } from "@/core/rig/document";
import { assess } from "@/core/verdict/assess";
import { q, rigOf } from "../rigs";

const ROOT = join(import.meta.dirname, "../..");
const folder = mkdtempSync(join(tmpdir(), "chillbank-cli-"));
const run = (args: string[], input?: string) => {
  // Neither a database nor a browser: the environment names none, and the working folder is elsewhere.
  const { status, stdout, stderr } = spawnSync(join(ROOT, "bin/chillbank"), args, {
    cwd: folder,
    input,
    encoding: "utf8",
    env: { NODE_ENV: "production", PATH: process.env.PATH, HOME: process.env.HOME },
  });
  return { status, stdout, stderr };
};
const file = (name: string, content: string) => {
  writeFileSync(join(folder, name), content);
  return name;
};

describe("chillbank assess", () => {
  const rig = rigOf({ unit: { runningCurrent: q(6) }, bank: { capacityAh: q(300) } });
  it("prints the core's assessment as JSON, for a file named from where it is called", () => {
    const { status, stdout } = run(["assess", file("rig.json", JSON.stringify(rig))]);
    const printed = JSON.parse(stdout) as { verdicts: unknown; hours: unknown };
    const { verdicts, hours } = assess(rig);
    expect(status).toBe(0);
    expect(printed.verdicts).toEqual(JSON.parse(JSON.stringify(verdicts)));
    expect(printed.hours).toEqual(JSON.parse(JSON.stringify(hours)));
  });
  it("prints a sheet to read with --text, sums and cautions included", () => {
    const { status, stdout } = run(["assess", "-", "--text"], JSON.stringify(rig));
    expect(status).toBe(0);
    expect(stdout).toMatch(/^Test rig\n=+\n\nStarts +(Holds|Tight|Fails|Stop)/);
    expect(stdout).toMatch(/Hours to the reserve[\s\S]*lethal charge[\s\S]*Sums[\s\S]*Source:/);
  });
  it.each<[string, string[], string, RegExp[]]>([
    ["a file that is not there", ["assess", "nowhere.json"], "", [/nowhere\.json: .*no such file/i]],
    ["text that is not JSON", ["assess", "-"], "not\njson", [/not JSON/]],
    [
      "two faults, a line each",
      ["assess", "-"],
      JSON.stringify({
        ...emptyRig("x"),
        name: "",
        bank: { chemistry: "lfp", build: "batteries", frostBlock: true, reserve: { value: 2, origin: "plate" } },
      }),
      [/: name: /, /: bank\.reserve\.value: Reserve: at most/],
    ],
    ["an unknown command", ["dance"], "", [/cannot dance/, /--help/]],
    ["an unknown option", ["assess", "--loud"], "", [/--loud/, /--help/]],
    ["nothing", [], "", [/nothing to do/, /--help/]],
  ])("ends with status 2 on %s", (_, args, input, expected) => {
    const { status, stdout, stderr } = run(args, input);
    expect([status, stdout]).toEqual([2, ""]);
    const lines = stderr.trim().split("\n");
    expect(lines).toHaveLength(expected.length);
    expected.forEach((pattern, i) => expect(lines[i]).toMatch(pattern));
  });
});

it("chillbank schema prints the JSON Schema of the document", () => {
  const { status, stdout } = run(["schema"]);
  expect(status).toBe(0);
  expect(JSON.parse(stdout)).toMatchObject({
    $schema: expect.stringContaining("2020-12"),
    properties: { format: { const: "chillbank-rig" } },
  });
});
