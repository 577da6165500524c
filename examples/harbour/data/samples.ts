/** The harbour on its demo day: what the samples of its templates are made of. */
import { latestArrivals } from './arrivals.ts';
import { findBerth, searchBerths, staysOfBerth } from './berths.ts';
import { boatsByName, findBoat, listBoats } from './boats.ts';
import { demoDay, demoStart } from './calendar.ts';
import { commentsOfBerth } from './comments.ts';
import { openDatabase } from './database.ts';
import { dayInHarbour, staysToCome } from './stays.ts';

const { database, close } = await openDatabase();

/** Five arrivals before the demo day’s afternoon. */
export const arrivals = await latestArrivals(database, demoStart, 5);
export const arrival = arrivals[0]!;
export const firstBerths = await searchBerths(database, { free: false, page: 1 }, demoDay);
export const noBerths = await searchBerths(database, { q: 'Z', free: false, page: 1 }, demoDay);
export const berth = (await findBerth(database, 1, demoDay))!;
export const staysOfTheBerth = await staysOfBerth(database, berth.id, demoDay);
export const comments = await commentsOfBerth(database, berth.id);
export const boats = await listBoats(database, 1);
export const boat = (await findBoat(database, 1))!;
export const boatChoices = await boatsByName(database, 'te');
export const day = await dayInHarbour(database, demoDay);
export const staysOnDesk = await staysToCome(database, demoDay, 5);

await close();
