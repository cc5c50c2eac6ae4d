import type { Verb } from './history.ts';

/** What somebody is in the shop; a person may be several. */
export const ROLES = ['manager', 'office', 'lead', 'pour lead', 'hand', 'visitor', 'instrument'] as const;
export type Role = (typeof ROLES)[number];

export const ROLE_NAMES: Readonly<Record<Role, string>> = {
  manager: 'production manager',
  office: 'office',
  lead: 'room lead',
  'pour lead': 'pour lead',
  hand: 'hand',
  visitor: 'visitor',
  instrument: 'instrument',
};

/** What each role is, in a line. */
export const ROLE_WORDS: Readonly<Record<Role, string>> = {
  manager: 'plans, decides exceptions, keeps people and settings',
  office: 'works, orders and clients; records nothing in the rooms',
  lead: 'everything in the rooms of their own, exceptions there too',
  'pour lead': 'heats, crew and pour',
  hand: 'records what is done in the rooms of their own',
  visitor: 'looks, without clients and recipes',
  instrument: 'a program that reports what it measures',
};

/** Rules that may be passed by some, with a reason. */
export const PASSABLE_RULES = [
  'order',
  'min wait',
  'skip',
  'crew',
  'crucible',
  'ready',
  'pot',
  'lot',
  'unlikely',
] as const;
export type PassableRule = (typeof PASSABLE_RULES)[number];

export const RULE_NAMES: Readonly<Record<PassableRule, string>> = {
  order: 'the order of rooms',
  'min wait': 'a wait cut short',
  skip: 'a step left out',
  crew: 'a pour without crew and cover confirmed',
  crucible: 'a charge above the usable mark',
  ready: 'a heat with a tree that cannot be ready',
  pot: 'another metal in a crucible, or one beyond its life',
  lot: 'metal that is not among the deliveries',
  unlikely: 'an unlikely reading that is so',
};

/** Decisions that one person answers for by name. */
export const GATES = ['wax approval', 'leak test', 'crew and cover', 'final inspection'] as const;
export type Gate = (typeof GATES)[number];

/** What not everybody who works here sees. */
export const SIGHTS = ['clients', 'recipes', 'money'] as const;
export type Sight = (typeof SIGHTS)[number];

/** Acts that are no record of the work, but belong to some. */
export const KEEPING = ['see audit', 'see people', 'reset password', 'pair tablet'] as const;
export type Keeping = (typeof KEEPING)[number];

/** Anything that somebody may do or may not. */
export type Right = Verb | Keeping;

/** What is read at one address. */
export const PAGES_READ = [
  'shop',
  'floor',
  'rail',
  'day',
  'plan',
  'coats',
  'tanks',
  'kiln',
  'pour',
  'metal',
  'quality',
  'instruments',
  'practice',
  'orders',
  'works',
  'pieces',
  'steps',
  'heats',
  'loads',
  'planning',
  'find',
  'changes',
  'standing',
  'backups',
  'people',
  'audit',
  'drafts',
  'feeds',
  'files',
  'attachments',
  'models',
] as const;
export type PageRead = (typeof PAGES_READ)[number];
