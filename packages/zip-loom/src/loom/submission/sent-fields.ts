/** A form that was written by hand, as it was sent: texts and files by name. */
import {
  type AnswerForError,
  type Entries,
  messagesAnswer,
  type SentStatus,
  type UploadedFile,
  wordingFor,
} from '../../forms/index.ts';

/** What `fields` gives: `ok` tells whether all of it was let in. What was typed is there in any case. */
export interface SentFields<Name extends string = string> {
  /** Whether everything was taken. */
  readonly ok: boolean;
  /** 200, or the status of the answer that says what is wrong. */
  readonly status: SentStatus;
  /** Texts by name, each as it was sent but for the ends of its lines; of several of one name the last. */
  readonly fields: Readonly<Partial<Record<Name, string>>>;
  /** Files by name; of several of one name the last. */
  readonly files: Readonly<Partial<Record<Name, UploadedFile>>>;
  /** All texts of a name, in their order. */
  allTexts(name: Name): string[];
  /** All files of a name, in their order. */
  allFiles(name: Name): UploadedFile[];
  /** Names → messages; `''` for what concerns all of it. */
  readonly errors: Readonly<Record<string, string[]>>;
  /** An answer for whoever wants to stop here: the status, and the messages in a page of the site. */
  readonly response: Response;
}

interface HowSent {
  /** Names that are read. */
  names: ReadonlySet<string>;
  /** Whether it did not come from a page of this site. */
  isRefused: boolean;
  locale: string | undefined;
  /** Names that take files. */
  fileNames: readonly string[];
  /** Makes the answer that says what is wrong. */
  answer: AnswerForError;
}

export function sentFields<Name extends string>(
  body: Entries,
  { names, isRefused, locale, answer, fileNames }: HowSent,
): SentFields<Name> {
  const word = wordingFor(undefined, locale);
  const texts = (body.entries ?? []).flatMap(
    ([name, value]): Array<[string, string]> => (names.has(name) ? [[name, value.replace(/\r\n?/g, '\n')]] : []),
  );
  const sent = body.ok && !isRefused ? (body.files ?? []) : [];
  const files = sent.flatMap(({ name, file }): Array<[string, UploadedFile]> => (file ? [[name, file]] : []));
  const errors: Record<string, string[]> = byName(
    sent.flatMap(
      ({ name, fault }): Array<[string, string[]]> =>
        fault ? [[name, [word(fault.code, { label: name, limit: fault.limit })]]] : [],
    ),
  );
  // Text in place of a file is what a form sends that was made for another encoding.
  for (const name of body.ok && !isRefused ? fileNames : [])
    if (!Object.hasOwn(errors, name) && texts.some(([one, text]) => one === name && text !== ''))
      errors[name] = [word('not-a-file', { label: name })];
  if (isRefused) errors[''] = [word('refused', { label: '' })];
  else if (!body.ok) errors[''] = [word(body.reason, { label: '', limit: body.limit })];
  const ok = Object.keys(errors).length === 0;
  const status = isRefused ? 403 : !body.ok ? body.status : ok ? 200 : 422;
  return {
    ok,
    status,
    fields: byName(texts) as SentFields<Name>['fields'],
    files: byName(files) as SentFields<Name>['files'],
    allTexts: (name) => texts.flatMap(([one, value]) => (one === name ? [value] : [])),
    allFiles: (name) => files.flatMap(([one, file]) => (one === name ? [file] : [])),
    errors,
    get response() {
      return messagesAnswer(errors, (name) => name, ok || status === 422 ? 400 : status, answer);
    },
  };
}

/** Names are the sender’s: nothing of an object’s own is among them. */
function byName<Value>(entries: ReadonlyArray<readonly [string, Value]>): Record<string, Value> {
  return Object.assign(Object.create(null) as Record<string, Value>, Object.fromEntries(entries));
}
