/** Changes by name as handlers write them, content first: `put('arrival-row', { arrival }).atStartOf('arrivals-rows')`. */
import type { TrustedMarkup } from '../../kernel/index.ts';
import { assertTarget, type Change, type Content, contentOf, newChange } from '../../updates/index.ts';
import type { DataOf, TemplateName } from '../program/typed-data.ts';

/** The argument after a template’s name, which may be left out where the template takes nothing. */
export type DataArgument<Taken> = Partial<Taken> extends Taken ? [data?: Taken] : [data: Taken];

/**
 * Content for the page: a template and its data, or trusted markup. What follows says where it goes. An element whose id, or whose
 * region, is on the page already takes the place of that one.
 * @throws {LoomError} for what is neither
 * @example put('arrival-row', { arrival }).atStartOf('arrivals-rows')
 */
export function put(markup: TrustedMarkup): Content;
export function put<Name extends TemplateName>(template: Name, ...data: DataArgument<DataOf<Name>>): Content;
export function put(what: string | TrustedMarkup, data?: object): Content {
  return contentOf(what, data);
}

/**
 * Takes a region, or the element with an id, from the page.
 * @throws {LoomError} for what can be neither
 * @example remove(`arrival-${id}`)
 */
export function remove(target: string): Change {
  return newChange({ kind: 'remove', target: assertTarget(target) });
}

/**
 * Has the browser ask for a region itself, so that each visitor gets what is theirs; for the whole page where the region is `page`.
 * @throws {LoomError} for what can be no region
 * @example reload('watchers')
 */
export function reload(region: string): Change {
  return newChange({ kind: 'reload', target: assertTarget(region) });
}

/** A page that an answer of changes ends with, or that those are given who run no client. Made by `exchange.page(…)`. */
export class PageToShow {
  readonly name: string;
  readonly data: object;

  constructor(name: string, data: object) {
    this.name = name;
    this.data = data;
  }
}

type Step = Change | PageToShow;

/** Changes at once, or as they come. */
export type Changes = Iterable<Step> | AsyncIterable<Step>;

/** Changes, or what makes them; its signal says that nobody reads on. */
export type ChangesSource = Changes | ((signal: AbortSignal) => Changes);
