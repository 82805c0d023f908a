import ical, { ICalEventRepeatingFreq } from "ical-generator";
import type { Every, FollowUp } from "@/core/applications/handover/follow-ups";

const FREQUENCY: Record<Every["unit"], ICalEventRepeatingFreq> = {
  week: ICalEventRepeatingFreq.WEEKLY,
  month: ICalEventRepeatingFreq.MONTHLY,
  year: ICalEventRepeatingFreq.YEARLY,
};

/**
 * Follow-ups as an iCalendar file (RFC 5545): whole days, coming back as each says. A check keeps its id, so that a file
 * read again replaces what was read before. The same job of the same moment gives the same text.
 */
export function calendarOf(job: { id: string; name: string; stamp: Date }, checks: readonly FollowUp[]): string {
  const calendar = ical({ prodId: { company: "Chillbank", product: "Follow-up checks" } });
  for (const { key, title, what, first, every } of checks)
    calendar.createEvent({
      id: `${key}.${job.id}@chillbank`,
      stamp: job.stamp,
      start: new Date(`${first}T00:00:00Z`),
      allDay: true,
      summary: `${title}: ${job.name}`,
      description: what,
      ...(every ? { repeating: { freq: FREQUENCY[every.unit], interval: every.count } } : {}),
    });
  // A whole day is said by its date alone; the library's extra lines for single programs say nothing more.
  return calendar
    .toString()
    .split("\r\n")
    .filter((line) => !line.startsWith("X-"))
    .join("\r\n");
}
