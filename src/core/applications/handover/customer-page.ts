import { runTimeMap } from "../../assessment/run-time-map/run-time-map";
import { formatQuantity } from "../../units/format";
import type { Job } from "../../document/schema";
import { cardWords } from "./card";
import { handoverOf, handoverSource, type Section } from "./document";

/** What a customer sees by a link: stops, card, run-time map and cautions, as they stood on that day. */
export interface CustomerPage {
  name: string;
  revision: number;
  date: string;
  sections: Section[];
  map: { head: string[]; rows: string[][] };
}

/** Sections of a handover document that are the customer's. */
const SHOWN = ["state", "stops", "card", "cautions"];
/** Columns of the run-time map: every second degree is enough on a phone. */
const SET_POINTS = [20, 22, 24, 26, 28];

/** The customer's page of a system: worked out once, so that what was promised stays what was promised. */
export async function customerPage(
  job: Job,
  { revision, date }: { revision: number; date: string },
): Promise<CustomerPage> {
  // Whatever the installer left off the print, these are what the page is for.
  const whole: Job = { ...job, handover: { ...job.handover, document: { ...job.handover.document, leaveOut: [] } } };
  const pack = handoverOf(handoverSource(whole), { revision, date });
  const map = (await runTimeMap(job))!;
  const degrees = (value: number) => formatQuantity(value, "temperature", job.notation, 2);
  const columns = SET_POINTS.map((setPoint) => map.setPointC.indexOf(setPoint));
  return {
    name: pack.name,
    revision,
    date,
    sections: pack.sections.filter(({ key }) => SHOWN.includes(key)),
    map: {
      head: ["highest outdoors", ...SET_POINTS.map(degrees)],
      rows: map.outdoorC.map((outdoor, row) => [
        degrees(outdoor),
        ...columns.map((at) => {
          const seconds = map.seconds[row]![at]!;
          return cardWords({ seconds, more: seconds >= map.limit });
        }),
      ]),
    },
  };
}
