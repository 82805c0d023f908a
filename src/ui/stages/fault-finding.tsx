"use client";

import { Button, Select } from "antd";
import { useMemo, useState } from "react";
import { causeName, readingLabel, symptomName } from "@/core/applications/fault-finding/words";
import { causeSpec, type CauseKey, type SymptomKey } from "@/core/applications/fault-finding/causes";
import { CAUTIONS } from "@/core/applications/fault-finding/cautions";
import {
  nextTests,
  rankCauses,
  SURE,
  type NextTest,
  type Ranked,
  type Taken,
} from "@/core/applications/fault-finding/desk";
import { anyPracticeCase, symptomsOf } from "@/core/applications/fault-finding/practice";
import { READING_KEYS, readingSpec, type Bench, type ReadingKey } from "@/core/applications/fault-finding/readings";
import { ReadingFields } from "../fields/reading-fields";
import { useEnquiry, NO_ENQUIRY, type Enquiry } from "../state/enquiry";
import { useReading, useSheet } from "../state/sheet-context";
import { Findings, KeepFinding } from "./fault-findings";
import { readingWords, soundWords } from "./fault-words";
import { Caution, Group, StageFrame } from "./parts";
import { say } from "@/core/messages/say";

/** Causes shown at once; the rest fold away. */
const SHOWN = 6;

/** Fault desk: from what is said on the telephone to what is wrong, by the readings that tell most for their time. */
export function FaultFindingStage() {
  const { job, assessment } = useReading();
  const id = useSheet((state) => state.id);
  const [enquiry, setEnquiry] = useEnquiry(id);
  const [picked, setPicked] = useState<ReadingKey | null>(null);
  const bench = useMemo<Bench>(() => ({ job, assessment }), [job, assessment]);
  const practiceCase = useMemo(
    () => (enquiry.practiceCase === null ? null : anyPracticeCase(job, enquiry.practiceCase)),
    [job, enquiry.practiceCase],
  );
  const taken = useMemo<Taken>(
    () =>
      Object.fromEntries(enquiry.readings.map(({ reading, fields }) => [reading, readingSpec(reading).value(fields)])),
    [enquiry.readings],
  );
  const ranked = useMemo(() => rankCauses(bench, enquiry.symptoms, taken), [bench, enquiry.symptoms, taken]);
  const tests = useMemo(() => nextTests(bench, ranked, taken), [bench, ranked, taken]);
  const begun = enquiry.symptoms.length > 0 || enquiry.readings.length > 0;
  const shown = tests.find(({ reading }) => reading === picked) ?? tests[0];
  const take = (reading: ReadingKey, fields: number[]) => {
    setPicked(null);
    setEnquiry({
      ...enquiry,
      readings: [...enquiry.readings.filter((one) => one.reading !== reading), { reading, fields }],
    });
  };
  const practise = () => {
    const seed = 1 + Math.floor(Math.random() * 900_000);
    setEnquiry({ symptoms: [anyPracticeCase(job, seed).symptom], readings: [], practiceCase: seed });
  };
  const there = READING_KEYS.filter(
    (reading) => taken[reading] === undefined && readingSpec(reading).expected(bench) !== null,
  );
  return (
    <StageFrame
      worksheet={
        <>
          <Group title="Symptoms" note={practiceCase ? "practice case" : undefined}>
            <label className="stacked">
              <span className="note">Symptoms, as the customer tells them</span>
              <Select<SymptomKey[]>
                mode="multiple"
                maxCount={2}
                aria-label="Symptoms"
                placeholder="It keeps tripping, it lasted two hours …"
                style={{ width: "100%" }}
                value={enquiry.symptoms}
                disabled={practiceCase !== null}
                options={symptomsOf(job).map((value) => ({ value, label: symptomName(value, job) }))}
                showSearch={{ optionFilterProp: "label" }}
                onChange={(symptoms) => setEnquiry({ ...enquiry, symptoms })}
              />
            </label>
            {begun ? (
              <p className="another">
                <Button size="small" type="link" onClick={() => setEnquiry(NO_ENQUIRY)}>
                  {practiceCase ? "Leave practice case" : "Begin again"}
                </Button>
              </p>
            ) : (
              <p className="note">
                <Button size="small" type="link" onClick={practise}>
                  Open a practice case
                </Button>{" "}
                {say("interface.practiceCase")}
              </p>
            )}
          </Group>
          <Group
            title="Readings taken"
            note={enquiry.readings.length > 0 ? String(enquiry.readings.length) : undefined}
          >
            {enquiry.readings.length === 0 && <p className="note">None yet.</p>}
            <ul className="taken" aria-label="Readings taken">
              {enquiry.readings.map(({ reading }) => {
                const spec = readingSpec(reading);
                return (
                  <li key={reading} data-taken={reading}>
                    <span>{readingLabel(reading, job)}</span>
                    <span className="mono">{readingWords(reading, taken[reading]!, job.notation)}</span>
                    <span className="note">
                      {spec.expected(bench) !== null &&
                        `sound: ${soundWords(reading, spec.expected(bench)!, job.notation)}`}
                    </span>
                    <button
                      type="button"
                      className="plain"
                      aria-label={`Undo: ${readingLabel(reading, job)}`}
                      onClick={() =>
                        setEnquiry({ ...enquiry, readings: enquiry.readings.filter((one) => one.reading !== reading) })
                      }
                    >
                      ×
                    </button>
                  </li>
                );
              })}
            </ul>
            {begun && (
              <Select<ReadingKey>
                aria-label="Another reading"
                size="small"
                placeholder="Take another reading …"
                style={{ width: "100%" }}
                value={null}
                showSearch={{ optionFilterProp: "label" }}
                options={there.map((value) => ({ value, label: readingLabel(value, job) }))}
                onChange={setPicked}
              />
            )}
          </Group>
          <Findings bench={bench} />
        </>
      }
      picture={
        begun ? (
          <>
            <NextReading
              key={`${shown?.reading} ${picked}`}
              test={picked && !tests.some(({ reading }) => reading === picked) ? asked(picked) : shown}
              ranked={ranked}
              bench={bench}
              onTaken={take}
              read={practiceCase ? (reading) => practiceCase.read(reading) : null}
            />
            <Causes ranked={ranked} bench={bench} enquiry={enquiry} onKept={() => setEnquiry(NO_ENQUIRY)} />
            {practiceCase && (
              <Truth cause={practiceCase.cause} key={enquiry.practiceCase} ranked={ranked} again={practise} />
            )}
          </>
        ) : (
          <div className="empty">
            <h2>{say("interface.faults.whatIsWrong")}</h2>
            <p>{say("interface.chooseSymptomsChillbankAsks")}</p>
          </div>
        )
      }
    />
  );
}

/** A reading that somebody wants to take though it tells little. */
const asked = (reading: ReadingKey): NextTest => ({
  reading,
  bits: 0,
  minutes: readingSpec(reading).minutes,
  parts: [],
});

interface NextProps {
  test: NextTest | undefined;
  ranked: readonly Ranked[];
  bench: Bench;
  onTaken(reading: ReadingKey, fields: number[]): void;
  /** What the meters show in a practice case; null on a real system. */
  read: ((reading: ReadingKey) => number[] | null) | null;
}

/** The reading to take next: how, what it should be, what it tells apart. */
function NextReading({ test, ranked, bench, onTaken, read }: NextProps) {
  const { job } = bench;
  const { notation } = job;
  if (!test)
    return (
      <section className="next-reading">
        <h2>Nothing left to read</h2>
        <p className="note">{say("interface.noFurtherReadingSystem")}</p>
      </section>
    );
  const spec = readingSpec(test.reading);
  const expected = spec.expected(bench);
  const sure = ranked[0]!.chance >= SURE;
  return (
    <section className="next-reading" aria-label="Next reading" data-next={test.reading}>
      <p className="note">{sure ? "Likely enough to repair; to confirm" : "Read next"}</p>
      <h2>{readingLabel(test.reading, job)}</h2>
      <p>{spec.how}</p>
      <p className="note">
        About {test.minutes} min.{" "}
        {expected !== null && <>On a sound system: {soundWords(test.reading, expected, notation)}. </>}
        {test.parts.map(({ cause, says }, i) => (
          <span key={cause}>
            {i > 0 && "; "}
            {causeName(cause, job)}: <strong>{says}</strong>
          </span>
        ))}
        {test.parts.length > 0 && "."}
      </p>
      {spec.caution && (
        <ul className="notices">
          <Caution>{CAUTIONS[spec.caution]}</Caution>
        </ul>
      )}
      {read ? (
        <Button type="primary" onClick={() => onTaken(test.reading, read(test.reading)!)}>
          Read it on the practice case
        </Button>
      ) : (
        <ReadingFields reading={test.reading} notation={notation} onTaken={(fields) => onTaken(test.reading, fields)} />
      )}
    </section>
  );
}

interface CausesProps {
  ranked: readonly Ranked[];
  bench: Bench;
  enquiry: Enquiry;
  onKept(): void;
}

/** Causes in the order of their chance, with the numbers behind each. */
function Causes({ ranked, bench, enquiry, onKept }: CausesProps) {
  const [all, setAll] = useState(false);
  const [open, setOpen] = useState<CauseKey | null>(null);
  const [keeping, setKeeping] = useState<CauseKey | null>(null);
  const list = all ? ranked : ranked.filter(({ chance }, i) => i < SHOWN && (i < 3 || chance > 0.01));
  const { job } = bench;
  const { notation } = job;
  return (
    <section aria-label="Causes">
      <table className="values causes">
        <caption>
          Causes{" "}
          <button type="button" className="plain cold" onClick={() => setAll(!all)}>
            {all ? "the likeliest" : `all ${ranked.length}`}
          </button>
        </caption>
        <tbody>
          {list.map(({ cause, chance, evidence }, i) => {
            const { repair, caution } = causeSpec(cause);
            const shown = open === cause || (open === null && i === 0);
            return (
              <tr key={cause} data-cause={cause}>
                <td className="chance">
                  <span className="mono">{chance >= 0.995 ? ">99" : Math.round(100 * chance)} %</span>
                  <span className="chance-bar" aria-hidden="true">
                    <i style={{ width: `${100 * chance}%` }} />
                  </span>
                </td>
                <td>
                  <button
                    type="button"
                    className="plain"
                    aria-expanded={shown}
                    onClick={() => setOpen(shown ? (i === 0 ? ranked[ranked.length - 1]!.cause : null) : cause)}
                  >
                    <strong>{causeName(cause, job)}</strong>
                  </button>
                  {evidence.slice(0, shown ? 6 : 2).map(({ reading, value, expected, weight }) => (
                    <p key={reading} className={`note ${weight > 0 ? "for" : "against"}`}>
                      {weight > 0 ? "for: " : "against: "}
                      {readingLabel(reading, job).replace(/\?$/, "")}{" "}
                      <span className="mono">{readingWords(reading, value, notation)}</span>
                      {readingSpec(reading).scale !== "yes" && (
                        <>
                          , sound <span className="mono">{soundWords(reading, expected, notation)}</span>
                        </>
                      )}
                    </p>
                  ))}
                  {shown && (
                    <>
                      <p>{repair}</p>
                      {caution && (
                        <ul className="notices">
                          <Caution>{CAUTIONS[caution]}</Caution>
                        </ul>
                      )}
                    </>
                  )}
                </td>
                <td className="right">
                  {shown && enquiry.practiceCase === null && (
                    <Button size="small" onClick={() => setKeeping(cause)}>
                      Confirm cause
                    </Button>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {keeping && <KeepFinding cause={keeping} enquiry={enquiry} close={() => setKeeping(null)} onKept={onKept} />}
    </section>
  );
}

/** What was wrong in a practice case, once somebody wants to know. */
function Truth({ cause, ranked, again }: { cause: CauseKey; ranked: readonly Ranked[]; again(): void }) {
  const { job } = useReading();
  const [shown, setShown] = useState(false);
  const place = ranked.findIndex((one) => one.cause === cause) + 1;
  return (
    <section className="truth" aria-live="polite">
      {shown ? (
        <p>
          <strong>It was: {causeName(cause, job)}.</strong> Ranked at place {place}.{" "}
          <Button size="small" type="link" onClick={again}>
            Another practice case
          </Button>
        </p>
      ) : (
        <Button size="small" onClick={() => setShown(true)}>
          {say("interface.faults.whatWasIt")}
        </Button>
      )}
    </section>
  );
}
