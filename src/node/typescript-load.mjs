/* Node's hook for loading modules (node:module, `register`): compiles the project's own TypeScript. */
import { readFile } from "node:fs/promises";
import { fileURLToPath } from "node:url";
import { transform } from "esbuild";

/** The module at `url` as JavaScript, where it is the project's TypeScript; any other is left to the next hook. */
export async function load(url, context, nextLoad) {
  const [, extension] = /^file:(?!.*\/node_modules\/)[^?]*\.(tsx?)(?:\?|$)/.exec(url) ?? [];
  if (!extension) return nextLoad(url, context);
  const file = fileURLToPath(url);
  const { code } = await transform(await readFile(file, "utf8"), {
    loader: extension,
    format: "esm",
    target: `node${process.versions.node}`,
    jsx: "automatic",
    sourcefile: file,
    // For the lines that an error names; the sources themselves are at hand.
    sourcemap: "inline",
    sourcesContent: false,
  });
  return { format: "module", source: code, shortCircuit: true };
}
