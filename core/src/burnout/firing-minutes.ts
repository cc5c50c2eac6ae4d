import type { KilnProfile } from '../records/burnout.ts';
import { profileMinutes } from './firing-profile.ts';

/** How long a firing holds the kiln in a plan: its profile's whole minutes. */
export const firingMinutes = (profile: KilnProfile): number => Math.ceil(profileMinutes(profile));

/** The longest profile in use for a kind of firing: no plan may draw a shell before its time. Undefined where there is none. */
export const longestFor = (profiles: readonly KilnProfile[], use: KilnProfile['use']): KilnProfile | undefined =>
  profiles
    .filter((each) => each.use === use && each.state === 'in use')
    .sort((a, b) => profileMinutes(b) - profileMinutes(a) || a.name.localeCompare(b.name))[0];
