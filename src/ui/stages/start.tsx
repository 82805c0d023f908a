"use client";

import { isBroken } from "@/core/assessment/judge/word";
import { Segmented } from "antd";
import { useState } from "react";
import { formatQuantity } from "@/core/units/format";
import { limitName, type Limit } from "@/core/simulation/start/start";
import type { Ladder } from "@/core/assessment/starts/ladders";
import { ChoiceLine } from "../fields/choice-line";
import { FigureValue } from "../fields/figure-value";
import { QuantityLine } from "../fields/quantity-line";
import { starterOnBattery } from "@/core/assessment/starts/starts";
import StartChart from "../pictures/start-chart";
import { VoltageLadder } from "../pictures/voltage-ladder";
import { useReading, useSheet } from "../state/sheet-context";
import { pairOf } from "../frame/needs-has";
import { WordMark } from "../frame/word-mark";
import { FromShelf } from "../shelf/from-shelf";
import { CapturedStart } from "./captured-start";
import { StartAidsView } from "./start-aids-view";
import { MeasureNextList } from "./measure-next";
import { legCount } from "@/core/reference/standards/mains";
import { CheckLine } from "../fields/check-line";
import { Group, More, Notices, StageFrame } from "./parts";
import { BySupplyView, StartConditionsView } from "./by-supply";
import { say } from "@/core/messages/say";
import { onMains } from "@/core/document/unit-kinds";
import { usesInverter } from "@/core/document/resolve-wiring";

/** The machine that makes mains, the way to it, and the start under every limit. */
export function StartStage() {
  const converted = useSheet((state) => usesInverter(state.job));
  const several = useSheet((state) => state.job.units.length > 1);
  const fedByMains = useSheet((state) => state.job.units.some(onMains));
  return (
    <StageFrame
      worksheet={
        <>
          {converted ? (
            <Group title="Inverter" note={<FromShelf kind="inverter" path="inverter" />}>
              <ChoiceLine
                path="inverter.type"
                label="Kind"
                options={[
                  { value: "high-frequency", label: "high-frequency" },
                  { value: "transformer", label: "transformer" },
                ]}
              />
              <QuantityLine path="inverter.count" />
              <QuantityLine path="inverter.rating" />
              {([1, 2, 3] as const).map((n) => (
                <div key={n}>
                  <QuantityLine path={`inverter.surge${n}`} />
                  <QuantityLine path={`inverter.surge${n}Time`} />
                </div>
              ))}
              <QuantityLine path="inverter.cutOffVoltage" />
              <QuantityLine path="inverter.idlePower" />
              <QuantityLine path="inverter.compartmentC" />
              <QuantityLine path="inverter.ventArea" placeholder="not known" />
              <VentNote />
              <Connections />
              <More title="More: losses, derating, alarm">
                <ChoiceLine
                  path="inverter.waveform"
                  label="Waveform"
                  options={[
                    { value: "sine", label: "true sine" },
                    { value: "modified", label: "modified sine" },
                  ]}
                />
                <QuantityLine path="inverter.cutOffDelay" />
                <QuantityLine path="inverter.alarmVoltage" />
                <QuantityLine path="inverter.alarmDelay" />
                <QuantityLine path="inverter.maxDcCurrent" placeholder="none stated" />
                <QuantityLine path="inverter.lossShare" />
                <QuantityLine path="inverter.lossRise" />
                <QuantityLine path="inverter.ventHeight" />
                <QuantityLine path="inverter.derateFromC" />
                <QuantityLine path="inverter.deratePerKelvin" />
              </More>
            </Group>
          ) : (
            <Group title="Inverter">
              <p className="note" style={{ padding: "6px 0" }}>
                {say("interface.nothingSystemNeedsAc")}
              </p>
            </Group>
          )}
          {several && (
            <Group title="Several units">
              <ChoiceLine
                path="inverter.startOrder"
                label="They start"
                options={[
                  { value: "in-turn", label: "in turn" },
                  { value: "together", label: "all at once" },
                ]}
              />
            </Group>
          )}
          {fedByMains && (
            <Group title="Other sources" note="to judge the same start on">
              <ChoiceLine
                path="supplies.generatorKind"
                label="Generator"
                options={[
                  { value: "electronic", label: "electronic" },
                  { value: "conventional", label: "conventional" },
                ]}
              />
              <QuantityLine path="supplies.generatorRating" />
              <QuantityLine path="supplies.generatorContinuous" />
              <QuantityLine path="supplies.altitude" />
              <QuantityLine path="supplies.inletResistance" />
            </Group>
          )}
          <CapturedStart />
        </>
      }
      picture={<StartPicture converted={converted} />}
    />
  );
}

/** How the inverter is connected: legs, several of them, neutral and earth, and an inverter-charger's inlet. */
function Connections() {
  const { job, assessment } = useReading();
  const { earth } = assessment.wiring.rules;
  const { combined, output } = job.inverter;
  const twoLegs = legCount(job.brief.mains) === 2;
  return (
    <>
      {twoLegs && (
        <ChoiceLine
          path="inverter.output"
          label="Output to the legs"
          options={[
            { value: "split-phase", label: "split phase, half on each leg" },
            { value: "both-legs", label: "one output fed to both legs" },
          ]}
        />
      )}
      {twoLegs && output === "both-legs" && (
        <ChoiceLine
          path="inverter.neutrals"
          label="Neutral of each circuit"
          options={[
            { value: "unsaid", label: "not stated" },
            { value: "own", label: "its own" },
            { value: "shared", label: "shared" },
          ]}
        />
      )}
      {assessment.values.inverter.count.value > 1 && (
        <ChoiceLine
          path="inverter.leads"
          label="Fuse and leads of each"
          options={[
            { value: "unsaid", label: "not stated" },
            { value: "own", label: "its own, of one length" },
            { value: "shared", label: "one pair for all" },
          ]}
        />
      )}
      <ChoiceLine
        path="inverter.neutralBond"
        label={`Neutral to ${earth}`}
        options={[
          { value: "unsaid", label: "not stated" },
          { value: "relay", label: "by its relay while it feeds" },
          { value: "fixed", label: "fixed bond" },
          { value: "none", label: "no bond" },
        ]}
      />
      <CheckLine path="inverter.combined" label="Inverter-charger: the supply passes through it" />
      {combined && (
        <>
          <QuantityLine path="inverter.inletLimit" />
          <QuantityLine path="inverter.chargeCurrent" />
          <QuantityLine path="inverter.transferTime" />
          <CheckLine path="inverter.assist" label="Adds from the battery above the supply limit" />
        </>
      )}
    </>
  );
}

/** Heat in the inverter's compartment, and the vents that would carry it off. */
function VentNote() {
  const { assessment } = useReading();
  if (!assessment.compartment) return null;
  const { heat, vent } = assessment.compartment;
  return (
    <p className="note vent-note">
      Heat in the compartment with everything on: <FigureValue figure={heat.key} digits={2} />.{" "}
      {vent.value > 0 ? (
        <>
          Vent area needed, inlet and outlet each: <FigureValue figure={vent.key} digits={2} />.
        </>
      ) : (
        say("interface.ventNone")
      )}
    </p>
  );
}

const VIEWS = [
  { value: "limits", label: "Against its limits" },
  { value: "startAids", label: "Start aids compared" },
  { value: "supplies", label: "By supply" },
  { value: "conditions", label: "Conditions" },
] as const;
type View = (typeof VIEWS)[number]["value"];

function StartPicture({ converted }: { converted: boolean }) {
  const { job, assessment } = useReading();
  const [view, setView] = useState<View>("limits");
  const { start } = assessment;
  const starter = start.own.starting < 0 ? "all units together" : job.units[start.own.starting]!.name;
  return (
    <>
      <div className="picture-title">
        <h2>{start.own.shape.settles > 10 ? "Start demand" : "The first ten seconds"}</h2>
        <span className="note">
          {starter}
          {job.units.length > 1 && start.own.starting >= 0 ? ", the others running" : ""}; battery at its reserve
        </span>
      </div>
      <Segmented
        size="small"
        className="views"
        aria-label="View of the start"
        value={view}
        onChange={setView}
        options={[...VIEWS]}
      />
      {view === "limits" && <LimitsView converted={converted} />}
      {view === "startAids" && <StartAidsView />}
      {view === "supplies" && <BySupplyView />}
      {view === "conditions" && <StartConditionsView />}
      <MeasureNextList verdict="starts" />
      <Notices stage="start" />
    </>
  );
}

function LimitsView({ converted }: { converted: boolean }) {
  const { job, assessment } = useReading();
  const [level, setLevel] = useState(0);
  const { start } = assessment;
  const ladder = start.ladders[Math.min(level, start.ladders.length - 1)]!;
  const drawn = starterOnBattery(job, start.own) === null;
  return (
    <>
      <div className="start-picture">
        <div>
          <StartChart />
          {drawn ? (
            <>
              <StartSentence converted={converted} />
              <MomentsTable />
            </>
          ) : (
            <LimitsTable />
          )}
        </div>
        <div>
          <div className="note" style={{ marginBottom: 6 }}>
            Volts at the start peak
            {start.ladders.length > 1 && (
              <Segmented
                size="small"
                value={level}
                onChange={setLevel}
                options={start.ladders.map((one, i) => ({ value: i, label: LEVEL_WORDS[one.title] ?? one.title }))}
                style={{ display: "block", width: "fit-content", marginTop: 4 }}
              />
            )}
          </div>
          <VoltageLadder ladder={ladder} />
          <LadderTable ladder={ladder} />
        </div>
      </div>
      {drawn && <LimitsTable />}
    </>
  );
}

/** Each limit at the moment at which the start comes nearest to it. */
function LimitsTable() {
  const { job, assessment } = useReading();
  return (
    <table className="values">
      <caption>Limits at the start</caption>
      <thead>
        <tr>
          <th>Limit</th>
          <th className="right">Needed</th>
          <th className="right">Available</th>
          <th />
          <th>When</th>
        </tr>
      </thead>
      <tbody>
        {assessment.verdicts.starts.checks.map((check) => {
          const { need, has } = pairOf(check, job.notation);
          return (
            <tr key={check.demand.key + check.key}>
              <td>{check.name}</td>
              <td className="mono">{need !== null && <FigureValue figure={check.demand.key} as={need} />}</td>
              <td className="mono">
                <FigureValue figure={check.limit.key} as={has} />
              </td>
              <td style={{ whiteSpace: "nowrap" }}>
                <WordMark word={check.word} size={11} /> {check.word}
              </td>
              <td className="note">{check.remark}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

const LEVEL_WORDS: Record<string, string> = {
  "at the reserve": "reserve",
  "as charged": "full",
  "reserve, at 0 °C": "cold",
};

/** What the picture means, and the nearest start aid. */
function StartSentence({ converted }: { converted: boolean }) {
  const { job, assessment } = useReading();
  const { start, verdicts } = assessment;
  const { decides, word } = verdicts.starts;
  const va = (value: number) => formatQuantity(value, converted ? "apparentPower" : "power", job.notation);
  const byHand = va(start.own.peakApparent).replace("VA", "W");
  const path = assessment.wiring.resistance;
  const bank = assessment.figures["bank.resistance"]!.value;
  const thin = decides.by === "start-voltage" && path > bank;
  return (
    <p className="note">
      {isBroken(word) ? `${say("interface.overHatched", { name: decides.name })} ` : ""}
      {start.softStarter &&
        `${say("interface.softStarterWouldTake", { peakApparent: va(start.softStarter.peakApparent), margin: start.softStarter.margin.toFixed(2) })} `}
      {thin &&
        word !== "Holds" &&
        `${say("interface.wiringDropsMoreVolts", { path: formatQuantity(path, "resistance", job.notation, 2), bank: formatQuantity(bank, "resistance", job.notation, 2) })} `}
      {converted &&
        say("interface.handAmpsVoltsReal", {
          byHand,
          peakPathPower: formatQuantity(start.own.peakPathPower, "power", job.notation),
        })}
    </p>
  );
}

/** The ladder as a table: each part's resistance, volts with their sum, heat. */
function LadderTable({ ladder }: { ladder: Ladder }) {
  const { job } = useReading();
  const heat = ladder.rungs.reduce((sum, rung) => sum + rung.heat, 0);
  return (
    <details>
      <summary className="note">
        {formatQuantity(heat, "power", job.notation, 2)} of heat on the way at{" "}
        {formatQuantity(ladder.current, "current", job.notation)}: as a table
      </summary>
      <table className="values">
        <thead>
          <tr>
            <th>Part</th>
            <th className="right">Is</th>
            <th className="right">Takes</th>
            <th className="right">Heat</th>
          </tr>
        </thead>
        <tbody>
          {ladder.rungs
            .filter((rung) => rung.resistance > 0)
            .map((rung) => (
              <tr key={rung.name}>
                <td>{rung.name}</td>
                <td className="mono">{formatQuantity(rung.resistance, "resistance", job.notation, 2)}</td>
                <td className="mono">
                  <FigureValue figure={rung.figure.key} />
                </td>
                <td className="mono">{formatQuantity(rung.heat, "power", job.notation, 2)}</td>
              </tr>
            ))}
          <tr>
            <td>left</td>
            <td />
            <td className="mono">
              <FigureValue figure={ladder.figure.key} />
            </td>
            <td />
          </tr>
        </tbody>
      </table>
    </details>
  );
}

/** The start's picture as a table: what is asked and what each limit allows, at a few moments. */
function MomentsTable() {
  const { job, assessment } = useReading();
  const { own } = assessment.start;
  const dimension = assessment.figures["carries.inverter"] ? "apparentPower" : "power";
  const moments = MOMENTS.filter((t) => t <= own.seconds[own.seconds.length - 1]!).map((t) =>
    own.seconds.findIndex((s) => s >= t),
  );
  const text = (value: number) => formatQuantity(value, dimension, job.notation, 2);
  const rows: [string, Float64Array][] = [
    ["asked for", own.apparent],
    ...Object.entries(own.limits).map(([key, line]): [string, Float64Array] => [limitName(key as Limit, own), line]),
  ];
  return (
    <details>
      <summary className="note">The picture as a table</summary>
      <table className="values">
        <thead>
          <tr>
            <th>At</th>
            {moments.map((k) => (
              <th key={k} className="right">
                {formatQuantity(own.seconds[k]!, "duration", job.notation, 2)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(([name, line]) => (
            <tr key={name}>
              <td>{name}</td>
              {moments.map((k) => (
                <td key={k} className="mono">
                  {text(line[k]!)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}

const MOMENTS = [0.01, 0.1, 0.3, 1, 3, 10, 100];
