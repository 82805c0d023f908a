import { describe, expect, it } from "vitest";
import { emptyRig } from "@/core/rig/document";
import { trialOf } from "./forecast";
import { carry, startOf, trackOf, type Member, type MemberState } from "./member";
import { middleOf } from "./prior";
import { fromList } from "./readings";

const log = fromList(
  Array.from({ length: 60 }, (_, i) => ({
    timeMs: Date.UTC(2026, 6, 14, 20) + i * 60_000,
    values: { battery_current_a: -20, battery_voltage_v: 13.1 },
  })),
);
const { site, prior, log: read } = trialOf(emptyRig("Slab"), log);
const { cabin } = site.run;
/** The unit off, no sun, nobody on board. */
const still = (change: Partial<Member>): Member => ({
  ...middleOf(prior),
  sun: 0,
  gains: 0,
  airChanges: 0,
  cabinC: 20,
  massC: 30,
  ...change,
});
const resting = { ...read.settings, mode: new Int8Array(site.steps) };
/** The member's state after so many hours. */
function after(member: Member, hours: number): MemberState {
  const state = startOf(site, member);
  carry(site, member, resting, state, 0, Math.round((hours * 3600) / site.stepS), trackOf(site.steps));
  return state;
}

describe("the slow mass of a member", () => {
  // So much air that its temperature stands: the slab's face is held at 20 degC.
  const held = still({ lightMass: 1e9 });
  const capacity = cabin.slowMass * held.slowMass;
  const conductance = cabin.coupling * held.coupling;
  const first = 8 / Math.PI ** 2;
  /** Time constant of the slab's first mode, s. */
  const tau = (first * capacity) / (conductance / 2);
  /** Heat out of a slab over what it holds, by t: Carslaw and Jaeger 1959, 3.3 (from memory). */
  const given = (t: number) => {
    let left = 0;
    for (let n = 1; n < 80; n += 2) left += (first / (n * n)) * Math.exp((-n * n * t) / tau);
    return 1 - left;
  };
  // Two modes for all of them: a little off before the first has begun to lead.
  it.each([
    [0.5, 0.03],
    [1, 0.02],
    [1.5, 0.01],
    [2, 0.01],
    [3, 0.01],
  ])("has given by %f of its time constant what a slab has, within %f", (share, off) => {
    const { massC, deepC } = after(held, (share * tau) / 3600);
    const left = (1 - first) * (massC - 20) + first * (deepC - 20);
    expect(Math.abs(1 - left / 10 - given(share * tau))).toBeLessThan(off);
  });
  it("goes on giving where one exponential of its heat and conductance would be over", () => {
    const { massC, deepC } = after(held, (2 * tau) / 3600);
    const flow = (conductance / 2) * (massC - 20 + deepC - 20);
    expect(flow).toBeGreaterThan(1.5 * conductance * 10 * Math.exp((-2 * tau * conductance) / capacity));
  });
});

describe("a cabin that loses nothing", () => {
  it.each([0.5, 2, 12])("holds its heat for %f hours", (hours) => {
    const shut = still({ heatLoss: 0 });
    const heat = ({ cabinC, massC, deepC }: Pick<MemberState, "cabinC" | "massC" | "deepC">) => {
      const deep = 8 / Math.PI ** 2;
      return (
        cabin.lightMass * shut.lightMass * cabinC + cabin.slowMass * shut.slowMass * ((1 - deep) * massC + deep * deepC)
      );
    };
    const before = heat(startOf(site, shut));
    const state = after(shut, hours);
    // By night, with no loss through the skin, nothing is left but what the nodes give each other.
    expect(Math.abs(heat(state) / before - 1)).toBeLessThan(1e-9);
    expect(state.cabinC).toBeGreaterThan(20);
    expect(state.deepC).toBeLessThan(30);
  });
});
