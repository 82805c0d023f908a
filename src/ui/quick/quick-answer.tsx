"use client";

import { App, Button, Select } from "antd";
import dynamic from "next/dynamic";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useEffect, useState } from "react";
import { AMERICAN, METRIC } from "@/core/units/dimension";
import { emptyJob, readJob, usesAwg, type Job } from "@/core/document/schema";
import { QuantityLine } from "../fields/quantity-line";
import { VerdictBlock } from "../frame/verdict-block";
import { useKeptPage } from "../state/keep-page";
import { AccountMenu } from "../people/account";
import { useKey } from "../frame/use-keys";
import { HandMethod } from "../answers/hand-method";
import { StatesTable } from "../answers/states-table";
import { StraightAnswer } from "../answers/straight-answer";
import { LastsBars } from "../pictures/hours-bars";
import { ConditionsLine } from "../place/conditions-line";
import { MonthLine } from "../stages/month-line";
import { PlaceLine } from "../place/place-line";
import { SheetProvider, useReading, useSheet, useSheetStore } from "../state/sheet-context";
import { createSheetStore } from "../state/sheet-store";
import { makeJob } from "../state/server-calls";
import { say } from "@/core/messages/say";
import { fixedSpeed, onBattery, onMains, UNIT_KIND_KEYS, UNIT_KINDS } from "@/core/document/unit-kinds";

const Inspector = dynamic(() => import("../frame/inspector").then((module) => module.Inspector));
const KEPT = "chillbank.quick";

function freshJob(): Job {
  const job = emptyJob("Two-minute answer");
  return { ...job, bank: { ...job.bank, blockVoltage: { value: 12.8, origin: "plate" } } };
}

/** A few numbers in, four verdicts and the hours out: the same document and core as a job, everything else assumed. */
export function QuickAnswer() {
  const [store] = useState(() => createSheetStore({ id: "quick", revision: 0, job: freshJob() }));
  useEffect(() => {
    // What was typed survives a reload; a phone's browser drops pages that lie in the background.
    try {
      const kept = readJob(JSON.parse(sessionStorage.getItem(KEPT) ?? "null"));
      if (kept.ok) store.setState({ job: kept.job });
    } catch {
      // Nothing kept, or nothing readable: begin afresh.
    }
    return store.subscribe(({ job }) => {
      try {
        sessionStorage.setItem(KEPT, JSON.stringify(job));
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
  const { job, assessment, inspected } = useReading();
  const store = useSheetStore();
  const put = useSheet((state) => state.put);
  const change = useSheet((state) => state.change);
  const router = useRouter();
  const { message } = App.useApp();
  const [making, setMaking] = useState(false);
  const unit = job.units[0]!;
  const cable = `wiring.main.${job.wiring.main.findIndex(({ kind }) => kind === "cable")}` as const;
  const side = assessment.values.wiring.main.find(({ areaMm2 }) => areaMm2)?.count?.value ?? 1;
  const agm = job.bank.chemistry === "agm";
  const volts = assessment.values.bank.blockVoltage.value;
  const parallel = assessment.values.bank.parallel.value;
  const inverters = assessment.values.inverter.count.value;
  const american = usesAwg(job.brief.mains);
  useKey("z", () => store.temporal.getState().undo());
  useKey("shift+z", () => store.temporal.getState().redo());
  useKey("u", () =>
    put("notation", {
      ...(job.notation.temperature === "C" ? AMERICAN : METRIC),
      currency: job.notation.currency,
    }),
  );
  useKey("/", () => router.push("/?find"));

  const make = async () => {
    setMaking(true);
    try {
      const id = await makeJob({
        ...job,
        name: `Enquiry, ${new Date().toLocaleDateString("en-GB", { day: "numeric", month: "long" })}`,
      });
      sessionStorage.removeItem(KEPT);
      router.push(`/jobs/${id}/brief`);
    } catch (error) {
      setMaking(false);
      void message.error(say("interface.whatYouTypedStill", { message: (error as Error).message }), 6);
    }
  };
  useKeptPage("/quick");
  const touched =
    Object.values(assessment.values.units[0]!).some((known) => known?.entered) ||
    assessment.values.inverter.rating.entered ||
    assessment.values.bank.capacityAh.entered;

  return (
    <main className="page">
      <header className="page-head">
        <h1>Two-minute answer</h1>
        <Link href="/">Jobs</Link>
        <AccountMenu />
        <Button onClick={() => store.setState({ job: freshJob() })}>Clear</Button>
        <Button type="primary" loading={making} onClick={() => void make()}>
          Make a job of it
        </Button>
      </header>
      <div className="quick">
        <div className="verdict-strip">
          {(["starts", "carries", "lasts", "recovers"] as const).map((name) => (
            <VerdictBlock key={name} name={name} />
          ))}
        </div>
        <ConditionsLine />
        <section aria-label="What you know">
          <PlaceLine />
          <MonthLine />
          <QuantityLine path="weather.highestC" label="or design temperature" />
          <QuantityLine path="brief.hoursWanted" />
          <QuantityLine path="brief.setPointC" />
          <Choice
            label="Mains"
            value={job.brief.mains}
            options={[
              ["230V50Hz", "230 V"],
              ["120V60Hz", "120 V"],
              ["120V240V60Hz", "120/240 V"],
            ]}
            onChange={(mains) =>
              change((draft) => {
                draft.brief.mains = mains;
                draft.notation = usesAwg(mains) ? AMERICAN : METRIC;
                for (const part of draft.wiring.main)
                  if (part.kind === "cable") part.insulation = usesAwg(mains) ? "105" : "90";
              })
            }
          />
          <Choice
            label="Air conditioner"
            value={unit.kind}
            options={UNIT_KIND_KEYS.map((kind) => [kind, UNIT_KINDS[kind].label] as const)}
            onChange={(kind) => put("units.0.kind", kind)}
          />
          <QuantityLine path="units.0.coolingPower" label="Cooling capacity, BTU/h or kW" />
          <QuantityLine
            path="units.0.runningCurrent"
            label={onBattery(unit) ? "Running current, DC" : "Running current, plate or clamp"}
          />
          {fixedSpeed(unit) && (
            <>
              <QuantityLine path="units.0.lockedRotorCurrent" label="Start current: LRA or clamp peak" />
              <Choice
                label="Soft starter"
                value={unit.startAid === "soft-starter" ? "soft-starter" : "none"}
                options={[
                  ["none", "none"],
                  ["soft-starter", "fitted, learned"],
                ]}
                onChange={(startAid) => put("units.0.startAid", startAid)}
              />
            </>
          )}
          {onMains(unit) && (
            <QuantityLine
              path="inverter.rating"
              label={inverters > 1 ? "Inverter, continuous, each" : "Inverter, continuous"}
            />
          )}
          {onMains(unit) && inverters > 1 && <QuantityLine path="inverter.count" />}
          {onMains(unit) && (
            <Choice
              label={`Neutral to ${american ? "ground" : "earth"}`}
              value={job.inverter.neutralBond}
              options={[
                ["unsaid", "not stated"],
                ["relay", "by the inverter’s relay"],
                ["fixed", "fixed bond"],
                ["none", "no bond"],
              ]}
              onChange={(neutralBond) => put("inverter.neutralBond", neutralBond)}
            />
          )}
          <Choice
            label="Battery"
            value={job.bank.chemistry}
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
            label="Battery voltage"
            value={String(volts)}
            options={(agm ? [12, 24, 48] : [...VOLTS]).map(
              (v) => [String(v), `${Math.round(v / 1.07 / 12) * 12 || 12} V`] as [string, string],
            )}
            onChange={(v) => put("bank.blockVoltage", { value: Number(v), origin: "plate" })}
          />
          <QuantityLine
            path="bank.capacityAh"
            label={parallel > 1 ? "Battery capacity, each" : "Battery capacity, all together"}
          />
          {parallel > 1 && <QuantityLine path="bank.parallel" label="Batteries in parallel" />}
          <QuantityLine
            path={`${cable}.areaMm2`}
            label={side > 1 ? `Cable to inverter, each of ${side} a pole` : "Cable, battery to inverter"}
          />
          <QuantityLine path={`${cable}.length`} label="Cable length, one way" />
          <p className="note" style={{ marginTop: 8 }}>
            {say("interface.greyAssumed")} {american ? "120 V, AWG, °F." : "230 V, mm², °C."}
          </p>
        </section>
        <section className="quick-answer" aria-label="The answer" aria-live="polite">
          {!touched && <p className="note">{say("interface.typeWhatYouKnow")}</p>}
          <StraightAnswer />
          <LastsBars />
          <StatesTable />
          <HandMethod />
          <p className="note" style={{ marginTop: 10 }}>
            {say("interface.estimateNotApprovalBefore")}
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
