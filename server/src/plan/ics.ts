import type { Instant } from '@kalvet/core';
import ical, { ICalCalendarMethod } from 'ical-generator';
import type { FeedEvent } from './feed-events.ts';

/** Asked for again by calendars after so long. */
const EVERY_SECONDS = 30 * 60;

/**
 * Events as an iCalendar file (RFC 5545).
 * @param stamp when what they are made from was made: the same events give the same file
 */
export function icsOf(name: string, events: readonly FeedEvent[], stamp: Instant): string {
  const calendar = ical({
    name,
    prodId: { company: 'Kalvet', product: 'Plan', language: 'EN' },
    method: ICalCalendarMethod.PUBLISH,
    ttl: EVERY_SECONDS,
  });
  for (const { id, summary, from, to, about } of events)
    calendar.createEvent({
      id: `${id}@kalvet`,
      stamp: new Date(stamp),
      start: new Date(from),
      end: new Date(to),
      summary,
      description: about === '' ? null : about,
    });
  return calendar.toString();
}
