"use client";

import { Button, Input, Progress, Segmented } from "antd";
import { Fragment, useMemo, useState, type ReactNode } from "react";
import { CAUTIONS } from "@/core/applications/fault-finding/cautions";
import type { Bench } from "@/core/applications/fault-finding/readings";
import {
  INSPECTION_PARTS,
  PARTS,
  passes,
  progressOf,
  runSheet,
  type Step,
  type StepPart,
} from "@/core/applications/handover/commissioning";
import { inspectionProgress, inspectionSheet } from "@/core/applications/handover/inspection";
import { failedSafety } from "@/core/applications/handover/state";
import { editableQuantity, formatQuantity } from "@/core/units/format";
import { parseQuantity } from "@/core/units/parse";
import type { StepDone } from "@/core/document/schema";
import { keepEnquiry, NO_ENQUIRY } from "../state/enquiry";
import { keepText, useKeptText } from "../state/kept-text";
import { useReading, useSheet } from "../state/sheet-context";
import { usePhotos, type Photos } from "../state/use-photos";
import { Caution, Group, StageFrame } from "./parts";
import { PhotoButton, StepPhotos } from "./step-photos";
import { say } from "@/core/messages/say";

const INITIALS = "chillbank.initials";
/** Which of the two sheets was looked at last. */
const SHEET = "chillbank.commissioning-sheet";
/** What the last reading of the inspection was made with. */
const INSTRUMENT = "chillbank.instrument";
const blank = (step: Step): StepDone => ({
  step: step.key,
  fields: step.fields.map(() => null),
  passed: null,
  reason: "",
  by: "",
  at: null,
});

/** The commissioning run sheet: steps in a safe order, each with what it should be, a reading, and pass or not. */
export function CommissioningStage() {
  const { job, assessment } = useReading();
  const change = useSheet((state) => state.change);
  const id = useSheet((state) => state.id);
  const by = useKeptText(INITIALS);
  const bench = useMemo<Bench>(() => ({ job, assessment }), [job, assessment]);
  const steps = useMemo(() => runSheet(bench), [bench]);
  const done = job.handover.steps;
  const points = useMemo(() => inspectionSheet(bench), [bench]);
  const inspected = inspectionProgress(points, done);
  const photos = usePhotos(id);
  const sheet = useKeptText(SHEET) === "inspection" ? "inspection" : "run";
  const { passed, failed, open } = progressOf(steps, done);
  const stopped = failedSafety(steps, done);
  // What comes after a safety step that failed waits until it is put right.
  const waitsFrom = stopped.length > 0 ? steps.indexOf(stopped[0]!) : Infinity;
  const next = stopped[0] ?? steps.find(({ key }) => (done.find((one) => one.step === key)?.passed ?? null) === null);
  const note = (step: Step, recipe: (one: StepDone) => void) =>
    change((draft) => {
      const list = draft.handover.steps;
      if (!list.some((each) => each.step === step.key)) list.push(blank(step));
      const one = list.find((each) => each.step === step.key)!;
      recipe(one);
      one.by = by;
      one.at = new Date().toISOString();
    });
  const toDesk = (step: Step, fields: (number | null)[]) => {
    const readings =
      step.reading && fields.every((field) => field !== null)
        ? [{ reading: step.reading, fields: step.fields.length > 0 ? (fields as number[]) : [1] }]
        : [];
    keepEnquiry(id, { ...NO_ENQUIRY, symptoms: step.symptom ? [step.symptom] : [], readings });
    window.history.pushState(null, "", `/jobs/${id}/fault-finding`);
  };
  return (
    <StageFrame
      worksheet={
        <>
          {stopped.length > 0 && (
            <p className="stopped" role="alert" data-stopped>
              {say("interface.commissioningStopped", { title: stopped[0]!.title })}
            </p>
          )}
          <Group title="Commissioning" note={`${passed} of ${steps.length} passed`}>
            <Progress
              percent={Math.round((100 * (passed + failed)) / steps.length)}
              success={{ percent: Math.round((100 * passed) / steps.length) }}
              size="small"
              aria-label="Steps done"
            />
            <p className="note" data-steps={`${passed} ${failed} ${open}`}>
              {failed > 0 ? `${failed} not passed, ` : ""}
              {open > 0 ? say("interface.stepsToDo", { open }) : say("interface.nothingLeftDo")}{" "}
              {next && (
                <a href={`#step-${next.key}`} className="cold">
                  {stopped.length > 0 ? "Put right first" : "Go on with"}: {next.title}
                </a>
              )}
            </p>
            <label className="stacked">
              <span className="note">Initials, recorded with each step</span>
              <Input
                value={by}
                maxLength={40}
                style={{ width: 120 }}
                onChange={({ target }) => keepText(INITIALS, target.value)}
              />
            </label>
          </Group>
          <Group title="Inspection" note={`${inspected.answered} of ${inspected.points} answered`}>
            <p className="note" data-points={`${inspected.answered} ${inspected.failed.length} ${inspected.open}`}>
              {inspected.failed.length > 0 ? `${inspected.failed.length} not right, ` : ""}
              {inspected.open > 0
                ? say("interface.pointsToAnswer", { open: inspected.open })
                : say("interface.nothingLeftDo")}
            </p>
          </Group>
          <Group title="Before all else">
            <ul className="notices" aria-label="Cautions">
              {(["isolate", "capacitor", "bank", "bypass", "mains", "estimate"] as const).map((key) => (
                <Caution key={key}>{CAUTIONS[key]}</Caution>
              ))}
            </ul>
          </Group>
        </>
      }
      picture={
        <>
          <Segmented
            className="which-sheet"
            aria-label="Sheet"
            value={sheet}
            options={[
              { value: "run", label: `Run sheet, ${passed + failed} of ${steps.length}` },
              { value: "inspection", label: `Inspection sheet, ${inspected.answered} of ${inspected.points}` },
            ]}
            onChange={(value) => keepText(SHEET, value)}
          />
          {sheet === "run" ? (
            <StepList
              label="Run sheet"
              parts={PARTS}
              steps={steps}
              row={(step, number) => (
                <StepRow
                  step={step}
                  number={number}
                  waits={steps.indexOf(step) > waitsFrom}
                  done={done.find((one) => one.step === step.key) ?? blank(step)}
                  note={(recipe) => note(step, recipe)}
                  photos={photos}
                  toDesk={(fields) => toDesk(step, fields)}
                />
              )}
            />
          ) : (
            <>
              <p className="note">{say("interface.inspectionIsFor")}</p>
              <StepList
                label="Inspection sheet"
                parts={INSPECTION_PARTS}
                steps={points}
                row={(step, number) => (
                  <StepRow
                    step={step}
                    number={number}
                    inspection
                    waits={false}
                    done={done.find((one) => one.step === step.key) ?? blank(step)}
                    note={(recipe) => note(step, recipe)}
                    photos={photos}
                  />
                )}
              />
            </>
          )}
        </>
      }
    />
  );
}

interface ListProps {
  label: string;
  parts: readonly StepPart[];
  steps: readonly Step[];
  row(step: Step, number: number): ReactNode;
}

/** A sheet: its steps under the parts of the work that they belong to, numbered through. */
function StepList({ label, parts, steps, row }: ListProps) {
  return (
    <ol className="run-sheet" aria-label={label}>
      {parts.map((part) => {
        const own = steps.filter((step) => step.part === part);
        return (
          own.length > 0 && (
            <li key={part}>
              <h2>{part}</h2>
              <ol>
                {own.map((step) => (
                  <Fragment key={step.key}>{row(step, steps.indexOf(step) + 1)}</Fragment>
                ))}
              </ol>
            </li>
          )
        );
      })}
    </ol>
  );
}

interface RowProps {
  step: Step;
  number: number;
  /** A point of the inspection: it may not apply, and says what it was measured with. */
  inspection?: boolean;
  /** Whether a safety step before it failed. */
  waits: boolean;
  done: StepDone;
  note(recipe: (one: StepDone) => void): void;
  photos: Photos;
  toDesk?(fields: (number | null)[]): void;
}

/** What passes, in words: "3.3 A to 7.6 A", "up to 7.12 mΩ", "12.4 V and more". */
function passingWords(
  { low, high }: { low: number | null; high: number | null },
  say: (value: number) => string,
): string {
  if (low === null) return high === null ? "anything" : `up to ${say(high)}`;
  return high === null ? `${say(low)} and more` : `${say(low)} to ${say(high)}`;
}

function StepRow({ step, number, inspection = false, waits, done, note, photos, toDesk }: RowProps) {
  const { job } = useReading();
  const [open, setOpen] = useState(false);
  const { target } = step;
  const say = (value: number) =>
    target!.dimension === "ratio" ? `× ${value.toFixed(2)}` : formatQuantity(value, target!.dimension, job.notation);
  const passing = target && passingWords(target, say);
  const filled = done.fields.length === step.fields.length && done.fields.every((field) => field !== null);
  const take = (at: number, value: number | null) =>
    note((one) => {
      one.fields = step.fields.map((_, i) => (i === at ? value : (done.fields[i] ?? null)));
      const judged = passes(step, one.fields);
      if (judged !== null) {
        one.passed = judged;
        delete one.notApplicable;
      }
      if (inspection && value !== null && instrument) one.instrument = instrument;
    });
  const answer = (passed: boolean) =>
    note((one) => {
      one.passed = one.passed === passed ? null : passed;
      delete one.notApplicable;
    });
  const instrument = useKeptText(INSTRUMENT);
  const ofPhotos = {
    title: step.title,
    photos,
    ids: done.photos ?? [],
    onIds: (ids: string[]) => note((one) => (ids.length > 0 ? (one.photos = ids) : delete one.photos)),
  };
  const yes = !inspection ? "Pass" : target ? "Right" : "Seen";
  const answers = !inspection ? "pass or fail" : "seen, not right, or not applicable";
  return (
    <li
      id={`step-${step.key}`}
      data-step={step.key}
      data-passed={done.notApplicable ? "none" : done.passed === null ? "open" : done.passed ? "yes" : "no"}
    >
      <div className="step-head">
        <span className="step-number mono">{number}</span>
        <button type="button" className="plain" aria-expanded={open} onClick={() => setOpen(!open)}>
          {step.title}
        </button>
        <span className="step-answer" role="group" aria-label={`${step.title}: ${answers}`}>
          <Button
            size="small"
            type={done.passed === true ? "primary" : "default"}
            disabled={waits}
            aria-pressed={done.passed === true}
            onClick={() => answer(true)}
          >
            {yes}
          </Button>
          <Button
            size="small"
            danger={done.passed === false}
            disabled={waits && done.passed === null}
            aria-pressed={done.passed === false}
            onClick={() => answer(false)}
          >
            {inspection ? "Not right" : "Fail"}
          </Button>
          {inspection && (
            <Button
              size="small"
              type={done.notApplicable ? "primary" : "default"}
              aria-pressed={done.notApplicable === true}
              onClick={() =>
                note((one) => {
                  if (one.notApplicable) delete one.notApplicable;
                  else Object.assign(one, { notApplicable: true, passed: null });
                })
              }
            >
              Not here
            </Button>
          )}
          <PhotoButton {...ofPhotos} />
        </span>
      </div>
      {(open || step.caution) && (
        <ul className="notices">{step.caution && <Caution>{CAUTIONS[step.caution]}</Caution>}</ul>
      )}
      {open && <p className="note">{step.how}</p>}
      {target && !waits && (
        <div className="step-fields">
          {step.fields.map((field, at) => (
            <StepField
              key={`${field.key} ${done.fields[at] ?? ""}`}
              label={field.label}
              dimension={field.dimension}
              bare={field.unit}
              value={done.fields[at] ?? null}
              onValue={(value) => take(at, value)}
            />
          ))}
          {inspection && (
            <label>
              <span className="note">Instrument</span>
              <Input
                size="small"
                key={done.instrument ?? instrument}
                defaultValue={done.instrument ?? instrument}
                maxLength={80}
                style={{ width: 150 }}
                onBlur={({ target: { value } }) => {
                  keepText(INSTRUMENT, value.trim());
                  if (done.at && value.trim() !== (done.instrument ?? ""))
                    note((one) => (value.trim() ? (one.instrument = value.trim()) : delete one.instrument));
                }}
              />
            </label>
          )}
          <span className="note">
            {filled && step.fields.length > 1 && (
              <>
                Measured: <span className="mono">{say(step.value(done.fields as number[]))}</span>.{" "}
              </>
            )}
            {target.value === target.high || target.value === target.low ? (
              `${passing![0]!.toUpperCase()}${passing!.slice(1)}`
            ) : (
              <>
                Expected: <span className="mono">{say(target.value)}</span>; {passing}
              </>
            )}{" "}
            passes ({target.source}).
          </span>
        </div>
      )}
      {(done.passed === false || done.notApplicable) && (
        <div className="step-fields">
          <label>
            <span className="note">
              {done.notApplicable ? "Why it does not apply: without a reason it stays open" : "Why, and what is done"}
            </span>
            <Input
              value={done.reason}
              maxLength={400}
              style={{ width: 280 }}
              onChange={({ target: { value } }) => note((one) => (one.reason = value))}
            />
          </label>
          {step.symptom && toDesk && (
            <Button size="small" type="link" onClick={() => toDesk(done.fields)}>
              Open in fault finding
            </Button>
          )}
        </div>
      )}
      <StepPhotos {...ofPhotos} />
      {done.at && (done.passed !== null || done.notApplicable) && (
        <p className="note">
          {done.by && `${done.by}, `}
          {done.at.slice(0, 16).replace("T", " ")} UTC
        </p>
      )}
    </li>
  );
}

interface FieldProps {
  label: string;
  dimension: Parameters<typeof parseQuantity>[1];
  /** Unit of a number that is typed without one. */
  bare?: string | undefined;
  value: number | null;
  onValue(value: number | null): void;
}

/** A reading of a step, typed as people write it; taken when it is left. */
function StepField({ label, dimension, bare, value, onValue }: FieldProps) {
  const { job } = useReading();
  const [text, setText] = useState(value === null ? "" : editableQuantity(value, dimension, job.notation));
  const [problem, setProblem] = useState("");
  const leave = () => {
    if (text.trim() === "") return value !== null && onValue(null);
    const parsed = parseQuantity(text, dimension, job.notation, bare);
    if (!parsed.ok) return setProblem(parsed.message);
    setProblem("");
    if (parsed.value !== value) onValue(parsed.value);
  };
  return (
    <label>
      <span className="note">{label}</span>
      <Input
        size="small"
        value={text}
        inputMode="decimal"
        autoComplete="off"
        style={{ width: 104 }}
        status={problem ? "error" : ""}
        onChange={({ target }) => setText(target.value)}
        onBlur={leave}
        onPressEnter={leave}
      />
      {problem && (
        <span role="alert" className="heat note">
          {problem}
        </span>
      )}
    </label>
  );
}
