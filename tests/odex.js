// The package's types are beside this file, so that its old TypeScript sources are not read.
export { Solver } from "odex";
