"use client";

import { formatQuantity } from "@/core/units/format";
import { CheckLine } from "../fields/check-line";
import { ChoiceLine } from "../fields/choice-line";
import { FigureValue } from "../fields/figure-value";
import { QuantityLine } from "../fields/quantity-line";
import { BankColumn, BankTable } from "../pictures/bank-column";
import { HandMethod } from "../answers/hand-method";
import { LastsBars } from "../pictures/hours-bars";
import { useReading, useSheet } from "../state/sheet-context";
import { FromShelf } from "../shelf/from-shelf";
import { Group, More, Notices, StageFrame } from "./parts";

/** The battery: what it is made of, between which volts it is used, what it may give. */
export function BankStage() {
  const cells = useSheet((state) => state.job.bank.build === "cells");
  const lead = useSheet((state) => state.job.bank.chemistry === "agm");
  return (
    <StageFrame
      worksheet={
        <>
          <Group
            title="Battery"
            note={
              <>
                <Size /> <FromShelf kind="battery" path="bank" />
              </>
            }
          >
            <ChoiceLine
              path="bank.chemistry"
              label="Chemistry"
              options={[
                { value: "lfp", label: "LFP" },
                { value: "nmc", label: "NMC lithium-ion" },
                { value: "agm", label: "AGM lead-acid" },
              ]}
            />
            <ChoiceLine
              path="bank.build"
              label="Built from"
              options={[
                { value: "batteries", label: "batteries" },
                { value: "cells", label: "bare cells" },
              ]}
            />
            {!lead && <CheckLine path="bank.frostBlock" label="Charging is blocked below freezing" />}
            <QuantityLine path="bank.blockVoltage" />
            <QuantityLine path="bank.series" />
            <QuantityLine path="bank.parallel" />
            <QuantityLine path="bank.capacityAh" />
            <QuantityLine path="bank.condition" />
            {!cells && <QuantityLine path="bank.seriesAllowed" />}
          </Group>
          <Group title="Operating limits">
            <QuantityLine path="bank.chargeToVoltage" />
            <QuantityLine path="bank.startSoc" />
            <QuantityLine path="bank.stopVoltage" />
            <QuantityLine path="bank.reserve" />
          </Group>
          <Group title="Current limits" note={cells && !lead ? "of its one BMS" : "each battery"}>
            <QuantityLine path="bank.continuousCurrent" />
            <QuantityLine path="bank.peakCurrent" />
            <QuantityLine path="bank.peakTime" />
            <QuantityLine path="bank.chargeCurrent" />
            <QuantityLine path="bank.resistance" />
            {cells && !lead && <QuantityLine path="bank.protectionResistance" />}
          </Group>
          <More title="More: temperature, Peukert">
            <QuantityLine path="bank.temperatureC" />
            {!lead && <QuantityLine path="bank.highestChargeC" />}
            <QuantityLine path="bank.peukert" />
            <QuantityLine path="bank.ratedTime" />
          </More>
        </>
      }
      picture={
        <>
          <div className="picture-title">
            <h2>What the battery holds, and where it goes in the hours wanted</h2>
            <span className="note">
              <FigureValue figure="bank.capacity" /> now, <FigureValue figure="bank.resistance" />,{" "}
              <FigureValue figure="bank.rest" /> open-circuit at the reserve
            </span>
          </div>
          <div className="bank-picture">
            <BankColumn />
            <div>
              <LastsBars />
              <BankTable />
            </div>
          </div>
          <HandMethod />
          <Notices stage="bank" />
        </>
      }
    />
  );
}

/** Nominal volts and the number of batteries or cells. */
function Size() {
  const { job, assessment } = useReading();
  const { series, parallel, blockVoltage } = assessment.values.bank;
  const count = series.value * parallel.value;
  const what = job.bank.build === "cells" ? "cells" : count === 1 ? "battery" : "batteries";
  return (
    <>{`${formatQuantity(series.value * blockVoltage.value, "voltage", job.notation)} nominal, ${count} ${what}`}</>
  );
}
