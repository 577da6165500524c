/** The tables of the harbour. Lengths and depths in metres, prices in pence, dates as ISO text. */

import { integer, real, sqliteTable, text } from 'drizzle-orm/sqlite-core';
import type { CrewMember } from '../model.ts';
import type { KeptFile } from './files.ts';

export const berths = sqliteTable('berths', {
  id: integer('id').primaryKey(),
  pontoon: text('pontoon').notNull(),
  name: text('name').notNull(),
  length: real('length').notNull(),
  depth: real('depth').notNull(),
  nightly: integer('nightly').notNull(),
  power: integer('power', { mode: 'boolean' }).notNull(),
  water: integer('water', { mode: 'boolean' }).notNull(),
});

export const boats = sqliteTable('boats', {
  id: integer('id').primaryKey(),
  name: text('name').notNull(),
  kind: text('kind', { enum: ['sail', 'motor', 'rowing'] }).notNull(),
  length: real('length').notNull(),
  homePort: text('home_port').notNull(),
  skipper: text('skipper').notNull(),
  insuredUntil: text('insured_until'),
  about: text('about'),
  photo: text('photo', { mode: 'json' }).$type<KeptFile>(),
  insurance: text('insurance', { mode: 'json' }).$type<KeptFile>(),
  /** Grows with every change. */
  revision: integer('revision').notNull().default(1),
});

/** Boats that have left the book, with all that is to come back when that is undone. Their files stay where they are. */
export const removed = sqliteTable('removed', {
  id: integer('id').primaryKey(),
  boat: text('boat', { mode: 'json' }).notNull().$type<typeof boats.$inferSelect>(),
  stays: text('stays', { mode: 'json' }).notNull().$type<Array<typeof stays.$inferSelect>>(),
  arrivals: text('arrivals', { mode: 'json' }).notNull().$type<Array<typeof arrivals.$inferSelect>>(),
});

/** What skippers say about berths. */
export const comments = sqliteTable('comments', {
  id: integer('id').primaryKey(),
  berthId: integer('berth_id').notNull(),
  /** The comment that this one answers. */
  answers: integer('answers'),
  author: text('author').notNull(),
  at: text('at').notNull(),
  text: text('text').notNull(),
  picture: text('picture', { mode: 'json' }).$type<KeptFile>(),
});

/** Who watches which berth. */
export const watches = sqliteTable('watches', {
  personId: integer('person_id').notNull(),
  berthId: integer('berth_id').notNull(),
});

export const people = sqliteTable('people', {
  id: integer('id').primaryKey(),
  name: text('name').notNull(),
  email: text('email').notNull(),
  password: text('password').notNull(),
  isStaff: integer('is_staff', { mode: 'boolean' }).notNull(),
});

/** Who is signed in. */
export const sessions = sqliteTable('sessions', {
  key: text('key').primaryKey(),
  personId: integer('person_id').notNull(),
});

/** When the harbour was opened first: one row. */
export const opening = sqliteTable('opening', { at: text('at').notNull() });

export const stays = sqliteTable('stays', {
  id: integer('id').primaryKey(),
  berthId: integer('berth_id')
    .notNull()
    .references(() => berths.id),
  boatId: integer('boat_id')
    .notNull()
    .references(() => boats.id),
  from: text('from_day').notNull(),
  until: text('until_day').notNull(),
  status: text('status', { enum: ['requested', 'accepted', 'refused'] }).notNull(),
  crew: text('crew', { mode: 'json' }).$type<CrewMember[]>(),
});

export const arrivals = sqliteTable('arrivals', {
  id: integer('id').primaryKey(),
  boatId: integer('boat_id')
    .notNull()
    .references(() => boats.id),
  berthId: integer('berth_id')
    .notNull()
    .references(() => berths.id),
  at: text('at').notNull(),
  lastPort: text('last_port').notNull(),
});
