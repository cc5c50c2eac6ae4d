// `npm run recover -- "Name"`: gives somebody a password for one time, at the server itself, where nobody can sign in any more.
import { connect } from './db/connection.ts';
import { defineModels } from './db/tables.ts';
import { NOWHERE, audit } from './people/audit.ts';
import { giveOneTimePassword } from './people/people.service.ts';
import { people } from './people/person-of.ts';

const name = process.argv[2]?.trim().toLocaleLowerCase('en') ?? '';
const db = connect(process.env['KALVET_DB_URL'] ?? '', { patient: true });
const store = { db, models: defineModels(db) };
try {
  const everybody = (await people(store)).filter(({ active }) => active);
  const person = everybody.find(
    (each) => each.name.toLocaleLowerCase('en') === name || each.shortName.toLocaleLowerCase('en') === name,
  );
  if (!person) {
    const names = everybody.map((each) => `${each.name} (${each.roles.join(', ') || 'no role'})`).join('\n    ');
    console.error(`kalvet: say whose: npm run recover -- "Name". These work here:\n    ${names || 'nobody yet'}`);
    process.exitCode = 1;
  } else {
    const managed = everybody.some(({ roles }) => roles.includes('manager'));
    // A shop that nobody manages would stay so.
    if (!managed)
      await store.models.people.update(
        { roles: [...person.roles, 'manager'], version: person.version + 1 },
        { where: { id: person.id } },
      );
    const password = await giveOneTimePassword(store, person);
    const text = `new password at the server${managed ? '' : ', and made manager'}`;
    await audit(store, { what: 'password', person, how: 'server', text, from: NOWHERE });
    console.log(`kalvet: ${person.name} signs in once with   ${password}   and chooses a new password then.`);
  }
} finally {
  await db.close();
}
