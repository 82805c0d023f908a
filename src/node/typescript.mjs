/*
 * `node --import ./src/node/typescript.mjs FILE.ts` runs TypeScript where much is computed. tsx finds the modules; they are
 * compiled by typescript-load.mjs, because code that tsx compiles stores the name of a function each time that the function
 * is made, and a simulation makes many small ones: it takes a quarter longer.
 */
import { register } from "node:module";
import { register as registerTsx } from "tsx/esm/api";

registerTsx();
register("./typescript-load.mjs", import.meta.url);
