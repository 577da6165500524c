/** Entries → raw values → typed values → result. */

import {
  assertArgument,
  assertOptions,
  listOf,
  type OptionTable,
  someText,
  textOrURL,
} from '../../diagnostics/index.ts';
import { assertRequest, incomingOf } from '../../http/index.ts';
import { ownOptions } from '../../security/index.ts';
import { asksForChoices, type FormExchange } from '../binding/asked-choices.ts';
import { formDiagnostic } from '../diagnostics.ts';
import type { ReadRequestOptions } from '../form.ts';
import type { MessageCode } from '../messages/wording.ts';
import { definitionOf, type Readable, unsentForm } from '../own-form.ts';
import type { FormSettings } from '../settings.ts';
import { type Entries, type Entry, readEntries, urlEncodedEntries } from './entries.ts';
import { Reading, type ReadOptions } from './reading.ts';
import type { Sent, SentStatus } from './sent.ts';
import { handWritten } from './shown-fields.ts';

/** Reads entries into a form. */
export async function readForm<Name extends string, Input, Output>(
  readable: Readable<Name, Input, Output>,
  read: Entries,
  options: ReadOptions = {},
): Promise<Sent<Name, Input, Output>> {
  const reading = new Reading(unsentForm(readable), options);
  const sent = read.ok
    ? await reading.accept(read.entries, read.files)
    : await reading.refused(
        read.status,
        reading.word(read.reason, { label: '', limit: read.limit }),
        read.entries ?? [],
        read.files,
      );
  return sent as unknown as Sent<Name, Input, Output>;
}

/** The form with what was typed and a message of its own: for submissions that are not let in. */
export async function refusedForm<Name extends string, Input, Output>(
  readable: Readable<Name, Input, Output>,
  entries: readonly Entry[],
  status: SentStatus,
  reason: MessageCode | { text: string },
  options: Pick<ReadOptions, 'locale' | 'exchange' | 'state' | 'shown' | 'draft'>,
): Promise<Sent<Name, Input, Output>> {
  const reading = new Reading(unsentForm(readable), options);
  const text = typeof reason === 'string' ? reading.word(reason, { label: '' }) : reason.text;
  const sent = await reading.refused(status, text, entries, undefined, reason === 'sent-before');
  return sent as unknown as Sent<Name, Input, Output>;
}

/** Reads the query of a URL, by the same rules. */
export function readQuery<Name extends string, Input, Output>(
  readable: Readable<Name, Input, Output>,
  url: string | URL,
  { locale, exchange }: Pick<ReadOptions, 'locale' | 'exchange'> = {},
): Promise<Sent<Name, Input, Output>> {
  assertArgument('readQuery', 'URL', url, textOrURL);
  const definition = definitionOf(readable);
  const query = new URL(url, 'http://base.invalid').search.slice(1);
  return readForm(readable, urlEncodedEntries(query, definition.settings.limitsInForce), {
    locale,
    exchange: exchange ?? exchangeOf(url, definition.settings),
  });
}

/** Reads a request without a loom: for APIs and tests. No token is looked for, so `token: false` must say that this is meant. */
export async function readRequest<Name extends string, Input, Output>(
  readable: Readable<Name, Input, Output>,
  request: Request,
  options: ReadRequestOptions = {},
): Promise<Sent<Name, Input, Output>> {
  assertRequest(request);
  const definition = definitionOf(readable);
  assertOptions('read', options, readRequestOptionTable);
  const { token, only } = ownOptions(options);
  if (token !== false) {
    const { message, hint } = formDiagnostic('refused-reading');
    return refusedForm(readable, [], 403, { text: `${message} ${hint}` }, { exchange: plainExchange(request) });
  }
  const entries = await readEntries(incomingOf(request), definition.settings.limitsInForce);
  return readForm(readable, entries, {
    exchange: plainExchange(request),
    ...(only ? { shown: handWritten(only) } : {}),
  });
}

/** The same for a URL; a request is costly, and most definitions ask nobody. */
function exchangeOf(url: string | URL, settings: FormSettings): FormExchange | undefined {
  return asksForChoices(settings) ? plainExchange(new Request(new URL(url, 'http://base.invalid'))) : undefined;
}

/** Whom definitions ask where there is no loom. */
function plainExchange(request: Request): FormExchange {
  return { request, context: {} };
}

const readRequestOptionTable: OptionTable<ReadRequestOptions> = {
  token: { words: 'false, or leave it out', holds: (value) => value === false },
  only: listOf(someText),
};
