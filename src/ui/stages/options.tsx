"use client";

import { App, Button, Progress, Segmented } from "antd";
import dynamic from "next/dynamic";
import { useMemo, useState } from "react";
import { designsOf } from "@/core/applications/options/design";
import type { Axis } from "@/core/applications/options/frontier";
import type { Found, Result } from "@/core/applications/options/search";
import { MOST_DESIGNS, type Requirement } from "@/core/applications/options/target";
import { monthOfJob } from "@/core/document/place";
import type { Job } from "@/core/document/schema";
import { useRequirement } from "../state/requirement";
import { useSearch } from "../state/options";
import { useReading, useSheet } from "../state/sheet-context";
import { Group, StageFrame } from "./parts";
import { Compare } from "./options-compare";
import { FrontierTable, Schools, Whys } from "./options-frontier";
import { Turns } from "./options-turns";
import { RequirementForm } from "./options-requirement";
import { Revisions } from "./revisions";
import { say } from "@/core/messages/say";

const FrontierPlot = dynamic(() => import("../pictures/frontier-plot"), {
  ssr: false,
  loading: () => <div style={{ height: 330 }} />,
});
const AXES: { value: Axis; label: string }[] = [
  { value: "cost", label: "money" },
  { value: "mass", label: "mass" },
  { value: "roof", label: "roof" },
];
const MOST_COMPARED = 4;

/** Find the system for a target: what may vary at the left, the frontier and what stands beside it at the right. */
export function OptionsStage() {
  const { job } = useReading();
  const id = useSheet((state) => state.id);
  const { requirement, change, fault } = useRequirement(id, job);
  const [axis, setAxis] = useState<Axis>("cost");
  const desk = useSearch(axis);
  const { running, found, start } = desk;
  const count = useMemo(() => (requirement ? designsOf(job, requirement).length : 0), [job, requirement]);
  const stale = found !== null && (found.requirement !== requirement || found.job !== job);
  const month = monthOfJob(job, job.place.latitude?.value ?? 40);
  if (!requirement)
    return (
      <div className="stage">
        {fault ? <p className="heat">{fault}</p> : <p className="note">Reading the target</p>}
      </div>
    );
  return (
    <StageFrame
      worksheet={
        <>
          {fault && (
            <p className="note heat" role="alert">
              {fault}
            </p>
          )}
          <RequirementForm requirement={requirement} change={change} currency={job.notation.currency} month={month} />
          <Group title="Revisions" note="of the whole job">
            <Revisions />
          </Group>
        </>
      }
      picture={
        <>
          <div className="picture-title options-title">
            <h2>{titleOf(desk.result, found, job)}</h2>
            <Segmented<Axis> size="small" options={AXES} value={axis} onChange={setAxis} aria-label="Best results by" />
          </div>
          <div className="options-run">
            {running ? (
              <Button size="small" onClick={desk.stop}>
                Stop
              </Button>
            ) : (
              <>
                <Button
                  size="small"
                  type="primary"
                  disabled={count > MOST_DESIGNS}
                  onClick={() => start(job, requirement, null)}
                >
                  Search {count.toLocaleString("en")} designs
                </Button>
                {found && !found.done && !stale && (
                  <Button size="small" onClick={() => start(job, requirement, found)}>
                    Go on
                  </Button>
                )}
              </>
            )}
            {desk.progress && (running || !found?.done) && (
              <Progress
                percent={Math.round((100 * desk.progress.at) / Math.max(1, desk.progress.of))}
                size="small"
                style={{ maxWidth: 180, margin: 0 }}
                aria-label="Designs searched"
              />
            )}
            <span
              className="note"
              role="status"
              data-search={running ? "running" : found?.done ? "done" : found ? "stopped" : "none"}
            >
              {statusOf(desk, count, requirement, stale)}
            </span>
          </div>
          {desk.fault && (
            <p className="heat" role="alert">
              {desk.fault}
            </p>
          )}
          {found && desk.result ? (
            <Answer found={found} result={desk.result} running={running} />
          ) : (
            <p className="sentence">{say("interface.optionsNotRun", { weeks: requirement.weeks })}</p>
          )}
        </>
      }
    />
  );
}

function titleOf(result: Result | null, found: Found | null, job: Job): string {
  if (!result || !found) return say("interface.whichDesignMeetsTarget");
  const { choice, nearest } = result;
  const share = `${Math.round(100 * found.requirement.share)} %`;
  if (choice) {
    const takes =
      result.axis === "cost"
        ? `${Math.round(choice.cost)} ${job.notation.currency}`
        : result.axis === "mass"
          ? `${Math.round(choice.mass)} kg`
          : `${choice.roof.toFixed(1)} m² of roof`;
    return `${share} of days for ${takes}${found.done ? "" : ", so far"}`;
  }
  if (!found.done) return `No design yet satisfies ${share} of days yet`;
  return nearest ? `No design meets ${share} of days within the limits` : "No design is within the limits";
}

function statusOf(
  { running, progress, found }: ReturnType<typeof useSearch>,
  count: number,
  requirement: Requirement,
  stale: boolean,
): string {
  if (count > MOST_DESIGNS) return say("interface.moreDesignsVaryLess", { most: MOST_DESIGNS.toLocaleString("en") });
  if (running && progress)
    return progress.stage === "search"
      ? `${progress.at} of ${progress.of} designs, ${progress.seconds.toFixed(0)} s`
      : `confirming ${progress.at} of ${progress.of} with check weeks`;
  if (running) return "starting";
  if (stale) return say("interface.jobTargetHasChanged");
  if (found?.done && progress)
    return `${found.outcomes.length} designs in ${progress.seconds.toFixed(0)} s; the frontier confirmed by ${requirement.confirmWeeks} check weeks`;
  return found ? "stopped" : "";
}

function Answer({ found, result, running }: { found: Found; result: Result; running: boolean }) {
  const { job } = useReading();
  const { message } = App.useApp();
  const [chosen, setChosen] = useState<number[]>([]);
  const toggle = (index: number) =>
    setChosen((now) => {
      if (now.includes(index)) return now.filter((one) => one !== index);
      if (now.length < MOST_COMPARED) return [...now, index];
      void message.info(say("interface.mostStandSideSide", { most: MOST_COMPARED }));
      return now;
    });
  const currency = job.notation.currency;
  return (
    <>
      <FrontierPlot found={found} result={result} currency={currency} chosen={chosen} />
      <Whys found={found} result={result} currency={currency} />
      <FrontierTable found={found} result={result} currency={currency} chosen={chosen} toggle={toggle} />
      {!running && <Compare found={found} result={result} chosen={chosen} toggle={toggle} />}
      {found.done && <Schools result={result} found={found} currency={currency} toggle={toggle} chosen={chosen} />}
      {found.done && result.choice && <Turns found={found} result={result} />}
    </>
  );
}
