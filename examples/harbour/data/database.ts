/** The harbour’s database: one SQLite file, created and filled at the start. */
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { createClient } from '@libsql/client';
import { drizzle } from 'drizzle-orm/libsql';
import { type Files, openFiles } from './files.ts';
import { demoPassword, hashPassword } from './people.ts';
import * as schema from './schema.ts';
import { seedRows } from './seed.ts';

const tables = `
create table berths (id integer primary key, pontoon text not null, name text not null unique, length real not null,
  depth real not null, nightly integer not null, power integer not null, water integer not null);
create table boats (id integer primary key, name text not null, kind text not null, length real not null,
  home_port text not null, skipper text not null, insured_until text, about text, photo text, insurance text,
  revision integer not null default 1);
create table removed (id integer primary key, boat text not null, stays text not null, arrivals text not null);
create table people (id integer primary key, name text not null, email text not null unique, password text not null,
  is_staff integer not null);
create table stays (id integer primary key, berth_id integer not null references berths, boat_id integer not null references boats,
  from_day text not null, until_day text not null, status text not null, crew text);
create table arrivals (id integer primary key, boat_id integer not null references boats, berth_id integer not null references berths,
  at text not null, last_port text not null);
create table comments (id integer primary key, berth_id integer not null references berths, answers integer references comments,
  author text not null, at text not null, text text not null, picture text);
create table watches (person_id integer not null references people, berth_id integer not null references berths, primary key (person_id, berth_id));
create index stays_by_berth on stays (berth_id, from_day);
create index arrivals_by_time on arrivals (at);
`;

export type Database = ReturnType<typeof drizzle<typeof schema>>;

export interface OpenDatabase {
  database: Database;
  /** Where the file is. */
  file: string;
  /** What was sent with boats and comments. */
  files: Files;
  /** Closes the database and removes its file. */
  close(): Promise<void>;
}

/** Creates and fills a database in a temporary folder of its own. */
export async function openDatabase(): Promise<OpenDatabase> {
  const folder = await mkdtemp(join(tmpdir(), 'tern-harbour-'));
  const file = join(folder, 'harbour.sqlite');
  const client = createClient({ url: pathToFileURL(file).href });
  await client.executeMultiple(tables);
  const database = drizzle(client, { schema });
  const rows = seedRows();
  const password = hashPassword(demoPassword);
  await database.insert(schema.people).values(rows.people.map((person) => ({ ...person, password })));
  await database.insert(schema.berths).values(rows.berths);
  await database.insert(schema.boats).values(rows.boats);
  await database.insert(schema.stays).values(rows.stays);
  await database.insert(schema.comments).values(rows.comments);
  await database.insert(schema.arrivals).values(rows.arrivals);
  return {
    database,
    file,
    files: openFiles(join(folder, 'files')),
    async close() {
      client.close();
      await rm(folder, { recursive: true, force: true });
    },
  };
}
