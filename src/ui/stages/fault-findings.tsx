"use client";

import { App, Button, Input, Modal } from "antd";
import { useState } from "react";
import { causeName, readingLabel, symptomName } from "@/core/applications/fault-finding/words";
import { causeSpec, type CauseKey } from "@/core/applications/fault-finding/causes";
import { READINGS, readingSpec, type Bench, type ReadingKey } from "@/core/applications/fault-finding/readings";
import type { Finding } from "@/core/document/schema";
import { ReadingFields } from "../fields/reading-fields";
import type { Enquiry } from "../state/enquiry";
import { useReading, useSheet } from "../state/sheet-context";
import { readingWords, soundWords } from "./fault-words";
import { Group } from "./parts";
import { say } from "@/core/messages/say";
import { v4 as uuid } from "uuid";

interface KeepProps {
  cause: CauseKey;
  enquiry: Enquiry;
  close(): void;
  onKept(): void;
}

/** Ends an enquiry in a finding on the job. */
export function KeepFinding({ cause, enquiry, close, onKept }: KeepProps) {
  const { job } = useReading();
  const change = useSheet((state) => state.change);
  const { message } = App.useApp();
  const [note, setNote] = useState("");
  const [by, setBy] = useState("");
  const keep = () => {
    const finding: Finding = {
      id: uuid(),
      at: new Date().toISOString(),
      symptoms: enquiry.symptoms,
      cause,
      note: note.trim(),
      before: enquiry.readings,
      after: [],
      by: by.trim(),
    };
    change((draft) => void draft.handover.findings.unshift(finding));
    void message.success("Saved with the job; take the readings again once it is repaired", 6);
    close();
    onKept();
  };
  return (
    <Modal open title={causeName(cause, job)} okText="Save finding" onOk={keep} onCancel={close} width={480}>
      <p className="note">
        {enquiry.readings.length === 0
          ? say("interface.noReadingWasTaken")
          : say("interface.readingsBeforeRepair", { count: enquiry.readings.length })}
      </p>
      <label className="stacked">
        <span className="note">Repair done or planned</span>
        <Input.TextArea
          value={note}
          maxLength={2000}
          autoSize={{ minRows: 2, maxRows: 6 }}
          placeholder={causeSpec(cause).repair}
          onChange={({ target }) => setNote(target.value)}
        />
      </label>
      <label className="stacked">
        <span className="note">Initials</span>
        <Input value={by} maxLength={40} style={{ width: 120 }} onChange={({ target }) => setBy(target.value)} />
      </label>
    </Modal>
  );
}

const isReading = (key: string): key is ReadingKey => Object.hasOwn(READINGS, key);

/** What was found at the system, with its readings before and after. */
export function Findings({ bench }: { bench: Bench }) {
  const { job } = useReading();
  const change = useSheet((state) => state.change);
  const { findings } = job.handover;
  const [again, setAgain] = useState<{ id: string; reading: ReadingKey } | null>(null);
  const edit = (id: string, recipe: (finding: Finding) => void) =>
    change((draft) => {
      const finding = draft.handover.findings.find((one) => one.id === id);
      if (finding) recipe(finding);
    });
  if (findings.length === 0) return null;
  return (
    <Group title="Found before" note={String(findings.length)}>
      <ul className="findings" aria-label="Findings">
        {findings.map(({ id, at, cause, note, before, after, by, symptoms }) => (
          <li key={id} data-finding={cause}>
            <p>
              <strong>{causeName(cause, job)}</strong>{" "}
              <span className="note">
                {at.slice(0, 10)}
                {by && `, ${by}`}
              </span>
            </p>
            <p className="note">{symptoms.map((key) => symptomName(key, job)).join("; ")}</p>
            {note && <p>{note}</p>}
            {before.length > 0 && (
              <table className="values">
                <thead>
                  <tr>
                    <th>Reading</th>
                    <th className="right">before</th>
                    <th className="right">after</th>
                    <th className="right">sound</th>
                  </tr>
                </thead>
                <tbody>
                  {before.map(({ reading, fields }) => {
                    if (!isReading(reading)) return null;
                    const spec = readingSpec(reading);
                    const then = after.find((one) => one.reading === reading);
                    const expected = spec.expected(bench);
                    return (
                      <tr key={reading}>
                        <td>{readingLabel(reading, job)}</td>
                        <td className="mono right">{readingWords(reading, spec.value(fields), job.notation)}</td>
                        <td className="mono right">
                          <button
                            type="button"
                            className="plain cold"
                            aria-label={`Take again: ${readingLabel(reading, job)}`}
                            onClick={() => setAgain({ id, reading })}
                          >
                            {then ? readingWords(reading, spec.value(then.fields), job.notation) : "take"}
                          </button>
                        </td>
                        <td className="mono right">
                          {expected === null ? "" : soundWords(reading, expected, job.notation)}
                        </td>
                      </tr>
                    );
                  })}
                </tbody>
              </table>
            )}
            <Button
              size="small"
              type="link"
              onClick={() =>
                change((draft) => {
                  draft.handover.findings = draft.handover.findings.filter((one) => one.id !== id);
                })
              }
            >
              Delete
            </Button>
          </li>
        ))}
      </ul>
      {again && (
        <Modal open title={readingLabel(again.reading, job)} footer={null} onCancel={() => setAgain(null)} width={460}>
          <p className="note">{readingSpec(again.reading).how}</p>
          <ReadingFields
            reading={again.reading}
            notation={job.notation}
            onTaken={(fields) => {
              edit(again.id, (finding) => {
                finding.after = [
                  ...finding.after.filter(({ reading }) => reading !== again.reading),
                  { reading: again.reading, fields },
                ];
              });
              setAgain(null);
            }}
          />
        </Modal>
      )}
    </Group>
  );
}
