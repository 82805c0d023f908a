import { readFileSync } from "node:fs";
import { resolve } from "node:path";
import { parseArgs } from "node:util";
import { readRigText, rigJsonSchema } from "../core/rig/document";
import { assess } from "../core/verdict/assess";
import { assessmentAsJson, assessmentAsText } from "../core/verdict/report";

const USAGE = `Usage:
  chillbank assess RIG.json [--text]   the assessment as JSON, or as a sheet to read (RIG.json may be - for standard input)
  chillbank schema                     the JSON Schema of the rig document
Exit status: 0 done, 2 the input or the call is at fault (one line a fault on standard error).
`;

function fail(...lines: string[]): never {
  for (const line of lines) process.stderr.write(`chillbank: ${line.replace(/\s+/g, " ")}\n`);
  process.exit(2);
}

function assessFile(file: string, text: boolean): void {
  let content: string;
  try {
    content =
      file === "-" ? readFileSync(0, "utf8") : readFileSync(resolve(process.env.CHILLBANK_CWD ?? ".", file), "utf8");
  } catch (error) {
    fail(`${file}: ${(error as Error).message}`);
  }
  const read = readRigText(content);
  if (!read.ok) fail(...read.faults.map(({ path, message }) => `${file}: ${path ? `${path}: ` : ""}${message}`));
  const assessment = assess(read.rig);
  process.stdout.write(
    text ? assessmentAsText(read.rig, assessment) : `${JSON.stringify(assessmentAsJson(assessment), null, 2)}\n`,
  );
}

let call: { values: { text?: boolean; help?: boolean }; positionals: string[] };
try {
  call = parseArgs({
    allowPositionals: true,
    options: { text: { type: "boolean" }, help: { type: "boolean", short: "h" } },
  });
} catch (error) {
  fail((error as Error).message, "see chillbank --help");
}
const [command, ...rest] = call.positionals;
if (call.values.help) process.stdout.write(USAGE);
else if (command === "schema" && rest.length === 0)
  process.stdout.write(`${JSON.stringify(rigJsonSchema(), null, 2)}\n`);
else if (command === "assess" && rest.length === 1) assessFile(rest[0]!, call.values.text ?? false);
else fail(command ? `cannot ${[command, ...rest].join(" ").slice(0, 80)}` : "nothing to do", "see chillbank --help");
