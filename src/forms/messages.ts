/** What forms say about what was typed, by code. A project words them anew, for all locales or for some. */

/** Numbers and names that a message may mention. */
export interface MessageFacts {
  label: string;
  limit?: number | undefined;
}

type MessageText = string | ((facts: MessageFacts) => string);

const defaultMessages = {
  required: 'This field is required.',
  'must-be-true': 'Please tick this box.',
  number: 'Please enter a number, such as 12 or 12.5.',
  integer: 'Please enter a whole number.',
  boolean: 'Please answer with yes or no.',
  date: 'Please enter a date that exists, such as 2026-06-12.',
  time: 'Please enter a time, such as 14:05.',
  'datetime-local': 'Please enter a date and a time that exist.',
  month: 'Please enter a month, such as 2026-06.',
  week: 'Please enter a week, such as 2026-W24.',
  choice: 'Please choose from the list.',
  'too-long': ({ limit = 0 }: MessageFacts) => `Please use at most ${count(limit, 'character')}.`,
  'file-type': 'This kind of file is not taken here.',
  'file-too-large': ({ limit = 0 }: MessageFacts) => `Please choose a file of at most ${size(limit)}.`,
  'file-quota': 'You have sent a lot of files in a short time. Please try again later.',
  'file-not-kept': 'The file could not be kept here. Please try again later.',
  'file-gone': 'The file that was sent before is gone. Please choose it again.',
  'file-kept': ({ label }: MessageFacts) => `${label} has arrived and need not be chosen again.`,
  'file-present': ({ label }: MessageFacts) => `Current file: ${label}`,
  'file-remove': ({ label }: MessageFacts) => `Remove ${label}`,
  'not-a-file': 'Please choose a file.',
  'too-many': ({ limit = 0 }: MessageFacts) => `Please give at most ${count(limit, 'item')}.`,
  'too-few': ({ limit = 0 }: MessageFacts) => `Please give at least ${count(limit, 'item')}.`,
  again: 'Please check the marked fields.',
  refused: 'This form was open for a long time, or was not sent from this site. Please send it again.',
  unknown: 'The form was sent with fields that it does not have.',
  'body-encoded': 'The form was sent in an encoding that is not read here.',
  'body-type': 'What was sent is not a form.',
  'body-used': 'The form was read already.',
  'body-late': 'The form took too long to arrive. Please send it again.',
  'body-cut-off': 'The form arrived only in part. Please send it again.',
  'body-unreadable': 'What was sent cannot be read.',
  'body-too-large': ({ limit = 0 }: MessageFacts) => `The form is larger than ${Math.round(limit / 1024)} KiB.`,
  'body-too-many': ({ limit = 0 }: MessageFacts) => `The form has more than ${count(limit, 'field')}.`,
  'body-files': 'Files are not taken here.',
  'too-many-files': ({ limit = 0 }: MessageFacts) => `Please send at most ${count(limit, 'file')} at once.`,
  'files-too-large': ({ limit = 0 }: MessageFacts) => `Please send files of at most ${size(limit)} at once.`,
  'name-too-long': ({ limit = 0 }: MessageFacts) => `The name of a field is longer than ${count(limit, 'character')}.`,
} satisfies Record<string, MessageText>;

function count(number: number, thing: string): string {
  return `${number} ${thing}${number === 1 ? '' : 's'}`;
}

/** Bytes in the unit that people know files by. */
function size(bytes: number): string {
  if (bytes < 1024) return count(bytes, 'byte');
  const [number, unit] = bytes < 1024 ** 2 ? [bytes / 1024, 'kB'] : [bytes / 1024 ** 2, 'MB'];
  return `${Number(number.toFixed(number < 10 ? 1 : 0))} ${unit}`;
}

export type MessageCode = keyof typeof defaultMessages;

export const messageCodes = Object.keys(defaultMessages) as readonly MessageCode[];

/** Words for some codes. */
type Wording = Partial<Record<MessageCode, MessageText>>;

/** Words for all locales, or by locale: `{ de: { required: '…' } }`. */
export type Messages = Wording | Readonly<Record<string, Wording>>;

/** The text for a code in a locale: the project’s own where there is one. */
export function wordingFor(
  messages: Messages | undefined,
  locale: string | undefined,
): (code: MessageCode, facts: MessageFacts) => string {
  const language = locale?.split('-')[0];
  const own = { ...plainWording(messages), ...byLocale(messages, language), ...byLocale(messages, locale) };
  return (code, facts) => {
    const text: MessageText = own[code] ?? defaultMessages[code];
    return typeof text === 'function' ? text(facts) : text;
  };
}

function plainWording(messages: Messages = {}): Wording {
  return Object.fromEntries(Object.entries(messages).filter(([, text]) => typeof text !== 'object')) as Wording;
}

function byLocale(messages: Messages = {}, locale: string | undefined): Wording {
  const found: unknown =
    locale !== undefined && Object.hasOwn(messages, locale) ? (messages as Record<string, unknown>)[locale] : undefined;
  return typeof found === 'object' && found !== null ? (found as Wording) : {};
}
