import { readFileSync } from "node:fs";
import { callCommand } from "./call";

/* The command line's process: bin/chillbank starts it. */
process.stdout.on("error", (error: NodeJS.ErrnoException) => process.exit(error.code === "EPIPE" ? 0 : 1));

process.exitCode = await callCommand(process.argv.slice(2), {
  folder: process.env.CHILLBANK_CWD ?? ".",
  stdin: () => readFileSync(0, "utf8"),
  out: (text) => process.stdout.write(text),
  err: (text) => process.stderr.write(text),
  watched: process.stderr.isTTY,
});
