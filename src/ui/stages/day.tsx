"use client";

import { App, Button, Checkbox, InputNumber, Slider } from "antd";
import { memo, useId, useMemo, useRef, useState } from "react";
import { timeOfDay } from "@/core/units/clock";
import { fromCells } from "@/core/simulation/day/flows";
import { formatQuantity } from "@/core/units/format";
import { HAS_CAB } from "@/core/models/cabin/cabin";
import type { DayAnswer } from "@/workers/day.worker";
import { DateInput } from "../fields/date-input";
import { PlaceLine } from "../place/place-line";
import { CheckLine } from "../fields/check-line";
import { ChoiceLine } from "../fields/choice-line";
import { FigureValue } from "../fields/figure-value";
import { QuantityLine } from "../fields/quantity-line";
import { DayPlot, stopWords, weekdayOf } from "../pictures/day-plot";
import { askWeather, useCursor, useDay } from "../state/day";
import { useReading, useSheet } from "../state/sheet-context";
import { degreeHours, STANCES } from "../words";
import { DayPlan } from "./day-plan";
import { DayPairs, RunTimeMapView } from "./day-views";
import { MonthLine } from "./month-line";
import { Group, More, Notices, StageFrame } from "./parts";
import { say } from "@/core/messages/say";

/** Place, weather and cabin at the left; the run and the plan of the day at the right. */
export function DayStage() {
  const storage = useSheet((state) => state.job.brief.stance === "storage");
  const kind = useSheet((state) => state.job.weather.kind);
  return (
    <StageFrame
      worksheet={
        <>
          <Group title="Where and when">
            <PlaceLine />
            <MonthLine />
            <StartLine />
            <More title="More: coordinates and the month's climate">
              <QuantityLine path="place.latitude" />
              <QuantityLine path="place.longitude" />
              <QuantityLine path="supplies.altitude" />
              <QuantityLine path="place.maxC" />
              <QuantityLine path="place.minC" />
              <QuantityLine path="place.dewPointC" />
              <QuantityLine path="place.clearness" />
              <QuantityLine path="place.spread" />
              <QuantityLine path="place.wind" />
              <QuantityLine path="place.seaC" />
            </More>
          </Group>
          <Group title="Weather">
            <ChoiceLine
              path="weather.kind"
              label="Days are"
              options={[
                { value: "mild", label: "mild design day" },
                { value: "usual", label: "typical design day" },
                { value: "hot", label: "hot design day" },
                { value: "own", label: "your own design day" },
                { value: "generated", label: "simulated fortnight" },
                { value: "file", label: "weather file" },
              ]}
            />
            {kind === "generated" && <SeedLine />}
            <WeatherFile />
          </Group>
          <Group title="Cabin" note={<CabinNote />}>
            <ChoiceLine
              path="cabin.kind"
              label="Kind"
              options={[
                { value: "van", label: "van" },
                { value: "caravan", label: "caravan" },
                { value: "motorhome", label: "motorhome" },
                { value: "bus", label: "bus" },
                { value: "truck", label: "truck camper" },
                { value: "boat", label: "boat's cabin" },
                { value: "room", label: "room in a building" },
              ]}
            />
            <QuantityLine path="cabin.length" />
            <QuantityLine path="cabin.width" />
            <QuantityLine path="cabin.height" />
            <ChoiceLine
              path="cabin.insulation"
              label="Walls and roof"
              options={[
                { value: "canvas", label: "canvas" },
                { value: "bare", label: "bare metal" },
                { value: "lined", label: "lined metal" },
                { value: "grade2", label: "caravan, grade II" },
                { value: "grade3", label: "caravan, grade III" },
                { value: "insulated", label: "insulated van" },
                { value: "grp", label: "GRP hull and deck" },
                { value: "masonry", label: "brick or block" },
                { value: "house", label: "insulated house wall" },
              ]}
            />
            <ChoiceLine
              path="cabin.colour"
              label="Skin"
              options={[
                { value: "white", label: "white" },
                { value: "grey", label: "grey or mid tone" },
                { value: "dark", label: "dark" },
              ]}
            />
            <QuantityLine path="cabin.glassArea" />
            <ChoiceLine
              path="cabin.glazing"
              label="Glazing"
              options={[
                { value: "single", label: "single" },
                { value: "double", label: "double or acrylic" },
              ]}
            />
            <ChoiceLine
              path="cabin.blinds"
              label="Blinds"
              options={[
                { value: "none", label: "none" },
                { value: "inside", label: "inside" },
                { value: "outside", label: "outside shade" },
              ]}
            />
            <CabLines />
            <CheckLine path="cabin.inverterInside" label="The inverter's heat stays in the cabin" />
            <More title="More: transmittances, air, mass">
              <QuantityLine path="cabin.heatLoss" placeholder="the sum of its surfaces" />
              <QuantityLine path="cabin.roofU" />
              <QuantityLine path="cabin.wallU" />
              <QuantityLine path="cabin.floorU" />
              <QuantityLine path="cabin.glassU" />
              <QuantityLine path="cabin.solarGain" />
              <QuantityLine path="cabin.absorptance" />
              <QuantityLine path="cabin.airChanges" />
              <QuantityLine path="cabin.openAirChanges" />
              <QuantityLine path="cabin.heatInside" />
              <QuantityLine path="cabin.lightMass" />
              <QuantityLine path="cabin.slowMass" />
              <QuantityLine path="cabin.coupling" />
            </More>
          </Group>
          <Group title="Run time">
            <ChoiceLine path="brief.stance" label="Run time based on" options={STANCES} />
            {storage && <QuantityLine path="plan.storageDays" />}
            <QuantityLine path="plan.cycleLife" />
            <QuantityLine path="plan.bankCost" />
          </Group>
        </>
      }
      picture={
        <>
          <Run />
          <DayPlan />
          <Outcome />
          <DayPairs />
          <RunTimeMapView />
          <Notices stage="day" />
        </>
      }
    />
  );
}

function StartLine() {
  const { assessment } = useReading();
  const put = useSheet((state) => state.put);
  const id = useId();
  const date = assessment.values.site.startDate;
  return (
    <div className="line choice" data-path="plan.start">
      <div className="line-row">
        <label htmlFor={id}>First day</label>
        <DateInput id={id} value={date} onValue={(next) => put("plan.start", next)} />
      </div>
    </div>
  );
}

function SeedLine() {
  const { job } = useReading();
  const put = useSheet((state) => state.put);
  const id = useId();
  return (
    <div className="line choice">
      <div className="line-row">
        <label htmlFor={id}>Random seed</label>
        <InputNumber
          id={id}
          size="small"
          min={0}
          max={999_999}
          precision={0}
          value={job.weather.seed}
          onChange={(seed) => seed !== null && put("weather.seed", seed)}
        />
      </div>
    </div>
  );
}

/** Takes hourly weather from a file: EPW, or a plain CSV with time, temperature and sun. */
function WeatherFile() {
  const { job, assessment } = useReading();
  const change = useSheet((state) => state.change);
  const { message } = App.useApp();
  const input = useRef<HTMLInputElement>(null);
  const [reading, setReading] = useState(false);
  const { file } = job.weather;
  const load = async (chosen: File | undefined) => {
    if (!chosen) return;
    if (chosen.size > 20_000_000) return void message.error(say("interface.tooLarge.weather"), 6);
    setReading(true);
    try {
      const { startDate } = assessment.values.site;
      const [, month, day] = startDate.split("-").map(Number) as [number, number, number];
      const read = await askWeather(await chosen.text(), chosen.name, month, day);
      if (!read.ok) return void message.error(`${chosen.name}: ${read.message}`, 8);
      change((draft) => {
        draft.weather.kind = "file";
        draft.weather.file = read.file;
        if (read.latitude !== null && read.longitude !== null) {
          draft.place.latitude = { value: read.latitude, origin: "plate" };
          draft.place.longitude = { value: read.longitude, origin: "plate" };
          draft.place.listed = null;
        }
      });
      const days = read.file.hours.length / 24;
      void message.success([`${days} days taken from ${chosen.name}`, ...read.remarks].join(". "), 6);
    } catch (error) {
      void message.error(`${chosen.name}: ${(error as Error).message}`, 8);
    } finally {
      setReading(false);
    }
  };
  return (
    <div className="line">
      <span className="note">
        {file
          ? `${file.hours.length / 24} days of ${file.name}`
          : job.weather.kind === "file"
            ? `${say("interface.noFileYetUntil")} `
            : ""}{" "}
      </span>
      <Button size="small" loading={reading} onClick={() => input.current?.click()}>
        Import hourly weather (EPW or CSV)
      </Button>
      <input
        ref={input}
        type="file"
        accept=".epw,.csv,text/csv"
        hidden
        aria-label="Hourly weather file"
        onChange={(event) => {
          void load(event.target.files?.[0]);
          event.target.value = "";
        }}
      />
    </div>
  );
}

function CabinNote() {
  const { job, assessment } = useReading();
  const { length, width } = assessment.values.cabin;
  return <>{formatQuantity(length.value * width.value, "surface", job.notation, 2)} of floor</>;
}

/** The run, from one to fourteen days, and what it reads at a moment. */
function Run() {
  const { job } = useReading();
  const { day, stale, fault } = useDay();
  const put = useSheet((state) => state.put);
  const endSession = useSheet((state) => state.endSession);
  const [humidity, setHumidity] = useState(false);
  const id = useId();
  const { days } = job.plan;
  if (!day)
    return (
      <p className="note" aria-busy={!fault}>
        {fault ? `The simulation stopped: ${fault}` : "Simulating the day"}
      </p>
    );
  const { record } = day;
  return (
    <section aria-label="The run" aria-busy={stale}>
      <div className="picture-title">
        <h2>{days === 1 ? "A day, noon to noon" : `${days} days from noon`}</h2>
        <span className="note">
          <span id={id}>days shown</span>
        </span>
        <Slider
          style={{ width: 150, margin: "0 8px" }}
          min={1}
          max={14}
          value={days}
          ariaLabelledByForHandle={id}
          onChange={(value: number) => put("plan.days", value, id)}
          onChangeComplete={endSession}
        />
        <Checkbox checked={humidity} onChange={({ target }) => setHumidity(target.checked)}>
          humidity
        </Checkbox>
      </div>
      <p className="sentence" data-words="lasts">
        {day.words.lasts.long} {day.words.recovers.long}
        {record.stop ? ` ${capital(stopWords(record))}.` : ""}
      </p>
      <DayPlot day={day} days={days} humidity={humidity} />
      <Reading day={day} days={days} />
    </section>
  );
}

const capital = (text: string) => (text ? text[0]!.toUpperCase() + text.slice(1) : text);

/** Everything at one moment of the run: drag along it, or use the arrow keys. */
function Reading({ day, days }: { day: DayAnswer; days: number }) {
  const { job } = useReading();
  const { cursor, setCursor } = useCursor();
  const { record } = day;
  const id = useId();
  const steps = Math.min(record.steps, Math.round((days * 86_400) / record.stepS));
  const k = Math.min(cursor ?? Math.floor(steps / 2), steps - 1);
  if (k < 0) return null;
  const prefs = job.notation;
  const power = (value: number) => formatQuantity(Math.abs(value) < 0.5 ? 0 : value, "power", prefs, 3);
  const temperature = (value: number) => formatQuantity(value, "temperature", prefs, 3);
  const cells = fromCells(record, k);
  const from: [string, number][] = [
    ["Sun", record.sunPower[k]!],
    ["Engine", record.engine[k]!],
    ["Shore", record.shore[k]!],
    ["Generator", record.generator[k]!],
    ["Out of the battery", Math.max(0, cells)],
  ];
  const to: [string, number][] = [
    ["Air conditioner", record.units[k]!],
    ["Other loads", record.loads[k]!],
    ["Losses", Math.max(0, record.losses[k]!)],
    ["Into the battery", Math.max(0, -cells)],
  ];
  const most = Math.max(1, ...from.map(([, value]) => value), ...to.map(([, value]) => value));
  const flows = (list: [string, number][], colour: string) =>
    list
      .filter(([, value]) => value >= 0.5)
      .map(([name, value]) => (
        <tr key={name}>
          <td>{name}</td>
          <td className="mono">{power(value)}</td>
          <td style={{ width: "45%" }}>
            <span className="share-bar" style={{ width: `${(100 * value) / most}%`, background: colour }} />
          </td>
        </tr>
      ));
  return (
    <div className="day-reading" data-reading>
      <div className="scrub">
        <span className="mono" id={id}>
          {weekdayOf(record.clock, k * record.stepS)} {timeOfDay(record.clock, k * record.stepS)}
        </span>
        <Slider
          min={0}
          max={Math.max(1, steps - 1)}
          value={k}
          step={5}
          tooltip={{ open: false }}
          ariaLabelledByForHandle={id}
          onChange={(value: number) => setCursor(value)}
        />
      </div>
      <div className="reading-columns">
        <table className="values">
          <tbody>
            <tr>
              <td>State of charge</td>
              <td className="mono">{formatQuantity(record.stateOfCharge[k]!, "ratio", prefs, 3)}</td>
            </tr>
            <tr>
              <td>Voltage: battery, inverter</td>
              <td className="mono">
                {formatQuantity(record.bankVolts[k]!, "voltage", prefs, 3)},{" "}
                {formatQuantity(record.inverterVolts[k]!, "voltage", prefs, 3)}
              </td>
            </tr>
            <tr>
              <td>{record.bankCurrent[k]! < 0 ? "Charging" : "Discharging"}</td>
              <td className="mono">{formatQuantity(Math.abs(record.bankCurrent[k]!), "current", prefs, 3)}</td>
            </tr>
            <tr>
              <td>Cabin{Number.isNaN(record.setPointC[k]!) ? "" : ", set"}</td>
              <td className="mono">
                {temperature(record.cabinC[k]!)}
                {Number.isNaN(record.setPointC[k]!) ? "" : `, ${temperature(record.setPointC[k]!)}`}
              </td>
            </tr>
            <tr>
              <td>Humidity inside</td>
              <td className="mono">{formatQuantity(record.humidity[k]!, "ratio", prefs, 2)}</td>
            </tr>
            <tr>
              <td>Outdoors, sun</td>
              <td className="mono">
                {temperature(record.outdoorC[k]!)}, {formatQuantity(record.sun[k]!, "irradiance", prefs, 2)}
              </td>
            </tr>
          </tbody>
        </table>
        <table className="values">
          <caption>Sources and uses of power</caption>
          <tbody>{flows(from, "var(--sun)")}</tbody>
        </table>
        <table className="values">
          <caption>and goes</caption>
          <tbody>{flows(to, "var(--cold)")}</tbody>
        </table>
      </div>
    </div>
  );
}

/** Totals of the fortnight. */
const Outcome = memo(function Outcome() {
  const { job } = useReading();
  const { day } = useDay();
  const rows = useMemo(() => {
    if (!day) return [];
    const prefs = job.notation;
    const { totals, steps, stepS } = day.record;
    const nights = (steps * stepS) / 86_400;
    const asked = totals.secondsAsked / nights;
    const lines: [string, string][] = [
      ["Cooling wanted, a day", formatQuantity(asked, "duration", prefs, 2)],
      [
        "Of that, set point held",
        totals.secondsAsked > 0 ? formatQuantity(totals.secondsMet / totals.secondsAsked, "ratio", prefs, 2) : "–",
      ],
      ["Missed it by, a day", degreeHours(totals.degreeHoursMissed / nights, prefs)],
      [
        "Compressor on",
        totals.secondsAsked > 0
          ? `${formatQuantity(totals.secondsCompressor / totals.secondsAsked, "ratio", prefs, 2)} of that time`
          : "–",
      ],
    ];
    return lines;
  }, [day, job.notation]);
  if (!day) return null;
  return (
    <section className="outcome">
      <table className="values">
        <caption>Totals of the fortnight</caption>
        <tbody>
          {rows.map(([name, value]) => (
            <tr key={name}>
              <td>{name}</td>
              <td className="mono">{value}</td>
            </tr>
          ))}
          <tr>
            <td>Energy in, energy out, a day</td>
            <td className="mono">
              <FigureValue figure="day.in" digits={2} />, <FigureValue figure="day.out" digits={2} />
            </td>
          </tr>
          <tr>
            <td>Curtailed solar, a day</td>
            <td className="mono">
              <FigureValue figure="day.lost" digits={2} />
            </td>
          </tr>
          <tr>
            <td>Full cycles a day, and battery wear</td>
            <td className="mono">
              <FigureValue figure="day.cycles" digits={2} />, <FigureValue figure="day.cost" digits={2} />
            </td>
          </tr>
        </tbody>
      </table>
      <div>
        <div className="caption">State of charge at each sunrise</div>
        <ol className="dawns">
          {day.trend.sunrises.map(({ at, share }) => (
            <li key={at}>
              {weekdayOf(day.record.clock, at)} {timeOfDay(day.record.clock, at)}{" "}
              <span className="mono">{formatQuantity(share, "ratio", job.notation, 2)}</span>
            </li>
          ))}
        </ol>
      </div>
    </section>
  );
});

/** The driver's cab of a van or motorhome: a good part of what the room takes in, where no curtain parts it. */
function CabLines() {
  const { job } = useReading();
  if (!HAS_CAB.includes(job.cabin.kind)) return null;
  return (
    <>
      <ChoiceLine
        path="cabin.cab"
        label="Driver's cab"
        unsaid="parted"
        options={[
          { value: "open", label: "open to the room" },
          { value: "parted", label: "parted by a curtain or wall" },
        ]}
      />
      {job.cabin.cab === "open" && (
        <ChoiceLine
          path="cabin.cabCovers"
          label="Covers on its windows"
          unsaid="none"
          options={[
            { value: "none", label: "none" },
            { value: "inside", label: "inside" },
            { value: "outside", label: "outside" },
          ]}
        />
      )}
    </>
  );
}
