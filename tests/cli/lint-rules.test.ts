import { spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, expect, test } from "vitest";

const ROOT = join(import.meta.dirname, "../..");
let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), "chillbank-lint-"));
});
afterAll(() => rmSync(folder, { recursive: true }));

/** Lines of a text at which one of the project's own rules of lint finds something. */
function linesFound(rule: string, lines: string[]): number[] {
  const [file, config] = [join(folder, "some.tsx"), join(folder, "config.json")];
  writeFileSync(file, lines.join("\n"));
  const jsPlugins = [join(ROOT, "tools/lint-rules.mjs")];
  writeFileSync(config, JSON.stringify({ jsPlugins, rules: { [`chillbank/${rule}`]: "error" } }));
  const oxlint = join(ROOT, "node_modules/oxlint/bin/oxlint");
  const { stdout } = spawnSync(process.execPath, [oxlint, "--allow=all", "--format=json", "--config", config, file], {
    encoding: "utf8",
  });
  const { diagnostics } = JSON.parse(stdout) as {
    diagnostics: { code: string; labels: { span: { line: number } }[] }[];
  };
  return diagnostics
    .filter(({ code }) => code === `chillbank(${rule})`)
    .map(({ labels }) => labels[0]!.span.line)
    .sort();
}

test("a sentence that a screen shows stands in the catalogue of messages", () => {
  const found = linesFound("sentences", [
    "const note = 'The fuse is too small.';",
    "const view = <p>Measure it once more.</p>;",
    "const ask = (name: string) => `Delete ${name} and all of its readings?`;",
    "const unit = 'kW h';",
    "const word = <b>Starts</b>;",
    "const address = (id: string) => `/jobs/${id}/day`;",
  ]);
  expect(found).toEqual([1, 2, 3]);
});

test("an object of the core has no accessor, a class may", () => {
  const found = linesFound("accessors", [
    "const one = { get hours() { return 4; } };",
    "class Run { get hours() { return 4; } }",
    "const two = { hours: 4 };",
  ]);
  expect(found).toEqual([1]);
});
