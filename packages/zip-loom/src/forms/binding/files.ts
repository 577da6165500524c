/** Files that a form shows: those that were sent and are kept for another try, and those that a model has. */
import type { MessageCode, MessageFacts } from '../messages/wording.ts';

/** A file of a model. */
export interface PresentFile {
  /** What visitors know it by. */
  name: string;
  /** Where it can be looked at. */
  url?: string | undefined;
}

/** A file that was sent and can be kept. */
export interface SentFile {
  name: string;
  /** Keeps it, and gives what takes its place in the next try. */
  receipt(): string;
}

/** A file as a template shows it. */
export interface ShownFile {
  name: string;
  url: string | undefined;
  /** It was sent with this try of the form, and need not be chosen again. */
  isKept: boolean;
  /** The visitor has asked for it to be removed. */
  isRemoved: boolean;
  /** A sentence that says what it is. */
  text: string;
  /** For the box that removes it. */
  removeLabel: string;
}

/** What a form knows of files. */
interface Known {
  files?: ReadonlyMap<string, readonly SentFile[]>;
  removed?: ReadonlySet<string>;
}

const none: readonly never[] = [];

export function filesShown(
  field: string,
  { files, removed }: Known,
  present: Readonly<Record<string, PresentFile | readonly PresentFile[] | null | undefined>> | undefined,
  word: (code: MessageCode, facts: MessageFacts) => string,
): readonly ShownFile[] {
  const sent = files?.get(field);
  if (sent && sent.length > 0)
    return sent.map(({ name }) => ({
      name,
      url: undefined,
      isKept: true,
      isRemoved: false,
      text: word('file-kept', { label: name }),
      removeLabel: word('file-remove', { label: name }),
    }));
  const own = present && Object.hasOwn(present, field) ? present[field] : undefined;
  if (!own) return none;
  const list: readonly PresentFile[] = 'name' in own ? [own] : own;
  return list.map(({ name, url }) => ({
    name,
    url,
    isKept: false,
    isRemoved: removed?.has(field) ?? false,
    text: word('file-present', { label: name }),
    removeLabel: word('file-remove', { label: name }),
  }));
}

/** What is sent with the next try in place of files. */
export function receiptsOf(files: Known['files'], field: string): string[] {
  return (files?.get(field) ?? none).map((file) => file.receipt());
}
