/** The harbour’s database: one SQLite file, created and filled where there is none. Several processes may have it open. */
import { existsSync } from 'node:fs';
import { mkdir, mkdtemp, rename, rm } from 'node:fs/promises';
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
create table sessions (key text primary key, person_id integer not null references people);
create table opening (at text not null);
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
  /** Where files are that come with forms, until they are taken. */
  uploads: string;
  /** When the harbour was opened first. */
  opened: Date;
  /** Closes the database; one in a temporary folder is removed. */
  close(): Promise<void>;
}

/** Milliseconds that a process waits for another one that writes. */
const longestWait = 5000;

/** @param given where the database is kept; without it, in a temporary folder of its own */
export async function openDatabase(given?: string): Promise<OpenDatabase> {
  const folder = given ?? (await mkdtemp(join(tmpdir(), 'tern-harbour-')));
  await mkdir(folder, { recursive: true });
  const file = join(folder, 'harbour.sqlite');
  if (!existsSync(file)) await fillDatabase(file);
  const { client, database } = connect(file);
  const [opening] = await database.select().from(schema.opening);
  return {
    database,
    file,
    files: openFiles(join(folder, 'files')),
    uploads: join(folder, 'uploads'),
    opened: new Date(opening!.at),
    async close() {
      client.close();
      if (given === undefined) await rm(folder, { recursive: true, force: true });
    },
  };
}

function connect(file: string) {
  const client = createClient({ url: pathToFileURL(file).href, timeout: longestWait });
  return { client, database: drizzle(client, { schema }) };
}

/** Made beside its place: one that is half filled is never taken for the harbour’s. */
async function fillDatabase(file: string): Promise<void> {
  const draft = `${file}-${process.pid}`;
  const { client, database } = connect(draft);
  await client.executeMultiple(tables);
  const rows = seedRows();
  const password = hashPassword(demoPassword);
  await database.insert(schema.people).values(rows.people.map((person) => ({ ...person, password })));
  await database.insert(schema.berths).values(rows.berths);
  await database.insert(schema.boats).values(rows.boats);
  await database.insert(schema.stays).values(rows.stays);
  await database.insert(schema.comments).values(rows.comments);
  await database.insert(schema.arrivals).values(rows.arrivals);
  await database.insert(schema.opening).values({ at: new Date().toISOString() });
  client.close();
  await rename(draft, file);
  // Whoever writes does not keep others from reading.
  const { client: filled } = connect(file);
  await filled.execute('pragma journal_mode = wal');
  filled.close();
}
