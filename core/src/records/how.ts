/** How sure it is who did something. */
export const HOWS = ['password', 'pin', 'openid', 'demo', 'stated', 'server'] as const;
export type How = (typeof HOWS)[number];

export const HOW_WORDS: Readonly<Record<How, string>> = {
  password: 'signed in by password',
  pin: 'by PIN at a room’s tablet',
  openid: 'signed in by OpenID',
  demo: 'chosen in the demo, not proven',
  stated: 'as stated, before there was a sign-in',
  server: 'at the server itself',
};
