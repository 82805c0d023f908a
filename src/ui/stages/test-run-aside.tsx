import type { Job } from "@/core/document/schema";
import { formatQuantity } from "@/core/units/format";
import type { Outbox } from "../state/use-outbox";
import { wallClock } from "./test-run-parts";
import { wordsOf } from "./test-run-words";

interface Props {
  outbox: Outbox;
  job: Job;
  startMs: number;
  zone: string;
}

/** Readings that the server refused, with why, to be sent again or dropped: nothing that was written is lost unseen. */
export function RefusedReadings({ outbox, job, startMs, zone }: Props) {
  const clock = wallClock(startMs, zone);
  const degrees = (v: number) => formatQuantity(v, "temperature", job.notation, 3);
  return outbox.aside.map(({ key, reading, why, clockAheadMs }) => (
    <div key={key} className="aside-reading" role="group" aria-label="Reading not accepted">
      <p className="heat" role="alert">
        {clock((reading.timeMs - startMs) / 1000)} {wordsOf(reading.values, degrees) || reading.note || "photo"} was not
        accepted: {why}
      </p>
      {clockAheadMs !== null && (
        <button type="button" onClick={() => void outbox.decide(key, "move")}>
          Put its time right: {clock((reading.timeMs + clockAheadMs - startMs) / 1000)}
        </button>
      )}
      <button type="button" onClick={() => void outbox.decide(key, "send")}>
        {clockAheadMs === null ? "Send again" : "Its time is right: send"}
      </button>
      <button type="button" onClick={() => void outbox.decide(key, "drop")}>
        Discard reading
      </button>
    </div>
  ));
}
