/** What templates see as `context` where there is no request: what was given, and what every context has. */
import type { LoomContext } from '../../kernel/index.ts';

/** Marks a context of a request, which has its places already. */
export const ofRequest: unique symbol = Symbol('of a request');

/** Marks one that is the same for everybody. */
export const ofEverybody: unique symbol = Symbol('of everybody');

/** A class, for copying an object by spreading it takes twenty times as long. */
export class PlainContext implements LoomContext {
  locale: string;
  timeZone: string;
  page?: string;

  constructor(given: LoomContext, locale: string, timeZone: string, page: string | undefined) {
    this.locale = locale;
    this.timeZone = timeZone;
    if (page !== undefined) this.page = page;
    for (const name of Object.keys(given)) {
      if (name === 'locale' || name === 'timeZone' || name === 'page' || name === '__proto__') continue;
      (this as Record<string, unknown>)[name] = given[name as keyof LoomContext];
    }
  }
}
