import type { Instant } from '@kalvet/core';

/** An instant as MariaDB takes it in a raw statement. */
export const sqlInstant = (instant: Instant): string => instant.replace('T', ' ').replace('Z', '');
