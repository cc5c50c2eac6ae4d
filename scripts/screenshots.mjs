// `npm run screenshots`: lays the demo in a database of its own and renews the pictures in docs/screenshots.
import { randomUUID } from 'node:crypto';
import { spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { build } from './lib/build.mjs';
import { freePort, startDatabase } from './lib/database.mjs';
import { exec } from './lib/exec.mjs';
import { ensureBrowser, ensureDatabasePrograms, ensureNodePackages } from './lib/install.mjs';
import { DIST, ROOT } from './lib/paths.mjs';
import { Told, run, say } from './lib/say.mjs';

const FLAGS = [
  '--headless=new',
  '--no-sandbox',
  // Models are drawn where no graphics card is.
  '--use-angle=swiftshader',
  '--enable-unsafe-swiftshader',
  '--ignore-gpu-blocklist',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];

/** A draft that is pictured. */
const ENQUIRY = '01a08f28-0000-7000-8000-00000000d4af';
/** Dates are worked out while somebody waits. */
const DATES_MS = 60_000;

/** What is pictured: the address, made from the demo's pieces, and what is clicked before. */
const VIEWS = [
  { name: 'floor', path: () => '/floor' },
  { name: 'piece', path: (piece) => `/pieces/${piece('HER', 4)}` },
  { name: 'pour-day', path: () => '/pour/day', ready: 'kv-pit circle' },
  { name: 'heat-live', path: (_, __, heats) => `/heats/${heats.next}/live`, size: [800, 1280], ready: '.target' },
  { name: 'heat', path: (_, __, heats) => `/heats/${heats.troubled}`, ready: 'kv-heat-curve svg' },
  { name: 'metal', path: () => '/metal', ready: '.alloy' },
  { name: 'tanks', path: () => '/coats/tanks', ready: 'kv-tank-chart circle' },
  { name: 'kiln', path: () => '/kiln', ready: 'kv-fire-curve path', click: ['[data-test=fill]'] },
  { name: 'model', path: (_, work) => `/works/${work('HND')}/model?tab=cuts`, ready: '.pin.part' },
  { name: 'pictures', path: (piece) => `/pictures/piece/${piece('OTT', 4)}`, ready: '.stage img' },
  ...['day', 'plan', 'coats', 'pour', 'settings'].map((name) => ({
    name,
    path: () => `/${name}`,
  })),
  { name: 'plan-hands', path: () => '/plan?by=hands', ready: '[data-name]' },
  { name: 'work', path: (_, work) => `/works/${work('HER')}` },
  { name: 'what-if', path: () => `/drafts/${ENQUIRY}`, ready: '.dates:not(.old) table' },
  { name: 'why', path: (piece) => `/why/${piece('HND', 2)}`, ready: '.chain' },
];

/** A session of the demo, past its screens. */
async function asInDemo(url, personId) {
  const answer = await fetch(`${url}/api/session/demo`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ personId }),
  });
  return { Cookie: answer.headers.getSetCookie()[0].split(';')[0] };
}

/** Somebody asks for three seals like the otter, kept as a draft. */
async function anEnquiry(url, Cookie) {
  const headers = { Cookie, 'Content-Type': 'application/json' };
  const { token } = await (await fetch(`${url}/api/session`, { headers })).json();
  const { choices } = await (await fetch(`${url}/api/drafts`, { headers })).json();
  const otter = choices.works.find(({ code }) => code === 'OTT');
  const asked = { id: ENQUIRY, code: 'HSL', title: 'Harbour Seal', editionSize: 3, artistProofs: 0, dueDate: null };
  const moulds = otter.moulds.map((mould) => ({ ...mould, pullsBefore: 0 }));
  const changes = [{ kind: 'enquiry', work: { ...otter, ...asked, moulds } }];
  const answer = await fetch(`${url}/api/drafts`, {
    method: 'POST',
    headers: { ...headers, 'X-Kalvet-Token': token, 'Idempotency-Key': randomUUID() },
    body: JSON.stringify({ id: ENQUIRY, version: 0, name: 'Enquiry: Harbour Seal', changes }),
  });
  if (!answer.ok) throw new Error(`the draft that is pictured: ${await answer.text()}`);
}

/** The heat in which a tree came short, and the next one with its crew confirmed and a first reading: as on its day. */
async function heatsToShow(url, Cookie, read) {
  const { heats: past } = await read('/heats/book');
  const { heats } = await read('/pour');
  const [next] = heats;
  const headers = { Cookie, 'Content-Type': 'application/json' };
  const { token, person } = await (await fetch(`${url}/api/session`, { headers })).json();
  const post = async (path, body) => {
    const answer = await fetch(`${url}/api/heats/${next.id}/${path}`, {
      method: 'POST',
      headers: { ...headers, 'X-Kalvet-Token': token, 'Idempotency-Key': randomUUID() },
      body: JSON.stringify(body),
    });
    if (!answer.ok) throw new Error(`the heat that is pictured: ${await answer.text()}`);
  };
  const shop = await read('/shop');
  const tomas = shop.people.find(({ shortName }) => shortName === 'TQ');
  const crew = [
    { role: 'lead', personId: tomas.id, deputyId: null },
    { role: 'second', personId: person.id, deputyId: null },
  ];
  const checks = ['crucible', 'tongs', 'warm', 'pit', 'way', 'skimmer'];
  await post('crew', { version: next.version, crew, signs: 'by hand', checks, coverConfirmed: true });
  const at = new Date().toISOString();
  const reading = { treeId: null, celsius: 1186, where: 'furnace', means: 'immersion', instrument: 'Dip pyrometer' };
  await post('readings', { ...reading, id: randomUUID(), at });
  await post('out', { treeId: next.pourings[0].treeId, at });
  return { next: next.id, troubled: (past.find(({ troubled }) => troubled > 0) ?? past[0]).id };
}

async function pictures(url) {
  const { Builder, By, until } = await import('selenium-webdriver');
  const { default: chrome } = await import('selenium-webdriver/chrome.js');
  const profile = mkdtempSync(join(tmpdir(), 'kalvet-pictures-'));
  const options = new chrome.Options();
  options.setChromeBinaryPath('/usr/bin/chromium');
  options.addArguments(...FLAGS, `--user-data-dir=${profile}`);
  const driver = await new Builder()
    .forBrowser('chrome')
    .setChromeOptions(options)
    .setChromeService(new chrome.ServiceBuilder('/usr/bin/chromedriver'))
    .build();
  const target = join(ROOT, 'docs', 'screenshots');
  mkdirSync(target, { recursive: true });
  try {
    await driver.sendDevToolsCommand('Emulation.setDeviceMetricsOverride', {
      width: 1280,
      height: 800,
      deviceScaleFactor: 1,
      mobile: false,
    });
    const { choices } = await (await fetch(`${url}/api/session`)).json();
    const { Cookie } = await asInDemo(url, choices.find(({ roles }) => roles.includes('manager')).id);
    const read = async (path) => (await fetch(`${url}/api${path}`, { headers: { Cookie } })).json();
    // The planner needs a moment after the start: the pictures show its dates.
    for (let i = 0; i < 40 && !(await read('/plan')).plan.planId; i++) await driver.sleep(500);
    const { works } = await read('/floor');
    const piece = (code, number) => {
      const pieces = works.find((work) => work.code === code)?.pieces ?? [];
      return (pieces.find((each) => each.number === number) ?? pieces[0])?.id;
    };
    await driver.get(`${url}/favicon.svg`);
    const session = { name: 'kalvet_session', value: Cookie.split('=')[1], path: '/' };
    await anEnquiry(url, Cookie);
    const heats = await heatsToShow(url, Cookie, read);
    for (const { name, path, click, ready, size = [1280, 800] } of VIEWS) {
      await driver.sendDevToolsCommand('Emulation.setDeviceMetricsOverride', {
        width: size[0],
        height: size[1],
        deviceScaleFactor: 1,
        mobile: false,
      });
      await driver.manage().addCookie(session);
      await driver.get(url + path(piece, (code) => works.find((each) => each.code === code)?.id, heats));
      await driver.wait(until.elementLocated(By.css('h1, h2')), 15_000);
      if (ready) await driver.wait(until.elementLocated(By.css(ready)), DATES_MS);
      await driver.sleep(1500);
      for (const css of click ?? []) {
        const [first] = [
          ...(await driver.findElements(By.css(css))),
          ...(await driver.findElements(By.css('[data-test=record-next]'))),
        ];
        await first?.click();
        await driver.sleep(1500);
      }
      writeFileSync(join(target, `${name}.png`), Buffer.from(await driver.takeScreenshot(), 'base64'));
      say(`docs/screenshots/${name}.png`);
    }
  } finally {
    await driver.quit();
    rmSync(profile, { recursive: true, force: true });
  }
}

await run(async () => {
  await ensureNodePackages();
  const programs = await ensureDatabasePrograms();
  await ensureBrowser();
  await build();
  const folder = mkdtempSync(join(tmpdir(), 'kalvet-shots-'));
  const database = await startDatabase({ folder, programs, fast: true });
  let server;
  try {
    await database.query('CREATE DATABASE kalvet_pictures CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci');
    const port = await freePort();
    const env = {
      KALVET_DB_URL: database.url('kalvet_pictures'),
      KALVET_OWN_DB: '1',
      KALVET_DEMO: '1',
      PORT: String(port),
    };
    const laid = await exec(process.execPath, [join(DIST, 'server/demo.mjs')], { env, show: true });
    if (laid.code !== 0) throw new Told('the demo could not be laid; see above.');
    server = spawn(process.execPath, [join(DIST, 'server/main.mjs')], {
      env: { ...process.env, ...env },
      stdio: 'inherit',
    });
    const url = `http://127.0.0.1:${port}`;
    for (
      let i = 0;
      i < 100 &&
      !(await fetch(`${url}/api/health`).then(
        (answer) => answer.ok,
        () => false,
      ));
      i++
    )
      await new Promise((resolve) => setTimeout(resolve, 200));
    await pictures(url);
  } finally {
    server?.kill('SIGTERM');
    await database.stop();
    rmSync(folder, { recursive: true, force: true });
  }
});
process.exit(process.exitCode ?? 0);
