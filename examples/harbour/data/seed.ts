/** Fills an empty database with the made-up harbour: always the same. */
import { dayAfter, demoDay } from './calendar.ts';
import { createRandom, type Random } from './random.ts';
import type { arrivals, berths, boats, comments, people, stays } from './schema.ts';

type Rows<Table extends { $inferInsert: object }> = Array<Table['$inferInsert']>;

export interface SeedRows {
  /** Without their passwords. */
  people: Array<Omit<typeof people.$inferInsert, 'password'>>;
  berths: Rows<typeof berths>;
  boats: Rows<typeof boats>;
  stays: Rows<typeof stays>;
  arrivals: Rows<typeof arrivals>;
  comments: Rows<typeof comments>;
}

const firstWords = [
  'Quiet',
  'Amber',
  'Salt',
  'North',
  'Little',
  'Copper',
  'Windward',
  'Evening',
  'Silver',
  'Drifting',
  'Bold',
  'Patient',
];
const secondWords = [
  'Tern',
  'Lantern',
  'Petrel',
  'Kittiwake',
  'Thrift',
  'Compass',
  'Gannet',
  'Sandpiper',
  'Marram',
  'Skerry',
  'Plover',
  'Anchor',
];
const ports = [
  'Skerry Head',
  'Ellen Sound',
  'Marrowick',
  'Saltby Quay',
  'Far Lantern',
  'Gullane Bight',
  'Oxney Pool',
  'Thrift Haven',
];
const firstNames = ['Ada', 'Bram', 'Cleo', 'Dov', 'Esme', 'Finn', 'Greta', 'Hal', 'Iris', 'Jory', 'Kit', 'Lena'];
const lastNames = ['Marlowick', 'Sandeby', 'Tarnholt', 'Quaysley', 'Windrow', 'Shorely', 'Ketterby', 'Brackwell'];

/** All rows: 72 berths on 6 pontoons, 48 boats, 160 stays, 30 days of arrivals. */
export function seedRows(): SeedRows {
  const random = createRandom(20_260_612);
  const berthRows = makeBerths(random);
  const boatRows = makeBoats(random);
  return {
    people: [
      { id: 1, name: 'Esme Windrow', email: 'esme@tern.example', isStaff: true },
      { id: 2, name: 'Hal Brackwell', email: 'hal@tern.example', isStaff: false },
    ],
    berths: berthRows,
    boats: boatRows,
    stays: makeStays(random, berthRows, boatRows),
    arrivals: makeArrivals(random, berthRows, boatRows),
    comments: makeComments(random, berthRows),
  };
}

function makeBerths(random: Random): SeedRows['berths'] {
  return Array.from({ length: 72 }, (_, index) => {
    const pontoon = 'ABCDEF'[Math.floor(index / 12)]!;
    const length = [6, 8, 10, 12, 15, 20][Math.floor(index / 12)]! + random.between(0, 3) / 2;
    return {
      id: index + 1,
      pontoon,
      name: `${pontoon}${(index % 12) + 1}`,
      length,
      depth: 1.5 + random.between(0, 8) / 4,
      nightly: Math.round(length * 240 + random.between(0, 4) * 50),
      power: random.chance(0.7),
      water: random.chance(0.85),
    };
  });
}

function makeBoats(random: Random): SeedRows['boats'] {
  const names = new Set<string>();
  while (names.size < 48) names.add(`${random.pick(firstWords)} ${random.pick(secondWords)}`);
  return [...names].map((name, index) => {
    const kind = random.pick(['sail', 'sail', 'sail', 'motor', 'motor', 'rowing'] as const);
    const length = kind === 'rowing' ? 3 + random.between(0, 4) / 2 : 5.5 + random.between(0, 24) / 2;
    return {
      id: index + 1,
      name,
      kind,
      length,
      homePort: random.pick(ports),
      skipper: `${random.pick(firstNames)} ${random.pick(lastNames)}`,
    };
  });
}

/** Stays that never overlap in one berth, from two weeks before the demo day to eight weeks after it. */
function makeStays(random: Random, berthRows: SeedRows['berths'], boatRows: SeedRows['boats']): SeedRows['stays'] {
  const rows: SeedRows['stays'] = [];
  const freeFrom = new Map<number, number>();
  while (rows.length < 160) {
    const berth = random.pick(berthRows);
    const fitting = boatRows.filter((boat) => boat.length <= berth.length);
    if (fitting.length === 0) continue;
    const start = (freeFrom.get(berth.id!) ?? -14) + random.between(0, 9);
    if (start > 56) continue;
    const nights = random.between(1, 10);
    freeFrom.set(berth.id!, start + nights);
    const status = start < 1 ? 'accepted' : random.pick(['accepted', 'accepted', 'requested', 'refused'] as const);
    rows.push({
      id: rows.length + 1,
      berthId: berth.id!,
      boatId: random.pick(fitting).id!,
      from: dayAfter(start),
      until: dayAfter(start + nights),
      status,
    });
  }
  return rows;
}

function makeArrivals(
  random: Random,
  berthRows: SeedRows['berths'],
  boatRows: SeedRows['boats'],
): SeedRows['arrivals'] {
  const midnight = Date.parse(`${demoDay}T00:00:00Z`);
  const rows: SeedRows['arrivals'] = [];
  for (let day = -29; day <= 0; day++) {
    const times = Array.from({ length: random.between(3, 7) }, () =>
      random.between(5 * 60, day === 0 ? 13 * 60 : 20 * 60),
    ).sort((a, b) => a - b);
    for (const minutes of times) {
      const boat = random.pick(boatRows);
      const berth = random.pick(berthRows.filter((one) => one.length >= boat.length));
      const at = new Date(midnight + day * 86_400_000 + minutes * 60_000).toISOString();
      rows.push({ id: rows.length + 1, boatId: boat.id!, berthId: berth.id!, at, lastPort: random.pick(ports) });
    }
  }
  return rows;
}

const remarks = [
  'Good shelter from the west, a little swell when the ferry passes.',
  'The cleats are further apart than you think. Bring a long spring line.',
  'Quiet at night. You hear the terns at four in the morning.',
  'We touched at low water with 1.8 metres. Ask at the office first.',
  'Best berth for the early sun.',
];
const answers = [
  'Same here, last August.',
  'Was that at springs? We had water enough.',
  'Thank you, that is good to know.',
  'The office lends spring lines.',
  'It was at springs, yes.',
];

/** A few remarks on every third berth, some with answers, and answers to these. */
function makeComments(random: Random, berthRows: SeedRows['berths']): SeedRows['comments'] {
  const rows: SeedRows['comments'] = [];
  const noon = Date.parse(`${demoDay}T12:00:00Z`);
  const say = (berthId: number, text: string, hoursAgo: number, to: number | null) => {
    const author = `${random.pick(firstNames)} ${random.pick(lastNames)}`;
    const at = new Date(noon - hoursAgo * 3_600_000).toISOString();
    rows.push({ id: rows.length + 1, berthId, answers: to, author, at, text });
    return rows.length;
  };
  for (const { id } of berthRows.filter((berth) => berth.id! % 3 === 0)) {
    for (let count = random.between(1, 3); count > 0; count--) {
      const hours = random.between(60, 900);
      const remark = say(id!, random.pick(remarks), hours, null);
      if (!random.chance(0.7)) continue;
      const answer = say(id!, random.pick(answers), hours - 20, remark);
      if (random.chance(0.6)) say(id!, random.pick(answers), hours - 31, answer);
    }
  }
  return rows;
}
