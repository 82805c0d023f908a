"use client";

import { App, Button, Select } from "antd";
import dynamic from "next/dynamic";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useEffect, useState } from "react";
import { AMERICAN, METRIC } from "@/core/quantity/dimension";
import { formatQuantity } from "@/core/quantity/format";
import { emptyRig, readRig, usesAwg, type Rig } from "@/core/rig/document";
import { QuantityLine } from "../fields/quantity-line";
import { VerdictBlock } from "../frame/verdict-block";
import { useKey } from "../frame/use-keys";
import { HoursBars, HoursTable } from "../pictures/hours-bars";
import { useDay } from "../state/day";
import { SheetProvider, useReading, useSheet, useSheetStore } from "../state/sheet-context";
import { createSheetStore } from "../state/sheet-store";
import { makeJob } from "../state/server-calls";

const Inspector = dynamic(() => import("../frame/inspector").then((module) => module.Inspector));
const KEPT = "chillbank.quick";

function freshRig(): Rig {
  const rig = emptyRig("Two-minute answer");
  return { ...rig, bank: { ...rig.bank, blockVoltage: { value: 12.8, origin: "plate" } } };
}

/** Six numbers in, four verdicts and the hours out: the same core, everything else assumed. */
export function QuickAnswer() {
  const [store] = useState(() => createSheetStore({ id: "quick", revision: 0, rig: freshRig() }));
  useEffect(() => {
    // What was typed survives a reload; a phone's browser drops pages that lie in the background.
    try {
      const kept = readRig(JSON.parse(sessionStorage.getItem(KEPT) ?? "null"));
      if (kept.ok) store.setState({ rig: kept.rig });
    } catch {
      // Nothing kept, or nothing readable: begin afresh.
    }
    return store.subscribe(({ rig }) => {
      try {
        sessionStorage.setItem(KEPT, JSON.stringify(rig));
      } catch {
        // Storage refused: only a reload loses what was typed.
      }
    });
  }, [store]);
  return (
    <SheetProvider store={store}>
      <Quick />
    </SheetProvider>
  );
}

const VOLTS = [12.8, 25.6, 51.2] as const;

function Quick() {
  const { rig, assessment, inspected } = useReading();
  const store = useSheetStore();
  const put = useSheet((state) => state.put);
  const change = useSheet((state) => state.change);
  const router = useRouter();
  const { message } = App.useApp();
  const [making, setMaking] = useState(false);
  const unit = rig.units[0]!;
  const cable = `path.main.${rig.path.main.findIndex(({ kind }) => kind === "cable")}`;
  const side = assessment.values.path.main.find(({ areaMm2 }) => areaMm2)?.count?.value ?? 1;
  const agm = rig.bank.chemistry === "agm";
  const volts = assessment.values.bank.blockVoltage.value;
  const american = usesAwg(rig.brief.mains);
  useKey("z", () => store.temporal.getState().undo());
  useKey("shift+z", () => store.temporal.getState().redo());
  useKey("u", () =>
    put("notation", {
      ...(rig.notation.temperature === "C" ? AMERICAN : METRIC),
      currency: rig.notation.currency,
    }),
  );
  useKey("/", () => router.push("/?find"));

  const make = async () => {
    setMaking(true);
    try {
      const id = await makeJob({
        ...rig,
        name: `Enquiry, ${new Date().toLocaleDateString("en-GB", { day: "numeric", month: "long" })}`,
      });
      sessionStorage.removeItem(KEPT);
      router.push(`/jobs/${id}/brief`);
    } catch (error) {
      setMaking(false);
      void message.error(`${(error as Error).message} Nothing typed is lost.`, 6);
    }
  };
  const { day } = useDay();
  const floor = formatQuantity(assessment.hours.find((h) => h.mode === "full")!.toReserve, "duration", rig.notation, 2);
  const lasts = day
    ? `${formatQuantity(day.verdicts.lasts.decides.has, "duration", rig.notation, 2)} through such a day and night`
    : "…";
  const { starts, carries } = assessment.verdicts;
  const touched =
    Object.values(assessment.values.units[0]!).some((known) => known?.entered) ||
    assessment.values.inverter.rating.entered ||
    assessment.values.bank.capacityAh.entered;
  const trouble = [starts, carries].find(({ word }) => word === "Stop" || word === "Fails");

  return (
    <main className="page">
      <header className="page-head">
        <h1>Two-minute answer</h1>
        <Link href="/">Jobs</Link>
        <Button onClick={() => store.setState({ rig: freshRig() })}>Clear</Button>
        <Button type="primary" loading={making} onClick={() => void make()}>
          Make it a job
        </Button>
      </header>
      <div className="quick">
        <div className="verdict-strip">
          {(["starts", "carries", "lasts", "recovers"] as const).map((name) => (
            <VerdictBlock key={name} name={name} />
          ))}
        </div>
        <section aria-label="What you know">
          <Choice
            label="Mains"
            value={rig.brief.mains}
            options={[
              ["230V50Hz", "230 V"],
              ["120V60Hz", "120 V"],
              ["120V240V60Hz", "120/240 V"],
            ]}
            onChange={(mains) =>
              change((draft) => {
                draft.brief.mains = mains;
                draft.notation = usesAwg(mains) ? AMERICAN : METRIC;
                for (const part of draft.path.main)
                  if (part.kind === "cable") part.insulation = usesAwg(mains) ? "105" : "90";
              })
            }
          />
          <Choice
            label="Air conditioner"
            value={unit.kind}
            options={[
              ["fixed", "fixed speed"],
              ["variable", "variable speed"],
              ["dc", "straight from DC"],
            ]}
            onChange={(kind) => put("units.0.kind", kind)}
          />
          <QuantityLine
            path="units.0.runningCurrent"
            label={unit.kind === "dc" ? "Running amps, DC" : "Running amps, plate or clamp"}
          />
          {unit.kind === "fixed" && (
            <>
              <QuantityLine path="units.0.lockedRotorCurrent" label="Start amps, LRA or clamp peak" />
              <Choice
                label="Soft starter"
                value={unit.cure === "soft-starter" ? "soft-starter" : "none"}
                options={[
                  ["none", "none"],
                  ["soft-starter", "fitted, learned"],
                ]}
                onChange={(cure) => put("units.0.cure", cure)}
              />
            </>
          )}
          {unit.kind !== "dc" && <QuantityLine path="inverter.rating" label="Inverter, continuous" />}
          <Choice
            label="Battery"
            value={rig.bank.chemistry}
            options={[
              ["lfp", "LFP"],
              ["agm", "AGM lead-acid"],
            ]}
            onChange={(chemistry) =>
              change((draft) => {
                draft.bank.chemistry = chemistry;
                const nearest = VOLTS.findIndex((one) => Math.abs(one - volts) < one / 4);
                draft.bank.blockVoltage = {
                  value: chemistry === "agm" ? [12, 24, 48][Math.max(0, nearest)]! : VOLTS[Math.max(0, nearest)]!,
                  origin: "plate",
                };
              })
            }
          />
          <Choice
            label="Bank"
            value={String(volts)}
            options={(agm ? [12, 24, 48] : [...VOLTS]).map(
              (v) => [String(v), `${Math.round(v / 1.07 / 12) * 12 || 12} V`] as [string, string],
            )}
            onChange={(v) => put("bank.blockVoltage", { value: Number(v), origin: "plate" })}
          />
          <QuantityLine path="bank.capacityAh" label="Bank, amp-hours in all" />
          <QuantityLine
            path={`${cable}.areaMm2`}
            label={side > 1 ? `Cable to inverter, each of ${side} a pole` : "Cable, bank to inverter"}
          />
          <QuantityLine path={`${cable}.length`} label="Its length, one way" />
          <p className="note" style={{ marginTop: 8 }}>
            Grey values are assumed. {american ? "120 V, AWG, °F." : "230 V, mm², °C."} For{" "}
            {formatQuantity(assessment.values.brief.hoursWanted.value, "duration", rig.notation)} at{" "}
            {formatQuantity(assessment.values.brief.outdoorC.value, "temperature", rig.notation)} outdoors, set to{" "}
            {formatQuantity(assessment.values.brief.setPointC.value, "temperature", rig.notation)}.
          </p>
        </section>
        <section className="quick-answer" aria-label="The answer" aria-live="polite">
          <p className="sentence">
            {!touched && "Type what you know; all of this is still assumed. "}
            {trouble
              ? `${trouble.name === "Starts" ? "It will not start" : trouble.word === "Stop" ? "Not safe as it is" : "It cannot be carried"}: ${trouble.decides.name}, ${trouble.decides.remark}. Cured, it lasts ${lasts}, ${floor} if the compressor never rests.`
              : `It starts and runs. To the reserve: ${lasts}, ${floor} if the compressor never rests.`}
          </p>
          <div style={{ marginTop: 14 }}>
            <HoursBars />
            <HoursTable />
          </div>
          <p className="note" style={{ marginTop: 10 }}>
            Estimate, not approval. Before you open the unit: isolate, prove dead, discharge its capacitors.
          </p>
        </section>
      </div>
      {inspected.length > 0 && <Inspector />}
    </main>
  );
}

interface ChoiceProps<T extends string> {
  label: string;
  value: T;
  options: [T, string][];
  onChange: (value: T) => void;
}

function Choice<T extends string>({ label, value, options, onChange }: ChoiceProps<T>) {
  return (
    <div className="line choice">
      <div className="line-row">
        <span className="label">{label}</span>
        <Select<T>
          size="small"
          aria-label={label}
          value={value}
          options={options.map(([v, l]) => ({ value: v, label: l }))}
          onChange={onChange}
          popupMatchSelectWidth={false}
        />
      </div>
    </div>
  );
}
