/*
 * Batteries in parallel share a current by the resistance of each way to the common terminals. All have the same
 * voltage at rest; what differs is the links.
 */

export type LinkLayout = "busbars" | "own-leads" | "chain-diagonal" | "chain-one-end";

export interface Sharing {
  /** Share of the whole current that each battery gives, in order; together one. */
  shares: number[];
  /** Ohm from the batteries' common rest voltage to the terminals. */
  resistance: number;
}

/**
 * Sharing among `count` batteries of `inner` ohm each.
 *
 * `links` are ohms of one pole's link: for `own-leads` the lead of each battery (as many as batteries), for chains the
 * link from each battery to the next (one fewer). `busbars` needs none: leads are equal and counted in the batteries.
 * Chains are taken off both poles of the first battery (`chain-one-end`), or off the first's plus and the last's minus
 * (`chain-diagonal`). Kirchhoff's laws, solved exactly.
 */
export function shareAmong(layout: LinkLayout, count: number, inner: number, links: readonly number[]): Sharing {
  const even = { shares: Array.from({ length: count }, () => 1 / count), resistance: inner / count };
  if (count < 2 || layout === "busbars") return even;
  if (layout === "own-leads") {
    const conductances = even.shares.map((_, i) => 1 / (inner + 2 * (links[i] ?? 0)));
    const whole = conductances.reduce((sum, one) => sum + one, 0);
    return { shares: conductances.map((one) => one / whole), resistance: 1 / whole };
  }
  const diagonal = layout === "chain-diagonal";
  // inner (I_i - I_i+1) = a_i (what passes the plus link and, in the opposite or same sense, the minus link); sum I = 1.
  const rows = Array.from({ length: count }, (_, i) => {
    const row = Array.from({ length: count + 1 }, () => 0);
    if (i === count - 1) return row.fill(1);
    const link = links[i] ?? 0;
    for (let k = 0; k < count; k++) {
      const beyond = k > i ? 1 : 0;
      row[k] = -link * (diagonal ? beyond - (1 - beyond) : 2 * beyond);
    }
    row[i]! += inner;
    row[i + 1]! -= inner;
    return row;
  });
  const shares = solve(rows);
  let resistance = inner * shares[0]!;
  if (diagonal) {
    let before = 0;
    for (let i = 0; i < count - 1; i++) {
      before += shares[i]!;
      resistance += (links[i] ?? 0) * before;
    }
  }
  return { shares, resistance };
}

/** Solves a small linear system given as rows with the right-hand side last: Gauss with pivoting, in place. */
function solve(rows: number[][]): number[] {
  const n = rows.length;
  for (let column = 0; column < n; column++) {
    let pivot = column;
    for (let r = column + 1; r < n; r++) if (Math.abs(rows[r]![column]!) > Math.abs(rows[pivot]![column]!)) pivot = r;
    [rows[column], rows[pivot]] = [rows[pivot]!, rows[column]!];
    for (let r = column + 1; r < n; r++) {
      const factor = rows[r]![column]! / rows[column]![column]!;
      for (let k = column; k <= n; k++) rows[r]![k]! -= factor * rows[column]![k]!;
    }
  }
  const out = Array.from({ length: n }, () => 0);
  for (let r = n - 1; r >= 0; r--) {
    let left = rows[r]![n]!;
    for (let k = r + 1; k < n; k++) left -= rows[r]![k]! * out[k]!;
    out[r] = left / rows[r]![r]!;
  }
  return out;
}
