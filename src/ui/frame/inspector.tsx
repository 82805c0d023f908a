"use client";

import { App, Button, Drawer } from "antd";
import { type Check, gravestFirst } from "@/core/assessment/judge/judge";
import { formatQuantity } from "@/core/units/format";
import { workingAsText, withNumbers } from "@/core/units/trace";
import { ORIGIN_WORDS, OriginMark } from "../fields/origin-mark";
import { FigureValue } from "../fields/figure-value";
import { useDay } from "../state/day";
import { useReading, useVerdict, type VerdictKey } from "../state/sheet-context";
import { MarginBar } from "./margin-bar";
import { pairOf } from "./needs-has";
import { WordMark } from "./word-mark";
import { say } from "@/core/messages/say";

/** The drawer at the right: a verdict's checks, or a figure's working, and the way back. */
export function Inspector() {
  const { inspected, back, closeInspector } = useReading();
  const top = inspected[inspected.length - 1];
  const title = !top
    ? ""
    : top.kind === "verdict"
      ? `${top.name[0]!.toUpperCase()}${top.name.slice(1)}: every check`
      : "Working";
  return (
    <Drawer
      open={top !== undefined}
      onClose={closeInspector}
      size={500}
      title={title}
      destroyOnHidden
      mask={false}
      rootClassName="inspector"
      extra={
        inspected.length > 1 && (
          <Button size="small" onClick={back}>
            Back
          </Button>
        )
      }
    >
      {top?.kind === "verdict" && <Checks name={top.name} />}
      {top?.kind === "figure" && <Sum figureKey={top.key} />}
    </Drawer>
  );
}

function Checks({ name }: { name: VerdictKey }) {
  const verdict = useVerdict(name);
  const { day } = useDay();
  if (!verdict) return <p className="note">Simulating the day</p>;
  const { checks } = verdict;
  const words = name === "lasts" || name === "recovers" ? day?.words[name].long : undefined;
  return (
    <>
      <p className="note">{say("interface.barFilledWhatNeeded")}</p>
      {words && <p className="sentence">{words}</p>}
      <ul className="rows">
        {[...checks].sort(gravestFirst).map((check) => (
          <li key={check.key}>
            <div className="verdict-word">
              <WordMark word={check.word} size={12} />
              <strong>{check.word}</strong> <span>{check.name}</span>
            </div>
            <MarginBar need={check.need} has={check.has} word={check.word} />
            <NeedsHas check={check} />
            <div className="note">{check.remark}</div>
          </li>
        ))}
      </ul>
    </>
  );
}

/** What a check needs and has, in the words of the head band, each number with its working. */
function NeedsHas({ check }: { check: Check }) {
  const { job } = useReading();
  const { need, has } = pairOf(check, job.notation);
  const limit = <FigureValue figure={check.limit.key} as={has} />;
  if (need === null) return <div>{limit}</div>;
  return (
    <div>
      needs <FigureValue figure={check.demand.key} as={need} />, has {limit}
    </div>
  );
}

function Sum({ figureKey }: { figureKey: string }) {
  const { job, assessment } = useReading();
  const { message } = App.useApp();
  const { day } = useDay();
  const figures = { ...assessment.figures, ...day?.figures };
  const figure = figures[figureKey];
  if (!figure) return <p>{say("interface.figureNoLongerPart")}</p>;
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(workingAsText(figures, figureKey, job.notation, 2));
      void message.success("Copied as text");
    } catch {
      void message.error(say("interface.browserRefusedClipboardSelect"));
    }
  };
  return (
    <>
      <h2>{figure.name}</h2>
      <div className="mono drawer-value">{formatQuantity(figure.value, figure.dimension, job.notation)}</div>
      <div className="working-relation">{figure.relation}</div>
      <div className="working-relation">= {withNumbers(figure)}</div>
      <table className="values">
        <caption className="spoken">Values in this relation</caption>
        <thead>
          <tr>
            <th>Symbol</th>
            <th>Name</th>
            <th className="right">Value</th>
            <th>From</th>
          </tr>
        </thead>
        <tbody>
          {figure.terms.map((term) => (
            <tr key={term.symbol}>
              <td className="mono" style={{ textAlign: "left" }}>
                {term.symbol}
              </td>
              <td>
                {term.name}
                {term.why && <div className="note">{term.why}</div>}
              </td>
              <td className="mono">
                {term.figure ? (
                  <FigureValue figure={term.figure} />
                ) : (
                  formatQuantity(term.value, term.dimension, job.notation)
                )}
              </td>
              <td>
                {term.origin ? (
                  <span title={ORIGIN_WORDS[term.origin]}>
                    <OriginMark origin={term.origin} /> <span className="note">{ORIGIN_WORDS[term.origin]}</span>
                  </span>
                ) : (
                  <span className="note">{term.figure ? "see its own working" : ""}</span>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="note" style={{ margin: "8px 0" }}>
        Rule: {figure.source}.
      </p>
      <Button size="small" onClick={() => void copy()}>
        Copy as text
      </Button>
    </>
  );
}
