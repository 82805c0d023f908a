/** The part of the package odex that the tests use: it ships old TypeScript sources in place of declarations. */
export class Solver {
  constructor(size: number);
  absoluteTolerance: number | number[];
  relativeTolerance: number | number[];
  initialStepSize: number;
  solve(f: (x: number, y: number[]) => number[], from: number, y: number[], to: number): { y: number[] };
}
