"use client";

import Link from "next/link";
import { useEffect, useRef, useState } from "react";
import { parseField, parseTyped } from "@/core/applications/test-run/log/typed";
import { noteOfSetting, settingOf, type SaidMode } from "@/core/applications/test-run/log/settings-said";
import { parseQuantity } from "@/core/units/parse";
import { formatQuantity, significant } from "@/core/units/format";
import { timeZoneOfJob } from "@/core/document/place";
import type { RunConditions } from "@/core/applications/test-run/site/conditions";
import type { Job } from "@/core/document/schema";
import { type Column, type Reading } from "@/core/applications/test-run/log/readings";
import type { Source } from "@/contract/test-runs";
import { post } from "../state/outbox";
import { useHydrated } from "../state/use-hydrated";
import { useOutbox } from "../state/use-outbox";
import { useTestRunDesk } from "../state/test-run";
import { changeTestRun, takeBackSetting } from "../state/test-run-calls";
import { conditionsInWords, RunConditionsForm } from "../stages/run-conditions";
import { wallClock } from "../stages/test-run-parts";
import { RefusedReadings } from "../stages/test-run-aside";
import { momentOfRun } from "../stages/test-run-moment";
import { forecastInWords, setInWords, wordsOf } from "../stages/test-run-words";
import { keepPage, type Keeping } from "../state/keep-page";
import { say } from "@/core/messages/say";
import { v4 as uuid } from "uuid";

interface Field {
  column: Column;
  label: string;
  unit(job: Job): string;
  /** Shown with the first four; the rest wait behind More. */
  first: boolean;
}
const FIELDS: Field[] = [
  { column: "battery_current_a", label: "Amps out", unit: () => "A", first: true },
  { column: "battery_voltage_v", label: "Volts", unit: () => "V", first: true },
  { column: "soc_pct", label: "State of charge", unit: () => "%", first: true },
  { column: "cabin_temp_c", label: "Cabin", unit: ({ notation }) => `°${notation.temperature}`, first: true },
  { column: "outdoor_temp_c", label: "Outdoor", unit: ({ notation }) => `°${notation.temperature}`, first: false },
  { column: "solar_power_w", label: "Sun", unit: () => "W", first: false },
  { column: "ac_power_w", label: "Mains", unit: () => "W", first: false },
];
const MODES = [
  ["auto", "auto"],
  ["low", "low fan"],
  ["fan", "fan only"],
  ["off", "off"],
] as const;
const NONE: readonly string[] = [];

interface Props {
  testRunId: string;
  name: string;
  startedMs: number;
  finished: boolean;
  /** The instrument that ran on it as the page was opened. */
  source: Source | null;
  conditions: RunConditions | null;
  jobId: string;
  job: Job;
}

/** The page for the hand at the meter: thumb-sized, one reading in under ten seconds, kept without reception. */
export function PhoneTestRun(props: Props) {
  const { testRunId, name, startedMs, finished, source, conditions: saidBefore, jobId, job } = props;
  const [conditions, setConditions] = useState(saidBefore);
  const [typed, setTyped] = useState<Partial<Record<Column, string>>>({});
  const [note, setNote] = useState("");
  const [mode, setMode] = useState<SaidMode | null>(null);
  const [setPoint, setSetPoint] = useState("");
  const [time, setTime] = useState("");
  const [lastSet, setLastSet] = useState<{ id: string; words: string } | null>(null);
  const [photo, setPhoto] = useState<File | null>(null);
  const [more, setMore] = useState(false);
  const [wrong, setWrong] = useState<Partial<Record<Column, string>>>({});
  const hydrated = useHydrated();
  const [kept, setKept] = useState<string | null>(null);
  const outbox = useOutbox(testRunId, 10_000);
  const { left } = outbox;
  const [refused, setRefused] = useState("");
  const [keeping, setKeeping] = useState<Keeping | null>(null);
  const first = useRef<HTMLInputElement>(null);
  const { answer, add, reload, busy } = useTestRunDesk(testRunId, { job, conditions }, NONE);
  const zone = timeZoneOfJob(job);
  const degrees = (v: number) => formatQuantity(v, "temperature", job.notation, 3);
  const view = answer?.ok ? answer.view : null;

  useEffect(() => {
    void keepPage().then(setKeeping);
  }, []);
  const keep = async () => {
    const values: Reading["values"] = {};
    const faults: typeof wrong = {};
    for (const { column, label } of FIELDS) {
      const text = typed[column]?.trim();
      if (!text) continue;
      const read = parseField(column, text, job.notation);
      if (read.ok) values[column] = read.value;
      else faults[column] = `${label}: ${read.message}`;
    }
    setWrong(faults);
    if (Object.keys(faults).length > 0) return;
    const degreesSet = setPoint.trim() === "" ? null : parseQuantity(setPoint, "temperature", job.notation);
    if (degreesSet && !degreesSet.ok) return setRefused(degreesSet.message);
    const set = noteOfSetting(degreesSet?.ok ? degreesSet.value : null, mode, job.notation.temperature);
    if (settingOf(set).unclear) return setRefused(say("testRun.setPointOutside", { text: setPoint.trim() }));
    const nowMs = momentOfRun(source, view ? view.startMs + 1000 * view.lastS : startedMs);
    const typedTime = time.trim() === "" ? null : parseTyped(`${time} - x`, false, { nowMs, timeZone: zone });
    if (typedTime && (!typedTime.ok || typedTime.timeMs === null))
      return setRefused(typedTime.ok ? say("interface.notTimeOfDay", { text: time }) : typedTime.message);
    const words = [set, note.trim()].filter(Boolean).join("; ");
    if (Object.keys(values).length === 0 && !words && !photo) return setRefused(say("interface.typeValueNoteTake"));
    const reading = {
      id: uuid(),
      timeMs: typedTime?.ok ? typedTime.timeMs! : nowMs,
      values,
      ...(words ? { note: words } : {}),
      ...(photo ? { photoId: uuid() } : {}),
    };
    await post(testRunId, reading, photo);
    setTyped({});
    setNote("");
    setMode(null);
    setSetPoint("");
    setTime("");
    setLastSet(set ? { id: reading.id, words: set } : null);
    setPhoto(null);
    setRefused("");
    setKept(
      `${wallClock(reading.timeMs, zone)(0)} ${[wordsOf(values, degrees), words].filter(Boolean).join(" - ") || "photo"}`,
    );
    if (Object.keys(values).length > 0 || set)
      add([{ timeMs: reading.timeMs, values, ...(words ? { note: words } : {}) }]);
    first.current?.focus();
    await outbox.send();
  };
  const clock = wallClock(view?.startMs ?? startedMs, zone);
  const shown = FIELDS.filter((field) => more || field.first);
  return (
    <main className="phone">
      <header>
        <Link href={`/jobs/${jobId}/test-run`}>{job.name}</Link>
        <h1>{name}</h1>
        <p className="phone-forecast" role="status">
          {view
            ? forecastInWords(view, clock)
            : busy
              ? "Reading the log …"
              : say("testRun.forecastBeginsThreeReadings")}
        </p>
        {view && (
          <p className="note">
            {say("interface.countedAndByHand", {
              charge: `${Math.round(100 * (view.socNow.p50 ?? 0))} %`,
              charging: view.hand.average === null ? "yes" : "no",
              hours: view.hand.average === null ? "" : significant(view.hand.average, 2),
            })}
          </p>
        )}
      </header>
      {finished ? (
        <p className="sentence">{say("interface.testRunFinished")}</p>
      ) : (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            void keep();
          }}
        >
          <fieldset disabled={!hydrated}>
            <div className="phone-fields">
              {shown.map(({ column, label, unit }, i) => (
                <label key={column} data-wrong={wrong[column] ? "" : undefined}>
                  <span>
                    {label} <i>{unit(job)}</i>
                  </span>
                  <input
                    ref={i === 0 ? first : undefined}
                    inputMode="decimal"
                    enterKeyHint="next"
                    autoComplete="off"
                    value={typed[column] ?? ""}
                    aria-invalid={wrong[column] ? true : undefined}
                    onChange={(event) => setTyped((now) => ({ ...now, [column]: event.target.value }))}
                  />
                </label>
              ))}
            </div>
            <button type="button" className="phone-more" aria-expanded={more} onClick={() => setMore(!more)}>
              {more ? "Fewer" : "Outdoor, sun, mains, time"}
            </button>
            {view && <p className="note">Set now: {setInWords(view.setNow, degrees)}</p>}
            <div className="phone-modes" role="group" aria-label="Mode">
              {MODES.map(([one, label]) => (
                <button
                  key={one}
                  type="button"
                  aria-pressed={mode === one}
                  onClick={() => setMode(mode === one ? null : one)}
                >
                  {label}
                </button>
              ))}
            </div>
            <div className="phone-fields">
              <label>
                <span>
                  New set point <i>°{job.notation.temperature}</i>
                </span>
                <input
                  inputMode="decimal"
                  autoComplete="off"
                  placeholder={view ? degrees(view.setNow.setC) : ""}
                  value={setPoint}
                  onChange={(event) => setSetPoint(event.target.value)}
                />
              </label>
              {more && (
                <label>
                  <span>Time, if not now</span>
                  <input
                    inputMode="numeric"
                    autoComplete="off"
                    placeholder="12:10"
                    value={time}
                    onChange={(event) => setTime(event.target.value)}
                  />
                </label>
              )}
            </div>
            <div className="phone-note">
              <input
                aria-label="Note"
                placeholder="Note; start 1: clamp peak 38 A"
                maxLength={450}
                value={note}
                onChange={(event) => setNote(event.target.value)}
              />
              <label className="phone-photo" data-set={photo ? "" : undefined}>
                {photo ? "Photo ready" : "Photo"}
                <input
                  type="file"
                  accept="image/jpeg,image/png,image/webp"
                  capture="environment"
                  onChange={(event) => setPhoto(event.target.files?.[0] ?? null)}
                />
              </label>
            </div>
            {Object.values(wrong).map((words) => (
              <p key={words} className="heat" role="alert">
                {words}
              </p>
            ))}
            {refused && (
              <p className="heat" role="alert">
                {refused}
              </p>
            )}
            <button type="submit" className="phone-keep">
              Save reading
            </button>
          </fieldset>
        </form>
      )}
      <p className="note" role="status" data-waiting={left}>
        {left > 0
          ? `${left} ${left === 1 ? "reading waits" : "readings wait"} in this phone until there is reception`
          : kept
            ? `Saved: ${kept}`
            : say("interface.timeRecordedItselfNegative")}
      </p>
      {lastSet && left === 0 && (
        <button
          type="button"
          className="phone-more"
          onClick={() =>
            void takeBackSetting(testRunId, lastSet.id, lastSet.words).then(
              () => {
                setLastSet(null);
                reload();
              },
              (error: Error) => setRefused(error.message),
            )
          }
        >
          Undo “{lastSet.words}”
        </button>
      )}
      {!finished && (
        <details className="phone-conditions">
          <summary>Conditions: {conditionsInWords(conditions, job.notation) || "not stated yet"}</summary>
          <RunConditionsForm
            conditions={conditions}
            notation={job.notation}
            change={async (next) => {
              await changeTestRun(testRunId, { conditions: next });
              setConditions(next);
            }}
          />
        </details>
      )}
      <RefusedReadings outbox={outbox} job={job} startMs={view?.startMs ?? startedMs} zone={zone} />
      {keeping && (
        <p className="note" data-keeping={keeping}>
          {keeping === "kept" ? say("interface.pageAlsoOpensWithout") : say("interface.keepPageOpenCannot")}
        </p>
      )}
      <p className="note">{say("interface.doNotLetPerson")}</p>
    </main>
  );
}
