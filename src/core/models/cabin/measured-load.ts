import { PART_LOAD_LOSS } from "../air-conditioner/air-conditioner";
import { constant, given, of, traced, type TracedValue } from "../../units/trace";
import type { System } from "../system/system";
import { airChangeHeat, cabinModel, PERSON } from "./cabin";
import { fixedSpeed, topCooling } from "../../document/unit-kinds";

/** A measured duty says little of the cabin where outdoors is less than this over the set point, K. */
const LEAST_DIFFERENCE_K = 3;
/** How far a heat loss by measured duty may lie from that of the cabin's parts. */
const [LEAST, MOST] = [0.3, 3];

/**
 * Heat loss of the cabin, W/K, that makes the units' measured duty: cooling given = heat coming in, at night, in balance.
 * Null where no duty was measured, where the heat loss was entered or fitted, or where it was about as cool outdoors as
 * inside. The figure says what it stands on.
 */
export function heatLossOfDuty(system: System): TracedValue | null {
  const { job, values, units } = system;
  const measured = units.filter(({ holding }) => holding !== null);
  if (values.cabin.heatLoss || measured.length === 0 || measured.length < units.length) return null;
  const outdoorC = measured[0]!.holding!.outdoorC;
  const setPointC = values.brief.setPointC.value;
  const difference = outdoorC - setPointC;
  if (difference < LEAST_DIFFERENCE_K) return null;
  const cooling = measured.reduce((sum, { index, holding }) => {
    const v = values.units[index]!;
    const duty = holding!.duty.value;
    // A compressor that starts takes a while to cool in full: AHRI 210/240's part-load factor, turned round.
    const part = fixedSpeed(job.units[index]!) ? (duty * (1 - PART_LOAD_LOSS)) / (1 - PART_LOAD_LOSS * duty) : duty;
    const full = v.coolingPower.value * topCooling(job.units[index]!);
    const capacity = full * Math.max(0.3, 1 - v.capacityPerKelvin.value * (outdoorC + v.condenserRise.value - 35));
    return sum + part * capacity * v.sensibleHeatRatio.value;
  }, 0);
  const cabin = cabinModel(values, job);
  const people = 2 * PERSON.asleep.sensible;
  const gains = people + cabin.heatInside;
  const air = cabin.airChanges * airChangeHeat(cabin.volume, 101_325, outdoorC);
  const wanted = (cooling - gains) / difference - air;
  const value = Math.min(MOST * cabin.heatLoss, Math.max(LEAST * cabin.heatLoss, wanted));
  return traced({
    key: "cabin.heatLoss",
    name: "Heat loss, by the measured duty",
    dimension: "conductance",
    value,
    relation: value === wanted ? "G = (Q − Q_g) ÷ (T − T_s) − G_a" : "G = G_l",
    terms: () =>
      value === wanted
        ? [
            constant("Q", "Sensible cooling at that duty", cooling, "power", "duty × capacity × sensible heat ratio"),
            constant("Q_g", "People and equipment", gains, "power", "two asleep, and what runs inside"),
            constant("T", "Outdoors when measured", outdoorC, "temperature", "of the measurement"),
            given("T_s", values.brief.setPointC),
            constant("G_a", "Air changes", air, "conductance", "cabin shut"),
          ]
        : [
            constant("G_l", "Limit", value, "conductance", "0.3 to 3 times the sum of roof, walls, floor and glass"),
            ...measured.map(({ holding, index }) => of(`r_${index + 1}`, holding!.duty)),
          ],
    source: "heat balance at night: cooling given equals heat coming in",
  });
}
