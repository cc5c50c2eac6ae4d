import { DEFAULT_CALENDARS, DEFAULT_RESOURCES } from '@kalvet/core';
import type { Store } from '../write/store.ts';

/** Gives a shop that has none its first hours and hands. Two servers that start at once do it once. */
export async function layPlanningDefaults({ models }: Store): Promise<void> {
  if ((await models.resources.count()) > 0) return;
  await models.calendars.bulkCreate(DEFAULT_CALENDARS as never[], { ignoreDuplicates: true });
  await models.resources.bulkCreate(DEFAULT_RESOURCES as never[], { ignoreDuplicates: true });
}
