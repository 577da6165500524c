/** The headers that keep a page to what it really uses: its Content-Security-Policy (CSP Level 3) and its neighbours. */

import { LoomError } from '../../diagnostics/index.ts';
import type { PageSources } from '../../kernel/index.ts';
import { answerDiagnostic } from '../respond/answer-diagnostics.ts';

/** Sources by directive, besides those that the compiler finds. */
export type PolicyAdditions = Readonly<Record<string, string | readonly string[]>>;

/** The option `policy`. */
export type PolicyOption =
  | 'strict'
  | {
      /** Sources by directive that are allowed too, such as `{ 'connect-src': 'wss://tides.example' }`. */
      add?: PolicyAdditions;
      /** Whether browsers only report what the policy would refuse. Default: `false`. */
      reportOnly?: boolean;
    };

/** A policy as the exchange uses it. */
export interface ContentPolicy {
  readonly headerName: string;
  /**
   * The header of a page.
   * @param nonce the nonce of its scripts and style sheets; without one they are told by their hashes
   */
  headerOf(sources: PageSources, nonce: string | undefined): string;
}

/** In the order in which they are written. Whatever is not named falls back to the first. */
const order = [
  'default-src',
  'script-src',
  'script-src-attr',
  'style-src',
  'style-src-attr',
  'img-src',
  'font-src',
  'media-src',
  'frame-src',
  'object-src',
  'connect-src',
  'manifest-src',
  'form-action',
  'base-uri',
  'frame-ancestors',
  'require-trusted-types-for',
  'trusted-types',
];

/**
 * The policy of a loom; `undefined` where none is wanted.
 * @param framesItself whether a template of the project shows a page of the site in a frame
 * @throws {LoomError} for additions that are none
 */
export function contentPolicy(option: PolicyOption | undefined, framesItself: boolean): ContentPolicy | undefined {
  if (option === undefined) return undefined;
  const { add = {}, reportOnly = false } = option === 'strict' ? {} : option;
  const additions = Object.entries(add).map(([name, given]) => [name, checked(name, given)] as const);
  return {
    headerName: reportOnly ? 'content-security-policy-report-only' : 'content-security-policy',
    headerOf(sources, nonce) {
      const directives = pageDirectives(sources, nonce, framesItself);
      for (const [name, more] of additions) {
        const known = directives.get(name)?.filter((source) => source !== "'none'") ?? [];
        directives.set(name, [...new Set([...known, ...more])]);
      }
      const names = [...order.filter((name) => directives.has(name)), ...directives.keys()];
      return [...new Set(names)].map((name) => [name, ...directives.get(name)!].join(' ')).join('; ');
    },
  };
}

function pageDirectives(
  { directives: found }: PageSources,
  nonce: string | undefined,
  framesItself: boolean,
): Map<string, readonly string[]> {
  const used = (name: string) => (Object.hasOwn(found, name) ? found[name]! : []);
  const has = (name: string) => Object.hasOwn(found, name);
  const bases = used('base-uri').filter((source) => source !== "'self'");
  const directives = new Map<string, readonly string[]>([['default-src', ["'none'"]]]);
  for (const name of ['script-src', 'style-src']) {
    if (!has(name)) continue;
    // With a nonce nothing else is needed: it is on each of them.
    directives.set(name, nonce === undefined ? withBases(used(name), bases) : [`'nonce-${nonce}'`]);
  }
  for (const name of Object.keys(found)) {
    if (!directives.has(name) && name !== 'base-uri' && used(name).length > 0)
      directives.set(name, withBases(used(name), bases));
  }
  // What style sheets and scripts of the site itself load is in their own files.
  if (has('style-src')) {
    directives.set('img-src', union(directives.get('img-src'), ["'self'", 'data:']));
    directives.set('font-src', union(directives.get('font-src'), ["'self'"]));
  }
  if (has('script-src')) directives.set('connect-src', union(directives.get('connect-src'), ["'self'"]));
  directives.set('form-action', has('form-action') ? withBases(used('form-action'), bases) : ["'none'"]);
  directives.set('base-uri', has('base-uri') ? used('base-uri') : ["'none'"]);
  if (!directives.has('object-src')) directives.set('object-src', ["'none'"]);
  directives.set('frame-ancestors', [framesItself ? "'self'" : "'none'"]);
  directives.set('require-trusted-types-for', ["'script'"]);
  directives.set('trusted-types', ['zip-loom']);
  return directives;
}

/** Relative URLs are those of the `<base>`. */
function withBases(sources: readonly string[], bases: readonly string[]): readonly string[] {
  return sources.includes("'self'") ? union(sources, bases) : sources;
}

function union(some: readonly string[] = [], others: readonly string[]): readonly string[] {
  return [...new Set([...some, ...others])];
}

/** CSP §2.2: names are words, and nothing in a source ends it. */
function checked(name: string, given: string | readonly string[]): readonly string[] {
  const sources = typeof given === 'string' ? given.split(' ').filter((source) => source !== '') : given;
  if (!/^[a-z-]+$/.test(name) || sources.some((source) => !/^[\x21-\x2b\x2d-\x3a\x3c-\x7e]+$/.test(source)))
    throw new LoomError(answerDiagnostic('invalid-policy', { directive: name }));
  return sources;
}
