/** Lines for the log about data that was not printed as it came, in one list and one voice. The page goes on. */
import type { Notice } from './output.ts';
import { messageOf } from './thrown.ts';

export const notices = {
  blockedURL: (address: string, schemes: Iterable<string>): Notice => ({
    code: 'blocked-url',
    message: `An address was blocked: “${address.slice(0, 80)}”. Only ${[...schemes].join(', ')} and relative addresses pass.`,
    hint: 'Allow further schemes under “schemes” in the configuration, or give the whole address as trustedURL(…).',
  }),
  ledElsewhere: (address: string): Notice => ({
    code: 'blocked-url',
    message: `An address was blocked: “${address.slice(0, 80)}”. A value behind its beginning would lead it to another host.`,
    hint: 'Write the host as fixed text, give the whole address as one value, or as trustedURL(…).',
  }),
  dotSegment: (address: string): Notice => ({
    code: 'blocked-url',
    message: `An address was blocked: “${address.slice(0, 80)}”. A value makes a step of “.” or “..” in its path.`,
    hint: 'Give a value that is one segment of a path, not “.” or “..”.',
  }),
  droppedStyle: (name: string, text: string): Notice => ({
    code: 'dropped-style',
    message: `A value of “${name}” was dropped from a style: “${text.slice(0, 80)}”.`,
    hint: 'Give a number, or a string of letters, digits and plain signs.',
  }),
  droppedStyleList: (): Notice => ({
    code: 'dropped-style',
    message: 'A style from a list of attributes was dropped.',
    hint: 'Give an object of declarations.',
  }),
  undefinedValue: (place: string): Notice => ({
    code: 'undefined-value',
    message: `${place} prints undefined, so nothing stands there.`,
    hint: 'It is mostly a misspelled field; for a field that may be missing write ${field ?? null}.',
  }),
  caughtError: (error: unknown): Notice => ({
    code: 'caught-error',
    message: `(catch …) replaced what could not be written: ${messageOf(error)}`,
    hint: 'Mend the content of the (await …), or let it check what it is given.',
  }),
};
