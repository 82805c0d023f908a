"use client";

import { isBroken } from "@/core/assessment/judge/word";
import { say } from "@/core/messages/say";
import { useDay } from "../state/day";
import { useReading } from "../state/sheet-context";

/** What Starts and Carries leave of it, then Lasts and Recovers, in sentences that can be read aloud. */
export function StraightAnswer() {
  const { assessment } = useReading();
  const { day, stale, fault } = useDay();
  const { starts, carries } = assessment.verdicts;
  if (!day) return <p className="sentence">{fault ? `The simulation stopped: ${fault}` : "Simulating the day"}</p>;
  const bad = [starts, carries].filter(({ word }) => isBroken(word));
  const tight = [starts, carries].filter(({ word }) => word === "Tight");
  return (
    <div className="sentences" aria-busy={stale} data-answer>
      <p className="sentence">
        {answerOf(bad.map(({ name, word, decides }) => ({ name, word, by: decides.name })))}
        {tight.length > 0 && ` ${say("answer.tight", { by: tight.map(({ decides }) => decides.name).join("; ") })}`}
        {bad.length > 0 && day.conditions.known && ` ${say("answer.oncePutRight", { count: bad.length })}`}
      </p>
      <p className="sentence" data-words="lasts">
        {day.words.lasts.long}
      </p>
      {day.conditions.known && (
        <p className="sentence" data-words="recovers">
          {day.words.recovers.long}
        </p>
      )}
    </div>
  );
}

/** Whether it starts and carries, in one sentence. */
function answerOf(bad: { name: string; word: string; by: string }[]): string {
  if (bad.length === 0) return say("answer.runs");
  const [first] = bad as [(typeof bad)[number]];
  if (bad.length === 2) {
    const [starts, carries] = bad as [(typeof bad)[number], (typeof bad)[number]];
    const stop = starts.word === "Stop" || carries.word === "Stop";
    return say(stop ? "answer.stopAndNoStart" : "answer.neither", { starts: starts.by, carries: carries.by });
  }
  return say(first.name === "Starts" ? "answer.noStart" : first.word === "Stop" ? "answer.stop" : "answer.noCarry", {
    by: first.by,
  });
}
