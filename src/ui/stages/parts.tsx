"use client";

import type { ReactNode } from "react";
import type { Stage } from "@/core/document/stage";
import { noticeText } from "@/core/assessment/verdicts/notice-text";
import { DeferredReading, useReading } from "../state/sheet-context";

/** A group of lines under a heading. */
export function Group({ title, note, children }: { title: string; note?: ReactNode; children: ReactNode }) {
  return (
    <section className="group">
      <div className="group-title">
        <h2>{title}</h2>
        {note && <span className="note">{note}</span>}
      </div>
      {children}
    </section>
  );
}

/** Lines that a quick look does not need. */
export function More({ title, children }: { title: string; children: ReactNode }) {
  return (
    <details>
      <summary>{title}</summary>
      {children}
    </details>
  );
}

/** Worksheet at the left, picture at the right. */
export function StageFrame({ worksheet, picture }: { worksheet: ReactNode; picture: ReactNode }) {
  return (
    <div className="stage">
      <div className="worksheet">{worksheet}</div>
      <div className="picture">
        <DeferredReading>{picture}</DeferredReading>
      </div>
    </div>
  );
}

/** One caution of a stage's work, with its mark. */
export function Caution({ children }: { children: ReactNode }) {
  return (
    <li className="caution">
      <svg width="13" height="12" viewBox="0 0 13 12" aria-hidden="true">
        <path d="M6.5 1L12 11H1zM6.5 4.5v3.2M6.5 9v.6" fill="none" stroke="var(--heat)" strokeWidth="1.2" />
      </svg>
      {children}
    </li>
  );
}

/** Remarks on the system and the cautions of this stage's work. */
export function Notices({ stage }: { stage: Stage }) {
  const { job, assessment } = useReading();
  const here = assessment.notices
    .filter((notice) => notice.stage === stage)
    .map((notice) => ({ kind: notice.kind, text: noticeText(job, notice) }));
  return (
    <ul className="notices" aria-label="Remarks and cautions">
      {here.map((notice) =>
        notice.kind === "caution" ? (
          <Caution key={notice.text}>{notice.text}</Caution>
        ) : (
          <li key={notice.text} className={notice.kind}>
            <svg width="13" height="12" viewBox="0 0 13 12" aria-hidden="true">
              <path d="M1 6h10M7.5 2.5L11 6 7.5 9.5" fill="none" stroke="var(--cold)" strokeWidth="1.3" />
            </svg>
            {notice.text}
          </li>
        ),
      )}
    </ul>
  );
}
